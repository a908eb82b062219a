"""What readings teach, each beside its table, with its range; and as a value to take over."""

from __future__ import annotations

import datetime as dt
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from euhydra.core.garden.learnt import Learnt, source_of
from euhydra.core.garden.model import Roof, Zone
from euhydra.core.log.entries import Entry
from euhydra.core.log.learning.flows import FALL_SPREAD, FlowFit, fit_flow
from euhydra.core.log.learning.unknowns import LEAK_L, Unknown
from euhydra.core.log.learning.water import Fit, fit_water
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.supply.runoff import runoff_share, table_runoff

NARROWED = 0.65  # of the range before any reading: what is left wider taught nothing
THIRST_NAME = "The garden's thirst, against the tables"
LEAST_FLOWS = 2
LEAST_LEAK_L = 1.0  # a day; less is none, as far as a stick tells
FEW = "Too few readings yet: "
AT_ODDS = " Some readings contradict each other, so that the range is wider."


@dataclass(frozen=True)
class Lesson:
    """One thing that readings teach. ``learnt`` is None where they do not bear it: ``why`` says so.

    ``table`` is what stands in the tables, ``now`` what the garden reckons with, ``best`` what the
    readings say, ``low`` and ``high`` its 90 % range; all of a ``kind`` of unit. ``taken`` where it
    was taken over.
    """

    key: str
    name: Phrase
    kind: str
    table: float
    now: float
    best: float
    low: float
    high: float
    why: Phrase
    learnt: Learnt | None
    taken: bool = False

    @property
    def differs(self) -> bool:
        """Whether what the garden reckons with lies out of the range."""
        return self.learnt is not None and not self.low <= self.now <= self.high


def lessons(r: Results, entries: Sequence[Entry], today: dt.date) -> tuple[Lesson, ...]:
    """All that the log teaches up to a day."""
    past = [e for e in entries if e.day <= today]
    since = max((x.last for x in r.garden.learnt if x.moves_times), default=dt.date.min)
    found = (*_of_water(r, [e for e in past if e.day > since], today),
             *_of_flows(r, past, today))
    bear = {x.key for x in found if x.learnt}
    return (*(x for x in found if x.learnt or not x.taken),
            *(_as_taken(r, x) for x in r.garden.learnt if x.key not in bear))


def _as_taken(r: Results, x: Learnt) -> Lesson:
    """What was taken over, where readings since teach nothing more."""
    what = _what(r, x.key)
    stands = source_of(r.garden, x.paths[0]) == x.source
    return Lesson(x.key, *what, what[-1], x.low, x.high, Phrase(
        f"Taken over from {x.source}." + ("" if stands else " Typed otherwise since.")), None,
        taken=True)


def _what(r: Results, key: str) -> tuple[Phrase, str, float, float]:
    """What a lesson is called, its kind of unit, what stands in the tables, and what the garden
    reckons with.
    """
    what, _, of = key.partition("-")
    if what == "thirst":
        return Phrase(THIRST_NAME), "share", 1.0, r.garden.thirst
    zone = next((z for z in r.garden.zones if z.id == of), None)
    if what in ("flow", "falls"):
        name = quoted(zone.name if zone else of)
        if what == "falls":
            return (Phrase(f"{name} gives less each week, by"), "share", 0.0,
                    zone.falls_a_week if zone else 0.0)
        return (Phrase(f"{name} gives, just rinsed"), "flow", *(
            (r.flows[of]["half"].flow_l_h, r.flows.run_flow_l_h(zone)) if zone else (0.0, 0.0)))
    bank = r.banks.holding(of) if of in r.banks.of_store else None
    if what == "leak":
        return (Phrase(f"{quoted(bank.name if bank else of)} loses, beside what is drawn"),
                "daily", 0.0, bank.leak_l_day if bank else 0.0)
    roofs = _led_to(r, of)
    names = ", ".join(quoted(roof.name) for roof in roofs)
    return (Phrase(f"Of the rain on {names} comes"), "share",
            _mean(roofs, [table_runoff(roof, r.library) for roof in roofs]),
            _mean(roofs, [runoff_share(roof, r.library) for roof in roofs]))


def _led_to(r: Results, bank: str) -> list[Roof]:
    """The roofs that are led to a bank."""
    if bank not in r.banks.of_store:
        return []
    return r.garden.roofs_to({store.id for store in r.banks.holding(bank).stores})


def _mean(roofs: Sequence[Roof], shares: Sequence[float]) -> float:
    """A mean over roofs by their area."""
    areas = [roof.area_m2 for roof in roofs]
    return sum(x * a for x, a in zip(shares, areas, strict=True)) / max(sum(areas), 1e-9)


def _taken(r: Results, key: str) -> bool:
    return any(x.key == key for x in r.garden.learnt)


def _of_water(r: Results, past: Sequence[Entry], today: dt.date) -> Iterator[Lesson]:
    fit = fit_water(r, past, today)
    if fit is None:
        return
    told = {"thirst": _thirst, "runoff": _runoff, "leak": _leak}
    for unknown in fit.unknowns:
        if unknown.kind in told:
            lesson = told[unknown.kind](r, fit, unknown)
            yield lesson if fit.found.part == 1 else replace(lesson, why=Phrase(
                lesson.why.template + AT_ODDS, lesson.why.amounts))


def _told(fit: Fit, unknown: Unknown) -> tuple[float, float, float]:
    told = fit.range_of(unknown.kind, unknown.at)
    if told is None:
        raise KeyError(unknown.kind)
    return told


