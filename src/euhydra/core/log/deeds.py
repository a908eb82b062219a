"""The things to do on a morning, each by a rule of its own."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from euhydra.core.garden.model import Zone
from euhydra.core.log.advice import decline, delays_h, held, rain_of_late_mm, rinse_by
from euhydra.core.log.coming import coming
from euhydra.core.log.days_ahead import Opening
from euhydra.core.log.entries import Entry
from euhydra.core.log.levels import dip_m
from euhydra.core.log.now import Forecast, Now
from euhydra.core.results.results import Results
from euhydra.core.season.state import SAME
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

DIP_EVERY_DAYS = 7  # common practice: once a week
DRY, SURELY_DRY = 0.5, 0.8  # shares of the years; the more are run for, the less are felt first
WEEK_DAYS = 6


@dataclass(frozen=True)
class Deed:
    """Something to do today: its rule, what, why, and which entry of the log says it was done.

    ``done`` is what that entry holds where it is known beforehand; without a ``kind`` no entry
    says it.
    """

    rule: str
    what: Phrase
    why: Phrase
    kind: str
    about: str = ""
    done: Amount | None = None


@dataclass(frozen=True)
class Hold:
    """A zone whose run of today can wait for hours, since so much rain fell, or is forecast."""

    zone: Zone
    mm: float
    hours: int
    forecast: bool


@dataclass(frozen=True, eq=False)
class Case:
    """A garden on a morning: how it stands, its log up to then, rain to come, what is opened."""

    r: Results
    entries: Sequence[Entry]
    today: dt.date
    now: Now
    forecast: Forecast
    openings: tuple[Opening, ...]

    def done(self, kind: str, about: str) -> bool:
        """Whether the log has it that something was done today."""
        return any(e.kind == kind and e.about == about and e.day == self.today
                   for e in self.entries)


def _hold(case: Case) -> list[Deed]:
    """Rain of the last days lets the timer wait."""
    return [Deed("today.hold", f.title, f.why, "")
            for f in held(case.r, case.entries, case.today)[:1]
            if any(on[case.now.day] for on in case.r.schedule.timer_days.values())]


def _hold_for(case: Case) -> list[Deed]:
    """Rain that is forecast by tomorrow lets a zone wait whose roots have enough until then."""
    waits, comes = [h.zone for h in holds_of(case) if h.forecast], _comes_mm(case)
    if not waits:
        return []
    return [Deed("today.hold-for", say(f"Hold {', '.join(quoted(z.name) for z in waits)} today."),
                 say("{mm} of rain is forecast, and the roots have enough until then.",
                     mm=Amount(comes, "rain")), "", waits[0].id)]


def _comes_mm(case: Case) -> float:
    """Rain that is forecast for today and tomorrow."""
    return sum(case.forecast.get(case.today + dt.timedelta(days=n), 0.0) for n in (0, 1))


def holds_of(case: Case) -> tuple[Hold, ...]:
    """The zones that are opened today and can wait: for rain of late, else for rain to come."""
    opened = {o.of for o in case.openings if not o.by_hand}
    fell, comes = rain_of_late_mm(case.entries, case.today), _comes_mm(case)
    after, before = (delays_h(case.r, mm, case.today.month - 1) for mm in (fell, comes))
    dry = {case.r.season.world.plots[p] for p in dry_plots(case)}
    found = []
    for zone in (z for z in case.r.garden.timed_zones if z.id in opened):
        if zone.id in after:
            found.append(Hold(zone, fell, after[zone.id], forecast=False))
        elif zone.id in before and not dry & set(zone.plots):
            found.append(Hold(zone, comes, before[zone.id], forecast=True))
    return tuple(found)


def _run(case: Case) -> list[Deed]:
    """A zone with a plot that is dry in nearly every year, and that its timer leaves shut today."""
    world, found = case.r.season.world, []
    opened = {o.of for o in case.openings}
    for zone in case.r.garden.timed_zones:
        dry = [p for p in dry_plots(case, SURELY_DRY) if world.plots[p] in zone.plots]
        setting = case.r.schedule.setting_in(zone.id, case.today.month - 1)
        if (not dry or zone.id in opened or setting is None or zone.id in case.r.flows.shut
                or case.done("water", zone.id)):
            continue
        litres = case.r.flows.run_flow_l_h(zone) * setting.minutes / 60
        if litres > _at_hand(case, zone):
            continue
        found.append(Deed(
            "today.run", say(f"Run {quoted(zone.name)}: {{m:minute|minutes}}, {{v}}.",
                             m=Amount(setting.minutes, "count"), v=Amount(litres, "volume")),
            say(f"{quoted(world.names[dry[0]])} has " + "{x} of its water left, and the timer "
                "leaves it today.", x=Amount(_left(case, dry[0]), "share")),
            "water", zone.id, Amount(litres, "volume")))
    return found


def _at_hand(case: Case, zone: Zone) -> float:
    """Litres that a zone's source has; a tap, a well or one that is filled in for has any."""
    world, bank = case.r.season.world, case.r.banks.of_store.get(zone.source)
    if bank is None or world.tapped[bank] or any(to == bank for _, to in world.well_to):
        return np.inf
    return float(case.now.level[bank])


