"""Push, the pumps: their duty, suction, power, and the cautions that go with them."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from euhydra.core.advise import gravity_or_pump
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Lift, Zone
from euhydra.core.hydraulics import pump_duty
from euhydra.core.hydraulics.pump_duty import Duty
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

LEAST_RESERVE_M = 0.05  # a shallower pool over an intake draws air, from memory


def duties(r: Results) -> list[tuple[Zone, Lift, Duty]]:
    """Every zone that a pump serves, with its duty at the last water."""
    found = []
    for zone in r.garden.zones:
        lift = r.garden.lift_on(zone.source)
        at = pump_duty.duty(r.garden, r.library, zone, r.flows[zone.id]["low"])
        if lift is not None and at is not None:
            found.append((zone, lift, at))
    return found


def pump_figures(r: Results) -> list[Figure]:
    """The hardest duty and the energy of each pump."""
    figures = []
    for lift in r.garden.lifts:
        mine = [(z, d) for z, x, d in duties(r) if x.id == lift.id]
        if not mine:
            continue
        zone, at = max(mine, key=lambda pair: pair[1].head_m)
        kind = r.library.pumps[lift.kind]
        zones = [z for z, _ in mine]
        month = r.demand.peak_month
        year = sum(gravity_or_pump.hours_of(r, zones, m) * 30.4 for m in range(12))
        spent = pump_duty.energy(lift, kind, gravity_or_pump.hours_of(r, zones, month), year,
                               gravity_or_pump.sun_hours(r, month))
        figures += [
            Figure(f"duty_{lift.id}", f"Duty, {lift.name}", Amount(at.head_m, "head", 1), Working(
                "where the pump's curve meets the lines', "
                f"{r.garden.vessel_of(lift.draws_from)} nearly empty",
                (Term("flow there", Amount(at.flow_l_h, "flow"), zone.name),
                 Term("of its greatest flow", Amount(at.share, "share")),
                 Term("into the water", Amount(at.water_w, "power"), "ρ g Q H"),
                 Term("inlet over the water", Amount(at.lift_m, "length")),
                 Term("lost in the suction", Amount(at.suction_lost_m, "head")),
                 Term("left at its inlet", Amount(at.left_m, "head"), "air − vapour − lift − loss"),
                 Term("it needs there", Amount(kind.needs_m, "head"), "from memory")),
                "pump curve in the network, solved", "published")),
            Figure(f"energy_{lift.id}", f"Energy a day, {lift.name}",
                   Amount(spent.wh_day, "energy"), Working(
                "power × hours of running on the thirstiest month's day",
                (Term("power", Amount(pump_duty.watts_of(lift, kind), "power"),
                      "as you measured" if lift.watts else kind.source),
                 Term("runs", Amount(spent.hours, "hours")),
                 Term("in a year, by a made-up price", Amount(spent.cost_year, "money")),
                 Term("battery for three days", Amount(spent.battery_wh, "energy"),
                      "half of it is drawn"),
                 Term("panel that makes it up", Amount(spent.panel_w, "power"),
                      "sun by FAO-56 eq. 50")),
                "power table; price book made up", "from memory"))]
    return figures


def pump_findings(r: Results) -> list[Finding]:
    """All that is to be said of the pumps."""
    found: list[Finding] = []
    for lift in r.garden.lifts:
        mine = [(z, d) for z, x, d in duties(r) if x.id == lift.id]
        found += [*_suction(r, lift, mine), *_reserve(lift), *_overrun(lift, mine),
                  *_chatters(r, lift, mine), *_battery(r, lift, [z for z, _ in mine]),
                  _priming(r, lift), *_electric(r, lift)]
    return found


def _suction(r: Results, lift: Lift, mine: list[tuple[Zone, Duty]]) -> list[Finding]:
    """Too high over the water: the water boils in the suction before it comes up."""
    kind = r.library.pumps[lift.kind]
    worst = min((d for _, d in mine), key=lambda d: d.left_m, default=None)
    if worst is None or (worst.left_m >= kind.needs_m and worst.lift_m <= max(kind.lifts_m, 0.0)):
        return []
    edit = SetValue(f"lifts/{lift.id}/over_outlet_m", 0.0)
    remedies: tuple[Remedy, ...] = ()
    if lift.over_outlet_m > 0:
        left = min(d.left_m for _, x, d in duties(r.after(edit)) if x.id == lift.id)
        remedies = (Remedy(f"lower-{lift.id}", Phrase(
            f"Stand it beside the {r.garden.vessel_of(lift.draws_from)}, at the outlet"),
                           say("{h} left", h=Amount(left, "head", 1)), edit),)
    return [Finding(
        "push.suction", "stop",
        say(f"{quoted(lift.name)} stands " + "{h} over the last water", h=Amount(
            worst.lift_m, "length")),
        say("It draws up {most} at the most; {left} of air's push are left at its inlet, and it "
            "needs {needs}.", most=Amount(kind.lifts_m, "length"),
            left=Amount(worst.left_m, "head", 1), needs=Amount(kind.needs_m, "head", 1)),
        remedies)]


def _reserve(lift: Lift) -> list[Finding]:
    if lift.reserve_m >= LEAST_RESERVE_M:
        return []
    return [Finding(
        "push.reserve", "care",
        say(f"{quoted(lift.name)} leaves " + "{h} over its intake", h=Amount(
            lift.reserve_m, "small")),
        say("Under {least} it draws air and runs dry. Hang its float switch higher.", least=Amount(
            LEAST_RESERVE_M, "small")),
        (Remedy(f"reserve-{lift.id}", say("Leave {h}", h=Amount(0.1, "small")),
                Phrase("never dry"), SetValue(f"lifts/{lift.id}/reserve_m", 0.1)),))]


def _overrun(lift: Lift, mine: list[tuple[Zone, Duty]]) -> list[Finding]:
    zone, at = max(mine, key=lambda pair: pair[1].share, default=(None, None))
    if zone is None or at is None or at.share <= pump_duty.FULLEST:
        return []
    return [Finding(
        "push.overrun", "care",
        say(f"{quoted(lift.name)} runs at " + "{x} of its greatest flow on " + quoted(zone.name),
            x=Amount(at.share, "share")),
        Phrase("With so little to push against it gains almost no head and overheats. Shut a "
               "valve behind it a little, or open more zones together."))]


def _chatters(r: Results, lift: Lift, mine: list[tuple[Zone, Duty]]) -> list[Finding]:
    """A pressure switch on a zone that draws little starts and stops all the time."""
    if lift.control != "pressure-switch":
        return []
    small = [(z, d) for z, d in mine if d.share < pump_duty.SMALL_SHARE]
    if not small:
        return []
    zone, at = min(small, key=lambda pair: pair[1].share)
    kind = r.library.pumps[lift.kind]
    return [Finding(
        "push.chatters", "care",
        say(f"{quoted(lift.name)}: its switch chatters on {quoted(zone.name)}, which draws "
            + "{q}", q=Amount(at.flow_l_h, "flow")),
        say("That is {x} of what it passes. It may start {n} times an hour; a pressure vessel "
            "behind it, or a timer in the place of the switch, cures that.",
            x=Amount(at.share, "share"), n=Amount(kind.starts_h, "count")),
        (Remedy(f"timer-{lift.id}", Phrase("Start it by the timer"), Phrase("one start a run"),
                SetValue(f"lifts/{lift.id}/control", "timer")),))]


def _battery(r: Results, lift: Lift, zones: list[Zone]) -> list[Finding]:
    if lift.power == "mains":
        return []
    kind, month = r.library.pumps[lift.kind], r.demand.peak_month
    spent = pump_duty.energy(lift, kind, gravity_or_pump.hours_of(r, zones, month), 0.0,
                           gravity_or_pump.sun_hours(r, month))
    found = [Finding(
        "push.battery-care", "note", Phrase(f"{quoted(lift.name)}: fuse the battery at its pole"),
        say("{w} at 12 V draw {a} A. Lithium cells are never soldered, nor charged unwatched; keep "
            "the battery out of the sun and off the wet ground.",
            w=Amount(pump_duty.watts_of(lift, kind), "power"),
            a=Amount(pump_duty.watts_of(lift, kind) / 12, "ratio", 1)), caution=True)]
    fed = lift.panel_w >= spent.panel_w > 0
    if math.isfinite(spent.wh_day) and spent.wh_day > 0 and spent.lasts_days < 3 and not (
            fed and spent.lasts_days >= 1):
        found.append(Finding(
            "push.battery-short", "care",
            say(f"{quoted(lift.name)}: its battery lasts " + "{d} in the thirstiest month",
                d=Amount(spent.lasts_days, "days", 1)) if lift.battery_wh > 0 else
            Phrase(f"{quoted(lift.name)} has no battery yet"),
            say("It draws {e} a day; half of a battery may be drawn. Three dull days ask for {b}, "
                "and a panel of {p} makes up a day.", e=Amount(spent.wh_day, "energy"),
                b=Amount(spent.battery_wh, "energy"), p=Amount(spent.panel_w, "power")),
            (Remedy(f"battery-{lift.id}", say("A battery of {b}", b=Amount(
                _round_up(spent.battery_wh), "energy")), Phrase("three days"),
                SetValue(f"lifts/{lift.id}/battery_wh", _round_up(spent.battery_wh))),)
            if spent.battery_wh <= 20000 else ()))
    return found


def _round_up(wh: float) -> float:
    return float(math.ceil(wh / 50) * 50)


def _priming(r: Results, lift: Lift) -> Finding:
    steps = pump_duty.priming(lift, r.library.pumps[lift.kind],
                              r.garden.vessel_of(lift.draws_from))
    return Finding(
        "push.priming", "note", Phrase(f"{quoted(lift.name)}: how it is started"),
        say(" ".join(f"{i}. {step}" for i, step in enumerate(steps, start=1)) + " It leaves {h} "
            "over its intake.", h=Amount(lift.reserve_m, "small")))


def _electric(r: Results, lift: Lift) -> list[Finding]:
    if lift.power != "mains":
        return []
    kind = r.library.pumps[lift.kind]
    if lift.residual_current:
        return [Finding(
            "push.electric", "note", Phrase(f"{quoted(lift.name)}: electricity beside water"),
            say("{w} outdoors: plug and lead made for outdoors, behind a residual-current device, "
                "tested each spring. Fixed wiring is for a licensed electrician.",
                w=Amount(pump_duty.watts_of(lift, kind), "power")), caution=True)]
    return [Finding(
        "push.no-device", "stop",
        Phrase(f"{quoted(lift.name)} has no residual-current device"),
        say("A fault of {a} A through wet ground kills. Do not plug it in before a licensed "
            "electrician has fitted one.", a=Amount(0.03, "ratio", 2)),
        (Remedy(f"device-{lift.id}", Phrase("It is fitted"), Phrase("trips at 30 mA"),
                SetValue(f"lifts/{lift.id}/residual_current", True)),), caution=True)]
