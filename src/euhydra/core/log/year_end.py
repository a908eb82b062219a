"""What a year came to: water by its source, what it spared, what failed, what to do next year."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from euhydra.core.garden.model import Drain, Garden, day_of_year
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import Followed, followed
from euhydra.core.results.draws import taken_l_day
from euhydra.core.schedule.by_hand import CAN_L, CAN_MIN
from euhydra.core.season.spared import PRICE_M3
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.supply.greywater import by_weekday
from euhydra.core.weather import frost

if TYPE_CHECKING:
    from euhydra.core.results.results import Results


@dataclass(frozen=True)
class Source:
    """Litres that came from a source in a year, and how that is known."""

    name: str
    litres: float
    how: str
    spares_tap: bool


@dataclass(frozen=True)
class YearEnd:
    """A year in all. ``undipped`` names the banks that no dip was logged for: not counted."""

    year: int
    first: dt.date
    last: dt.date
    sources: tuple[Source, ...]
    undipped: tuple[str, ...]
    figures: tuple[Figure, ...]
    failed: tuple[Phrase, ...]
    lessons: tuple[Phrase, ...]


def years_of(entries: Sequence[Entry]) -> list[int]:
    """The years that something was logged in, the latest first."""
    return sorted({e.day.year for e in entries}, reverse=True)


def year_end(r: Results, entries: Sequence[Entry], year: int, today: dt.date) -> YearEnd | None:
    """What the log of a year comes to, from its first entry on; None where it has none."""
    mine = [e for e in entries if e.day.year == year and e.day <= today]
    if not mine:
        return None
    first = min(e.day for e in mine)
    last = min(today, dt.date(year, 12, 31))
    banks = [f for bank in r.banks.banks if (f := followed(r, bank, mine, first, last))]
    days = [first + dt.timedelta(days=n) for n in range((last - first).days + 1)]
    sources = tuple(_sources(r, banks, days))
    told = {f.bank.id for f in banks}
    return YearEnd(year, first, last, sources,
                   tuple(bank.name for bank in r.banks.banks if bank.id not in told),
                   tuple(_figures(sources, mine)), tuple(_failed(r.garden, banks, mine)),
                   tuple(lessons(r.garden, mine)))


def _sources(r: Results, banks: list[Followed], days: list[dt.date]) -> Iterator[Source]:
    for f in banks:
        since = (f"dips since {f.first.day} {f.first:%B}"
                 if r.flows.opens else "no timer’s valve opens")
        yield Source(f.bank.name, float(f.given_l.sum()), since, spares_tap=True)
    for tap in r.garden.standpipes:
        yield Source(tap.name, sum(taken_l_day(r, (tap.id,), day.month - 1) for day in days),
                     "by the timer's settings", spares_tap=not r.garden.on_mains(tap.id))
    for name, who in (("Wells", "well_l"), ("Taps, topping up", "tap_l")):
        topped = sum(float(getattr(f.backups, who).sum()) for f in banks)
        if topped > 0:
            share = who == "well_l" and any(well.share > 0 for well in r.garden.wells)
            yield Source(name, topped, "their share, and what stores lacked" if share else
                         "what stores lacked", spares_tap=who == "well_l")
    for drain in r.garden.drains:
        yield Source(drain.name, sum(_washed_l(r, drain, day) for day in days),
                     "by its uses a week", spares_tap=True)


def _washed_l(r: Results, drain: Drain, day: dt.date) -> float:
    """Litres of used water that plants got on a day: of a drum what its lines let through."""
    lines = r.drums.get(drain.id)
    if lines is None:
        led = drain.school == "basins" and bool(drain.basins)
        return float(by_weekday(drain)[day.weekday()]) if led else 0.0
    runs = frost.timer_days(r.garden.site)[day_of_year(f"{day:%m-%d}")]
    return float(lines.kept_l[day.month - 1, day.weekday()]) if runs else 0.0


def _figures(sources: tuple[Source, ...], entries: list[Entry]) -> Iterator[Figure]:
    spared = sum(s.litres for s in sources if s.spares_tap)
    given = sum(s.litres for s in sources)
    yield Figure("year_spared", "Tap water not bought", Amount(spared / 1000 * PRICE_M3, "money"),
                 Working("rain and used water given × the price of water", (
                     *(Term(s.name, Amount(s.litres, "volume"), s.how)
                       for s in sources if s.spares_tap),
                     Term("that much tap water costs", Amount(PRICE_M3, "money")),
                     Term("for", Amount(1000.0, "yearly"))),
                     "made-up price book", "from memory"))
    yield Figure("year_hours", "Hours with a can not spent",
                 Amount(given / CAN_L * CAN_MIN / 60, "hours"),
                 Working("all that was given ÷ a can × the minutes that a can takes", (
                     Term("given", Amount(given, "volume")), Term("a can", Amount(CAN_L, "volume")),
                     Term("a can takes", Amount(CAN_MIN, "minutes"))),
                     "2½ minutes to fill, carry and pour, from memory", "from memory"))
    picked = sum(e.value or 0.0 for e in entries if e.kind == "harvest")
    yield Figure("year_picked", "Picked", Amount(picked, "mass"), Working(
        "harvests added up", (), "your log", "your entry"))


def _failed(garden: Garden, banks: list[Followed], entries: list[Entry]) -> Iterator[Phrase]:
    for f in banks:
        lacking = f.backups.lacking_l
        if days := int((lacking > 0).sum()):
            yield say(f"{quoted(f.bank.name)}: on " + "{d} the timer wanted more than there was, "
                      "{v} in all.", d=Amount(days, "days"),
                      v=Amount(float(lacking.sum()), "volume"))
    names = {p.id: p.name for p in garden.plots}
    ill = Counter((e.about, e.word) for e in entries if e.kind == "leaf" and e.word != "well")
    for (about, word), times in sorted(ill.items()):
        yield Phrase(f"{quoted(names.get(about, about))}: leaves {quoted(word)}, seen "
                     f"{'once' if times == 1 else f'{times} times'}.")
    for e in entries:
        if e.kind == "repair":
            note = e.note.rstrip(" .")
            yield Phrase(f"Repair on {e.day.day} {e.day:%B}"
                         + (f": {quoted(note)}" if note else "") + ".")


def lessons(garden: Garden, entries: Sequence[Entry]) -> Iterator[Phrase]:
    """What the year taught: what was written down as such, and how far runs have moved."""
    for e in entries:
        if e.kind == "lesson" and e.note:
            yield Phrase(quoted(e.note))
    moved = {e.about for e in entries if e.kind == "changed"}
    for zone in garden.zones:
        if zone.id in moved and zone.longer:
            yield say(f"{quoted(zone.name)} wants runs " + "{x} "
                      f"{'longer' if zone.longer > 0 else 'shorter'} than reckoned.",
                      x=Amount(abs(zone.longer), "share"))