def _left(case: Case, plot: int) -> float:
    """What share of what a plot's roots hold is there, in the middle of the years."""
    hold = float(case.r.season.world.hold[plot, case.now.day])
    lacks = float(np.median(case.now.depletion[plot]))
    return min(max(1 - lacks / max(hold, SAME), 0.0), 1.0)


def _water(case: Case) -> list[Deed]:
    """What is watered by hand and is to be watered today."""
    found = []
    for one in case.openings:
        if not one.by_hand or case.done("water", one.of):
            continue
        litres = Amount(one.litres, "volume")
        found.append(Deed("today.water", say(
            f"Water {quoted(one.name)}: {{v}}.", v=litres), say(
                "By hand; it wants that today."), "water", one.of, litres))
    return found


def _dip(case: Case) -> list[Deed]:
    """A store that nobody has dipped in a week."""
    found = []
    for n, bank in enumerate(case.r.banks.banks):
        since = case.now.dipped[n]
        if case.r.season.world.out[n, case.now.day] or (
                since is not None and since < DIP_EVERY_DAYS):
            continue
        why = (say("{d} since the last.", d=Amount(since, "days")) if since is not None
               else say("Nobody has lately; then what is left is known."))
        found.append(Deed("today.dip", say(f"Dip {quoted(bank.stores[0].name)}."), why, "dip",
                          bank.stores[0].id))
    return found


def _fill(case: Case) -> list[Deed]:
    """A tank that is filled by hand, and holds no more than it is filled again under."""
    found = []
    for n, bank in enumerate(case.r.banks.banks):
        under, level = case.r.season.world.filled_at[n], float(case.now.level[n])
        if under <= 0 or level >= under or case.r.season.world.out[n, case.now.day]:
            continue
        store = bank.stores[0]
        full = Amount(dip_m(bank, store, bank.usable_l), "small")
        found.append(Deed(
            "today.fill", say(f"Fill {quoted(store.name)}: {{v}}.",
                              v=Amount(bank.usable_l - level, "volume")),
            say("It holds {x}, less than it is filled again under.", x=Amount(level, "volume")),
            "dip", store.id, full))
    return found


def _rinse(case: Case) -> list[Deed]:
    """A filter whose zone's readings have fallen as far as is good for it."""
    found = []
    for zone in case.r.garden.timed_zones:
        told, by = decline(zone, case.entries), rinse_by(zone, case.entries)
        why = (say("It gives {x} less than when first read.", x=Amount(
            1 - told.last_l_h / told.first_l_h, "share")) if told else
            say("It loses {x} of its flow each week: down to seven tenths by now.",
                x=Amount(zone.falls_a_week, "share")))
        if by and by <= case.today and not case.done("filter", zone.id):
            found.append(Deed("today.rinse", say(f"Rinse the filter of {quoted(zone.name)}."), why,
                              "filter", zone.id))
    return found


def _due(case: Case) -> list[Deed]:
    """What falls due within the week, the first of it."""
    falls = [(n, d) for n, d in coming(case.r, (), case.today, WEEK_DAYS)]
    return [Deed("today.due", Phrase(f"{quoted(d.title)}."),
                 say("It falls due {d}.", d=Amount((case.now.day + n) % 365, "date"))
                 if n else say("It falls due today."), "") for n, d in falls[:1]]


def _feel(case: Case) -> list[Deed]:
    """The plot whose roots lack more than is easily had in most of the years, the driest first."""
    world = case.r.season.world
    return [Deed("today.feel", say(f"Feel {quoted(world.names[p])}, a hand deep."),
                 say("By now its roots may lack more than they easily have."), "soil",
                 world.plots[p]) for p in dry_plots(case)[:1]]


def dry_plots(case: Case, share: float = DRY) -> list[int]:
    """Plots whose roots lack more than is easily had in such a share of years, driest first."""
    world, day = case.r.season.world, case.now.day
    dry = (case.now.depletion > world.ready[:, :, day]).mean(axis=1)
    asked = world.grows[:, day] & ~world.always_on
    order = np.argsort(-dry, kind="stable").tolist()
    return [p for p in order if asked[p] and dry[p] > share]


RULES: dict[str, Callable[[Case], list[Deed]]] = {
    "hold": _hold, "hold-for": _hold_for, "run": _run, "fill": _fill, "water": _water,
    "rinse": _rinse, "dip": _dip, "feel": _feel, "due": _due}
