"""What Time finds amiss with timers: what one cannot be set to, hours, valves, moved hoses."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from euhydra.core.advise.other_timers import other_timers, timers_opening
from euhydra.core.editing.edits import Edit, Remove, Together
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Timer, Zone
from euhydra.core.layout import capacity
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy
from euhydra.core.stations.place import MONTHS

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

ROUGH = 0.15  # a rounding left over of more than this share is told


def of_timers(r: Results, month: int, hours: float) -> list[Finding]:
    """All of it in a month; ``hours`` is what the timed zones run a day between them."""
    return [*_cannot_hold(r), *_window(r, month, hours), *_rounding(r, month),
            *_evening(r, month), *_pulses(r, month),
            *(f for timer in r.garden.timers for f in _of_one(r, timer, month))]


def _of_one(r: Results, timer: Timer, month: int) -> list[Finding]:
    """What is amiss with one timer and its valves or hoses."""
    if not r.garden.zones_of(timer):
        return [Finding(
            "time.idle-timer", "note", Phrase(f"{quoted(timer.name)} opens nothing"),
            Phrase("Give it a zone under Timers, or take it away: what opens nothing is not "
                   "bought."),
            (Remedy(f"without-{timer.id}", Phrase("Take it away"), Phrase("nothing changes"),
                    Remove(f"timers/{timer.id}")),))]
    if timer.moved:
        return [*_waits(r, timer, month), *_two_hoses(r, timer, month),
                *_programs(r, timer, month)]
    return _one_with_valves(r, timer)


def _waits(r: Results, timer: Timer, month: int) -> list[Finding]:
    """Hoses whose zones cannot wait for the day on which they hang on the timer again."""
    names = {zone.id: zone.name for zone in r.garden.zones}
    waiting = [names[zone] for turn in r.schedule.turns(timer, month) if not turn.waits
               for zone in turn.zones]
    if not waiting:
        return []
    more = f" and {len(waiting) - 1} more" if len(waiting) > 1 else ""
    return [Finding(
        "time.hose-waits", "care",
        Phrase(f"{quoted(waiting[0])}{more} cannot wait for the hose in {MONTHS[month]}"),
        Phrase("Between the days on which it hangs on the timer its roots run dry. A valve of its "
               "own opens as often as they ask."),
        (_a_valve_each(timer),))]


def _a_valve_each(timer: Timer) -> Remedy:
    return Remedy(f"valves-{timer.id}", Phrase("A valve for each zone"),
                  Phrase("nothing to move by hand"), SetValue(f"timers/{timer.id}/hoses", 0))


def _two_hoses(r: Results, timer: Timer, month: int) -> list[Finding]:
    """Two hoses at once that ask more than their tap, pump or pipe carries."""
    zones = {zone.id: zone for zone in r.garden.zones}
    worst: tuple[float, float] | None = None
    for turn in r.schedule.turns(timer, month):
        first = zones[turn.zones[0]]
        both = sum(r.flows.run_flow_l_h(zones[z]) for z in turn.zones)
        most = capacity.carries_l_h(r.garden, r.library, first.source, first.supply_tube)
        if len(turn.zones) > 1 and both > most and (worst is None or both > worst[0]):
            worst = both, most
    if worst is None:
        return []
    return [Finding(
        "time.two-hoses", "care",
        say(f"Two hoses at once on {quoted(timer.name)} ask {{q}}; {{m}} can be had",
            q=Amount(worst[0], "flow"), m=Amount(worst[1], "flow")),
        Phrase("Both then give less than was reckoned, and the farther one least."),
        (Remedy(f"one-hose-{timer.id}", Phrase("One hose at a time"), Phrase("each gives its own"),
                SetValue(f"timers/{timer.id}/hoses", 1)),))]


def _programs(r: Results, timer: Timer, month: int) -> list[Finding]:
    """More hoses than a timer with a clock holds programs for."""
    row = r.library.timers[timer.kind]
    plan = max(r.schedule.plans(timer, month).values(), key=len, default=())
    if not row.weekdays or len(plan) <= row.most_starts:
        return []
    return [Finding(
        "time.programs", "care",
        say(f"{quoted(timer.name)} holds {{n}} programs, and {{m}} are wanted in {MONTHS[month]}",
            n=Amount(row.most_starts, "count"), m=Amount(len(plan), "count")),
        Phrase("Set it anew as the hoses are moved, or give some zones another timer."),
        (_a_valve_each(timer),))]


def _one_with_valves(r: Results, timer: Timer) -> list[Finding]:
    """One timer of several valves that costs less than as many of one valve."""
    zones = [z.source for z in r.garden.zones_of(timer)]

    def how_many(kind: str) -> int:
        return sum(math.ceil(zones.count(source) / r.library.timers[kind].valves)
                   for source in set(zones))

    def cost(kind: str) -> float:
        return how_many(kind) * r.library.timers[kind].price

    own = r.library.timers[timer.kind]
    best = min((t.key for t in r.library.timers.values()
                if (t.style, t.valve) == (own.style, own.valve) and t.valves > own.valves),
               key=cost, default=timer.kind)
    if cost(best) >= cost(timer.kind):
        return []
    return [Finding(
        "time.more-valves", "note",
        say(f"{quoted(timer.name)} is bought {{n}} times; one with more valves costs {{m}} less",
            n=Amount(how_many(timer.kind), "count"),
            m=Amount(cost(timer.kind) - cost(best), "money")),
        Phrase("Fewer batteries, fewer splitters, one clock to set."),
        (Remedy(f"more-valves-{timer.id}", Phrase(r.library.timers[best].name),
                say("{m} in all", m=Amount(cost(best), "money")),
                SetValue(f"timers/{timer.id}/kind", best)),))]


def _cannot_hold(r: Results) -> list[Finding]:
    found = []
    for zone in r.garden.timed_zones:
        bad = [s for s in r.schedule.settings[zone.id] if not s.fits]
        if not bad:
            continue
        worst = max(bad, key=lambda s: s.exact_min)
        remedies = []
        edit = other_timers(r.garden, r.library, {zone.id}, style="weekday")
        if edit and all(s.fits for s in r.after(edit).schedule.settings[zone.id]):
            remedies.append(Remedy("weekday-timer", Phrase("Use a weekday timer"),
                                   Phrase("holds every month"), edit))
        timer = r.garden.timer_of(zone)
        if timer and timer.moved:
            valves = _a_valve_each(timer)
            if all(s.fits for s in r.after(valves.edit).schedule.settings[zone.id]):
                remedies.append(valves)
        why = (say("Even its closest rhythm, " + rhythm(worst) + ", needs {a}; the longest run it "
                   "can be set to is {b}.", a=Amount(worst.exact_min, "minutes"),
                   b=Amount(worst.minutes, "minutes")) if math.isfinite(worst.exact_min) else
               Phrase("A plot gets no flow at all: see Push."))
        found.append(Finding(
            "time.cannot-hold", "care",
            Phrase(f"{quoted(zone.name)}: the timer cannot be set long enough in "
                   f"{MONTHS[worst.month]}"), why, tuple(remedies)))
    return found


def _window(r: Results, month: int, hours: float) -> list[Finding]:
    """Zones that find no hour of their own source in which their timer may open."""
    late = [start for start in r.schedule.starts[month] if start.late]
    if not math.isfinite(hours) or not late:
        return []
    names = {zone.id: zone.name for zone in r.garden.zones}
    first, more = late[0].opening, sum(len(s.opening.zones) for s in late) - 1
    narrow = [t for t in timers_opening(r.garden, {z for s in late for z in s.opening.zones})
              if (t.from_h, t.until_h) != (0.0, 24.0)]
    wider = Together(tuple(SetValue(f"timers/{t.id}/{key}", value) for t in narrow
                           for key, value in (("from_h", 0.0), ("until_h", 24.0))))
    helps = narrow and not any(s.late for s in r.after(wider).schedule.starts[month])
    between = say("{a} to {b}", a=Amount(first.allowed.from_h, "clock"),
                  b=Amount(first.allowed.until_h, "clock"))
    return [Finding(
        "time.window", "care",
        say(f"{quoted(names[first.zones[0]])}" + (f" and {more} more" if more else "")
            + f" {'find' if more else 'finds'} no free hours in {MONTHS[month]}, "
            + between.template, **between.amounts),
        say("What draws from one source takes turns, {h} a day between them. "
            + ("Raise the stand, use" if r.garden.stores else "Use")
            + " outlets that give more, or allow more hours.", h=Amount(hours, "hours")),
        (Remedy("longer-window", Phrase("Allow all hours of the day"),
                Phrase("all zones fit"), wider),) if helps else ())]


def _evening(r: Results, month: int) -> list[Finding]:
    """What an evening start costs against a morning one."""
    zones = _opening_in(r, "evening")
    if not zones:
        return []
    roots = [(r.demand.thirsts[p].use_by_month[month] / 2 / r.demand.thirsts[p].raw_l, p)
             for z in zones for p in z.plots if r.demand.thirsts[p].raw_l > 0]
    share, plot = max(roots, default=(0.0, zones[0].plots[0]))
    wet = [p.name for p in r.garden.plots
           if isinstance(p, Bed) and any(p.id in z.plots for z in zones)
           and r.library.methods[p.method].wets_leaves == "yes"]
    return [Finding(
        "time.evening", "note", Phrase("Opens in the evening"),
        say("What is given then has to last through the next afternoon: by noon "
            + quoted(r.garden.plot(plot).name) + " has drunk {x} of what its roots draw easily. "
            "Ground that stays wet through the night feeds slugs" + (
                ", and soakers keep low leaves wet: mildew." if wet else "."),
            x=Amount(min(float(share), 1.0), "share")),
        (Remedy("morning", Phrase("Open in the morning"), Phrase("leaves dry by day"),
                _in_the_morning(r, "evening")),))]


def _opening_in(r: Results, opens: str) -> list[Zone]:
    """The zones whose timer opens in the evening, or in pulses."""
    return [zone for zone in r.garden.timed_zones
            if (timer := r.garden.timer_of(zone)) and timer.opens == opens]


def _in_the_morning(r: Results, opens: str) -> Edit:
    return Together(tuple(SetValue(f"timers/{t.id}/opens", "morning") for t in r.garden.timers
                          if t.opens == opens))


def _pulses(r: Results, month: int) -> list[Finding]:
    """What several short runs a day cost against one."""
    zones = _opening_in(r, "pulses")
    if not zones:
        return []
    runs = [(s.runs_a_week / 7, r.flows.refills[z.id].litres) for z in zones
            if (s := r.schedule.setting_in(z.id, month)) and math.isfinite(s.exact_min)]
    drained = sum(n * litres for n, litres in runs)
    return [Finding(
        "time.pulses", "note", Phrase("In pulses through the day"),
        say("{n} runs a day, and {m} of them land on the lowest plots as the lines drain. "
            "Mix and sand that hold little stay damp; in beds the wet stays shallow, and roots "
            "with it, and low leaves are wetted again and again.",
            n=Amount(sum(n for n, _ in runs), "count"), m=Amount(drained, "volume")),
        (Remedy("morning", Phrase("Open in the morning"), Phrase("deep and seldom"),
                _in_the_morning(r, "pulses")),))]


def _rounding(r: Results, month: int) -> list[Finding]:
    rough = [(zone, s) for zone in r.garden.timed_zones
             if (s := r.schedule.setting_in(zone.id, month)) and s.fits
             and abs(s.left_over) > ROUGH]
    if not rough:
        return []
    zone, setting = max(rough, key=lambda pair: abs(pair[1].left_over))
    edit = other_timers(r.garden, r.library, {z.id for z, _ in rough}, style="weekday")
    remedies: tuple[Remedy, ...] = ()
    if edit:
        then = r.after(edit).schedule
        left = max(abs(s.left_over) for z, _ in rough if (s := then.setting_in(z.id, month)))
        remedies = (Remedy("weekday-timer", Phrase("Use a weekday timer"),
                           say("{x} left over", x=Amount(left, "share")), edit),)
    return [Finding(
        "time.rounding", "care",
        say(f"{quoted(zone.name)}: the dial's nearest mark gives "
            + "{x} too " + ("much" if setting.left_over > 0 else "little"),
            x=Amount(abs(setting.left_over), "share")),
        say("It wants {a} " + rhythm(setting) + "; the dial has {b}. That is {l} a week.",
            a=Amount(setting.exact_min, "minutes"), b=Amount(setting.minutes, "minutes"),
            l=Amount(abs(setting.left_over_l_week), "drop")), remedies)]
