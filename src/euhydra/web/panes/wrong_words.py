"""A case of something wrong in words: causes, what is asked for, what was read."""

from __future__ import annotations

from euhydra.core.advise.diagnosing.found import Fault, Suspects
from euhydra.web.sheet import Sheet


def in_words(sheet: Sheet, fault: Fault) -> str:
    """A cause as a sentence."""
    return sentence(fault.brief.show(sheet.system))


def sentence(words: str) -> str:
    """Words with a capital at first."""
    return words[0].upper() + words[1:]


def asked(sheet: Sheet, suspects: Suspects, key: str) -> str:
    """What a reading asks for."""
    reading = suspects.reading(key)
    return reading.ask.show(sheet.system) if reading else ""


def said(sheet: Sheet, suspects: Suspects, key: str, answer: float | str) -> str:
    """What was read, in the units shown."""
    reading = suspects.reading(key)
    if isinstance(answer, str) or reading is None:
        return str(answer)
    return sheet.show(answer, reading.kind)
