"""The garden on a day, and its year in numbers for the page's script."""

from __future__ import annotations

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.assessment.assess import Assessment
from euhydra.core.daily.beside import differences, same_year
from euhydra.core.daily.thirst import Lead
from euhydra.core.daily.told import Told, day_told
from euhydra.core.daily.year import Year, named_years
from euhydra.core.garden.base import month_day
from euhydra.core.log.so_far import so_far
from euhydra.core.log.this_year import this_year
from euhydra.core.stations.place import year_name
from euhydra.web.drawings import alive as draw
from euhydra.web.drawings import year_strip
from euhydra.web.drawings.prove import STARTS
from euhydra.web.look import Look
from euhydra.web.morning import Morning, morning, stands
from euhydra.web.sheet import Sheet
from euhydra.web.still import untouched

THIS = "this"  # the year that is under way, as an address names it


@dataclass(frozen=True)
class Sentence:
    """A sentence of the day, what it is about, and the address that can change it."""

    about: str
    words: str
    to: str
    where: str


@dataclass(frozen=True)
class DayWords:
    """A day in words, and the picture as a table: what, how it stands, left, came.

    ``beside`` is what differs from another garden, ``other`` what that is called.
    """

    date: str
    of_year: str
    head: str
    sentences: list[Sentence]
    rows: list[tuple[str, str, str, str]]
    other: str
    beside: list[str]


@dataclass(frozen=True)
class Other:
    """Another garden on the same playhead: its picture and its year, where its numbers are."""

    id: str
    name: str
    picture: Markup
    strip: Markup
    numbers: str
    own: str


@dataclass(frozen=True)
class Alive:
    """What the page of a garden on a day shows.

    ``years`` are those to choose from as (address, words, chosen); ``numbers``, ``words`` and
    ``own`` where the script asks for the year's numbers, a day's words, a thing's own year;
    ``others`` the gardens that it may stand beside, ``other`` the one that it does.
    """

    day: int
    begins: int
    told: DayWords
    picture: Markup
    still: Markup
    strip: Markup
    years: list[tuple[str, str, bool]]
    numbers: str
    words: str
    own: str
    files: tuple[tuple[str, str], ...]
    others: list[tuple[str, str, bool]]
    other: Other | None
    today: Morning | None


def year_asked(a: Assessment, asked: str) -> int:
    """The water year that an address names: by a word or by its number from 1; else the typical."""
    named = named_years(a)
    if asked in named:
        return named[asked]
    if asked.isdecimal() and len(asked) < 5 and 1 <= int(asked) <= a.years:
        return int(asked) - 1
    return named["typical"]


def words_of(a: Assessment, which: int, asked: str) -> str:
    """What a year is called: ``a typical year``, or its own name."""
    named = named_years(a)
    if asked == THIS:
        return "this year"
    if asked in named or which == named["typical"]:
        return f"a {asked if asked in named else 'typical'} year"
    return year_name(a, which)


def year_of(a: Assessment, look: Look) -> Year:
    """The year that is asked for; where no day is, one with this morning in it."""
    if look.asked_day or a.today is None or look.year == THIS:
        return the_year(a, look)
    return this_year(a, a.log, a.today, year_asked(a, look.year), a.forecast, a.stands)


def the_year(a: Assessment, look: Look) -> Year:
    """The year that is asked for, as it was reckoned, or as far as it has gone by the log."""
    if look.year == THIS and a.today:
        return so_far(a, a.log, a.today, a.forecast, a.stands)
    return Year(a, year_asked(a, look.year))


def day_words(sheet: Sheet, look: Look) -> DayWords:
    """The day that is asked for, in words."""
    a = sheet.assessment
    which = year_asked(a, look.year)
    year, day = the_year(a, look), look.today
    told = day_told(year, day)
    theirs = same_year(year, Year(sheet.other, 0)) if sheet.other else None
    return DayWords(
        units.show_date(day), words_of(a, which, look.year), told.head.show(sheet.system),
        [_sentence(a, one, look) for one in told.told], stands(sheet, year, day),
        sheet.other.garden.name if sheet.other else "",
        [d.words.show(sheet.system) for d in differences(year, theirs, day)] if theirs else [])