def _bears(unknown: Unknown, low: float, high: float, table: float) -> bool:
    """Whether readings left a much narrower range than there was before, or one without the
    table's value.
    """
    before_low, before_high = unknown.before
    return high - low < NARROWED * (before_high - before_low) or not low <= table <= high


def _learnt(fit: Fit, key: str, set_to: dict[str, float], span: tuple[float, float], readings: int
            ) -> Learnt:
    return Learnt(key=key, paths=tuple(set_to), values=tuple(set_to.values()),
                  first=fit.past.first, last=fit.past.last, readings=readings, low=span[0],
                  high=span[1])


def _thirst(r: Results, fit: Fit, unknown: Unknown) -> Lesson:
    best, low, high = _told(fit, unknown)
    felt, dips = len(fit.past.felt), len(fit.past.dips)
    bears = _bears(unknown, low, high, 1.0)
    return Lesson(
        "thirst", *_what(r, "thirst"), best, low, high,
        say("Soil or leaves felt {f:time|times}, {d:dip|dips} held against what came and went.",
            f=Amount(felt, "count"), d=Amount(dips, "count")) if bears else
        Phrase(FEW + "feel the soil of some plots each week, two days after a run."),
        _learnt(fit, "thirst", {"thirst": round(best, 3)}, (low, high), felt + dips)
        if bears else None,
        _taken(r, "thirst"))


def _runoff(r: Results, fit: Fit, unknown: Unknown) -> Lesson:
    bank = r.banks.banks[unknown.at]
    key, roofs, told = f"runoff-{bank.id}", _led_to(r, bank.id), _told(fit, unknown)
    what = _what(r, key)
    tables = [table_runoff(roof, r.library) for roof in roofs]
    best, low, high = (min(x * what[2], 1.0) for x in told)
    dips = sum(d.bank == unknown.at for d in fit.past.dips)
    bears = _bears(unknown, told[1], told[2], 1.0)
    return Lesson(
        key, *what, best, low, high,
        say("{d:dip|dips} of " + quoted(bank.name) + " held against {mm} of rain that was logged.",
            d=Amount(dips, "count"), mm=Amount(float(fit.past.rain_mm.sum()), "rain")) if bears
        else Phrase(FEW + f"dip {quoted(bank.name)} before and after rain, and log that."),
        _learnt(fit, key, {f"roofs/{roof.id}/own_runoff": round(min(told[0] * t, 1.0), 3)
                           for roof, t in zip(roofs, tables, strict=True)}, (low, high), dips)
        if bears else None, _taken(r, key))


def _leak(r: Results, fit: Fit, unknown: Unknown) -> Lesson:
    bank = r.banks.banks[unknown.at]
    best, low, high = _told(fit, unknown)
    if low < LEAST_LEAK_L:
        low = best = 0.0  # it may be none
    dips, key = sum(d.bank == unknown.at for d in fit.past.dips), f"leak-{bank.id}"
    bears = _bears(unknown, low, high, LEAK_L[0])
    each = [round(best, 1), *[0.0] * (len(bank.stores) - 1)]  # which of them is not known
    return Lesson(
        key, *_what(r, key), best, low, high,
        say("{d:dip|dips}, a week's fall each against what the timer takes.",
            d=Amount(dips, "count")) if bears else
        Phrase(FEW + f"dip {quoted(bank.name)} each week, also when nothing is drawn."),
        _learnt(fit, key, {f"stores/{store.id}/leak_l_day": litres for store, litres in zip(
            bank.stores, each, strict=True)}, (low, high), dips) if bears else None,
        _taken(r, key))


def _of_flows(r: Results, past: Sequence[Entry], today: dt.date) -> Iterator[Lesson]:
    for zone in r.garden.timed_zones:
        fit = fit_flow(r, zone, past, today)
        if fit is not None:
            yield _flow(r, zone, fit)
            yield _falls(r, zone, fit)


def _flow(r: Results, zone: Zone, fit: FlowFit) -> Lesson:
    best, low, high = fit.flow
    key, bears = f"flow-{zone.id}", fit.readings >= LEAST_FLOWS
    return Lesson(
        key, *_what(r, key), best, low, high,
        say("{n:reading|readings} by jug or meter; with half the water.",
            n=Amount(fit.readings, "count")) if bears else
        Phrase(FEW + "read it by jug or meter once more."),
        _read(fit, key, {"read_l_h": round(best, 2), "read_at": 0.5}, (low, high))
        if bears else None, _taken(r, key))


def _falls(r: Results, zone: Zone, fit: FlowFit) -> Lesson:
    key = f"falls-{zone.id}"
    best, low, high = fit.falls or (0.0, 0.0, FALL_SPREAD * 2)
    return Lesson(
        key, *_what(r, key), best, low, high,
        say("{n:reading|readings} since its filter was rinsed.", n=Amount(fit.readings, "count"))
        if fit.falls else Phrase(FEW + "three by jug, over two weeks or more between two rinses."),
        _read(fit, key, {"falls_a_week": round(best, 4)}, (low, high)) if fit.falls else None,
        _taken(r, key))


def _read(fit: FlowFit, key: str, values: dict[str, float], span: tuple[float, float]) -> Learnt:
    return Learnt(key=key, paths=tuple(f"zones/{fit.zone.id}/{name}" for name in values),
                  values=tuple(values.values()), first=fit.first, last=fit.last,
                  readings=fit.readings, low=span[0], high=span[1])
