"""A garden with no store but a tank filled by hand is told of tanks; one with barrels, of those."""

import re

import pytest

from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.construction.care import due
from gardens import poured


def all_words(a):
    for key in STATIONS:
        report = a.station(key)
        yield report.verdict.show("metric")
        for figure in report.figures:
            yield figure.name
            yield figure.working.formula
            yield from (term.name for term in figure.working.terms)
        for finding in report.findings:
            yield finding.title.show("metric")
            yield finding.why.show("metric")
    for one in due(a.garden, a.schedule):
        yield f"{one.title}. {one.words}"


@pytest.mark.parametrize(("waters", "word", "other"), [(("tank",), "tank", "barrel"),
                                                       (("roof",), "barrel", "tank")])
def test_every_station_calls_the_stores_what_they_are(library, waters, word, other):
    a = assess(poured(library, waters=waters, fall_m=-0.3), library)
    words = list(all_words(a))
    assert any(re.search(rf"\b{word}s?\b", text, re.IGNORECASE) for text in words)
    said = [text for text in words if re.search(rf"\b{other}s?\b", text, re.IGNORECASE)]
    assert said == [], said