def alive(sheet: Sheet, look: Look, on: int) -> Alive:
    """The garden on the day, and in the year, that are asked for; ``on`` is its change."""
    a, day = sheet.assessment, look.today
    which = year_asked(a, look.year)
    year = year_of(a, look)
    base = f"/g/{a.garden.id}/garden"
    query = urlencode({k: v for k, v in (("year", look.year), ("other", look.other)) if v})
    other = _other(sheet, year, look) if sheet.other else None
    return Alive(
        day=day, today=morning(sheet, look, year),
        other=other, others=_others(sheet, look),
        begins=STARTS[a.demand.shown_from], told=day_words(sheet, look),
        picture=(drawn := draw.picture(sheet, year, day)), still=untouched(drawn),
        strip=year_strip.strip(sheet, year, day),
        years=_years(a, which, look), numbers=f"{base}/year?{query}&on={on}",
        words=f"{base}/day?{query}", own=f"{base}/own?{query}", files=_files(a, look))


def _other(sheet: Sheet, year: Year, look: Look) -> Other:
    """The other garden in this one's units, in the same year."""
    assert sheet.other is not None  # noqa: S101  asked before
    theirs = same_year(year, Year(sheet.other, 0))
    shown = replace(sheet, assessment=sheet.other, other=None, units=sheet.system)
    base = f"/g/{sheet.other.garden.id}/garden"
    query = urlencode({"year": str(theirs.which + 1), "units": sheet.system})
    return Other(sheet.other.garden.id, sheet.other.garden.name,
                 draw.picture(shown, theirs, look.today),
                 year_strip.strip(shown, theirs, look.today), f"{base}/year?{query}",
                 f"{base}/own?{query}")


def _others(sheet: Sheet, look: Look) -> list[tuple[str, str, bool]]:
    """The gardens to stand beside, first none, as (address, words, chosen)."""
    asked = {"year": look.year, "day": month_day(look.today)}
    base = f"/g/{sheet.garden.id}/garden?"
    picked = sheet.other.garden.id if sheet.other else ""
    return [(base + urlencode({k: v for k, v in (asked | {"other": key}).items() if v}), words,
             key == picked) for key, words in (("", "alone"), *(
                 (key, f"beside {name}") for key, name in sheet.gardens))]


def _files(a: Assessment, look: Look) -> tuple[tuple[str, str], ...]:
    """The day and the year as files to show someone."""
    asked = {"year": look.year, "day": month_day(look.today) if look.asked_day else ""}
    query = urlencode({k: v for k, v in asked.items() if v})
    base = f"/g/{a.garden.id}/export"
    return (("The day as an image", f"{base}/day.png?{query}"),
            ("The day as a drawing", f"{base}/day.svg?{query}"),
            ("The year as a film", f"{base}/year.svg?{query}"))


def _years(a: Assessment, which: int, look: Look) -> list[tuple[str, str, bool]]:
    """The years to choose from: the named ones, then each."""
    named, at = named_years(a), month_day(look.today)
    by_name = look.year in named or look.year in ("", THIS)
    base = f"/g/{a.garden.id}/garden?"

    def address(year: str) -> str:
        beside = {"other": look.other} if look.other else {}
        return base + urlencode({"year": year, "day": at} | beside)

    chosen = look.year or "typical"
    return [
        (base + urlencode({"year": THIS}), "this year so far", chosen == THIS),
        *((address(name), f"a {name} year", by_name and chosen == name) for name in named),
        *((address(str(n + 1)), year_name(a, n), not by_name and n == which)
          for n in range(a.years))]


def _sentence(a: Assessment, one: Told, look: Look) -> Sentence:
    system = a.garden.units
    return Sentence(one.about, one.words.show(system), address_of(a, one.lead, look),
                    a.station(one.lead.station).name)


def address_of(a: Assessment, lead: Lead, look: Look) -> str:
    """Where a sentence leads, with the day and the year kept."""
    asked = {"view": lead.view, "zone": lead.zone, "plot": lead.plot, "store": lead.store,
             "year": look.year, "day": month_day(look.today)}
    return f"/g/{a.garden.id}/{lead.station}?" + urlencode({k: v for k, v in asked.items() if v})
