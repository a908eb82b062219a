"""What Push finds amiss: valves that stay shut, starved outlets, crests, dirt, uneven plots."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core import storage
from euhydra.core.advise.bounds import LARGER_TUBE
from euhydra.core.advise.other_timers import other_timers
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Zone
from euhydra.core.hydraulics.profile import over_line_m, way_section
from euhydra.core.hydraulics.uniformity import uniformity_class
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.core.layout.rows import joined_as, rows_of
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy
from euhydra.core.stations.cures import cures, head_remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results
from euhydra.core.stations.lifts import pump_findings
from euhydra.core.stations.open_ends import open_ends
from euhydra.core.stations.worst import (
    AIR_M,
    GOOD_EVENNESS,
    RUNS_L_H,
    losses,
    short_zones,
    worst_zone,
)

HIGH_STAND_M = 0.6  # common practice: up to 60 cm on the flat
MOST_HEAD_M = 35.0  # barbed drip fittings hold this without clamps, from memory
TOLD_M = 0.005


def findings(r: Results) -> list[Finding]:
    """All of it, pumps included."""
    return [*_unsettled(r), *_valve(r), *_starved(r), *pump_findings(r), *_burst(r), *_crest(r),
            *_air(r), *open_ends(r), *_uneven(r), *_blocked(r), *_dirt(r), *_high_stand(r)]


def _unsettled(r: Results) -> list[Finding]:
    bad = [f for levels in r.flows.values() for f in levels.values() if not f.solution.converged]
    if not bad:
        return []
    return [Finding("push.unsettled", "stop", Phrase("The flow could not be settled"),
                    say(f"At {quoted(bad[0].solution.worst_node)} it is out by " + "{q} after {n} "
                        "rounds; the figures here are not to be trusted.",
                        q=Amount(bad[0].solution.residual_l_h, "flow", 3),
                        n=Amount(bad[0].solution.iterations, "count")))]


def _source_name(r: Results) -> str:
    """Of the source that gives the timer's valve least, or of the pump on it."""
    source = r.flows.valve.source
    return (r.garden.lift_on(source) or r.garden.tap_of(source) or r.garden.store_of(source)).name


def _valve(r: Results) -> list[Finding]:
    if r.flows.valve.opens:
        return []
    edit = other_timers(r.garden, r.library, r.flows.shut, valve="ball")
    return [Finding(
        "push.valve-shut", "stop",
        say("The timer's valve needs {need}; " + f"{quoted(_source_name(r))} gives it "
            + "{got} at its fullest",
            need=Amount(r.flows.valve.needs_kpa, "pressure"),
            got=Amount(r.flows.valve.gets_kpa, "pressure")),
        Phrase("This valve needs tap pressure to open. A motor turns a ball valve, which opens at "
               "none."),
        (Remedy("ball-valve", Phrase("Use a ball-valve timer"),
                say("opens at {p}", p=Amount(r.after(edit).flows.valve.needs_kpa, "pressure", 0)),
                edit),) if edit else ())]


def _starved(r: Results) -> list[Finding]:
    """One finding for all zones that fall short, led by the worst of them."""
    short = short_zones(r)
    if not short:
        return []
    zone = worst_zone(r)
    low, full = r.flows[zone.id]["low"], r.flows[zone.id]["full"]
    tapped = r.garden.tap_of(zone.source) is not None
    vessel = r.garden.vessel
    when = "" if tapped else (f" with the {vessel} nearly empty" if full.short_m <= 0 else
                              f", even with full {vessel}s")
    title = say(f"{quoted(zone.name)}: {{short}} short{when}", short=Amount(
        low.short_m if full.short_m <= 0 else full.short_m, "head", 2))
    others = [z for z in short if z is not zone]
    also = (" Also short: " + quoted(", ".join(z.name for z in others)) + ".") if others else ""
    return [Finding("push.starved", "care" if full.short_m <= 0 else "stop", title,
                    _why_starved(r, zone, low, also), Later(partial(cures, r, zone, short)))]


def _why_starved(r: Results, zone: Zone, low: ZoneFlow, also: str) -> Phrase:
    """The true cause: where the water stands, what stops it, or the part that takes most."""
    need, worst = Amount(low.worst.least_head_m, "head", 2), low.worst.plot
    where = f"The weakest outlet, in {quoted(r.garden.plot(worst).name)}, needs {{need}}"
    pushed = r.garden.tap_of(zone.source) or r.garden.lift_on(zone.source)
    lacks = None
    if not pushed and low.standing_m < 0:
        lacks = "it stands {x} higher than the water", -low.standing_m
    elif low.stopped_m > 0:
        lacks = ("the pump's suction lacks {x}" if pushed else
                 "the pipe to it rises {x} over the water"), low.stopped_m
    elif not pushed and low.standing_m < low.worst.least_head_m:
        lacks = "the water stands only {x} over it", low.standing_m
    if lacks:
        return say(f"{where}; {lacks[0]}.{also}", need=need, x=Amount(lacks[1], "head", 2))
    most = max(losses(r, low), key=lambda t: -t.amount.value)
    return say(f"{where} and gets {{got}}; most is lost in {quoted(most.name)}, {{lost}}.{also}",
               need=need, got=Amount(low.worst.head_m, "head", 2),
               lost=Amount(-most.amount.value, "head", 2))


def _burst(r: Results) -> list[Finding]:
    """More pressure than fittings hold."""
    for zone in r.garden.zones:
        most = max(o.head_m for o in r.flows[zone.id]["full"].outlets)
        if most <= MOST_HEAD_M:
            continue
        tap, lift = r.garden.tap_of(zone.source), r.garden.lift_on(zone.source)
        path = (r.garden.source_path(tap.id) if tap else f"lifts/{lift.id}" if lift else "")
        edit = SetValue(f"{path}/regulator_kpa", 170.0)
        return [Finding(
            "push.burst", "stop",
            say(f"{quoted(zone.name)}: outlets stand under " + "{h}", h=Amount(most, "head")),
            say("Barbed fittings hold about {most} without clamps.", most=Amount(
                MOST_HEAD_M, "head")),
            Later(partial(_regulator, r, edit)) if path else ())]
    return []


def _regulator(r: Results, edit: SetValue) -> Iterator[Remedy]:
    yield Remedy("regulator", Phrase("Fit a regulator"), say(
        "{h}", h=Amount(_most_head(r.after(edit)), "head")), edit)


def _most_head(r: Results) -> float:
    """The most that any outlet stands under, barrels full."""
    return max(o.head_m for zone in r.garden.zones for o in r.flows[zone.id]["full"].outlets)


def _crest(r: Results) -> list[Finding]:
    """A pipe that rises over the water that is to run through it, by the water's own height."""
    found = [(zone, r.flows[zone.id]["full"]) for zone in r.garden.zones
             if r.garden.lift_on(zone.source) is None and r.garden.tap_of(zone.source) is None]
    stopped = [(flow.stopped_m, zone) for zone, flow in found if flow.stopped_m > 0]
    if not stopped:
        return []
    most, zone = max(stopped, key=lambda pair: pair[0])
    return [Finding(
        "push.crest", "stop",
        say(f"{quoted(zone.name)}: the pipe rises " + "{h} over the full water, and nothing flows",
            h=Amount(most, "length")),
        Phrase("Open outlets let air in, so that no siphon carries water over a crest. Lead the "
               f"pipe round it, or lift the {r.garden.vessel}s over it."))]


def _air(r: Results) -> list[Finding]:
    """A way to a plot that gets water, on which the pipe stands over the running water's line."""
    for zone in r.garden.zones:
        low = r.flows[zone.id]["low"]
        for plot in (p for p in zone.plots if low.plot_flow_l_h(p) > RUNS_L_H):
            over = over_line_m(way_section(r.garden, zone, low, plot))
            if over > AIR_M:
                return [Finding(
                    "push.air-lock", "care",
                    say(f"On the way to {quoted(r.garden.plot(plot).name)} the pipe runs "
                        "{h} over the running water's line", h=Amount(over, "length")),
                    Phrase("Air gathers there and the flow stops. Lead the pipe lower, or lift "
                           f"the {r.garden.vessel}s."))]
    return []


def _uneven(r: Results) -> list[Finding]:
    found = []
    for zone in r.garden.zones:
        half = r.flows[zone.id]["half"]
        if zone in r.garden.float_zones or half.evenness >= GOOD_EVENNESS or (
                half.flow_l_h <= 1e-6 or half.short_m > 0 or any(
                    o.open_end for o in half.outlets)):
            continue
        flows = [o.flow_l_h / o.each for o in half.outlets]
        valves = " Valves on its branches can even that: see Balance." if len(
            zone.plots) > 1 else ""
        found.append(Finding(
            "push.uneven", "care",
            say(f"{quoted(zone.name)}: evenness " + "{e}, " + uniformity_class(half.evenness),
                e=Amount(half.evenness, "share")),
            say("The outlets give from {a} to {b}." + valves, a=Amount(min(flows), "flow", 2),
                b=Amount(max(flows), "flow", 2)), Later(partial(_evener, r, zone))))
    return found


def _evener(r: Results, zone: Zone) -> Iterator[Remedy]:
    """What evens a zone."""
    now = r.flows[zone.id]["half"].evenness
    for key, label, edit in _evenings(r, zone):
        better = r.after(edit).flows[zone.id]["half"].evenness
        if better > now + 0.01:
            yield Remedy(key, Phrase(label), say("evenness {e}", e=Amount(better, "share")), edit)


def _evenings(r: Results, zone: Zone) -> list[tuple[str, str, SetValue]]:
    """What may even a zone: a wider supply, the ends of a bed's rows joined."""
    found = []
    if larger := LARGER_TUBE.get(zone.supply_tube):
        found.append((f"even-supply-{zone.id}",
                      f"{r.library.tubes[larger].name.split(' p')[0]} supply",
                      SetValue(f"zones/{zone.id}/supply_tube", larger)))
    for plot in (r.garden.plot(p) for p in zone.plots):
        if isinstance(plot, Bed) and joined_as(plot, rows_of(plot, r.library), r.library) in (
                "comb", "s-curve") and len(rows_of(plot, r.library)) > 1:
            found.append((f"loop-{plot.id}", f"Join the row ends of {quoted(plot.name)}",
                          SetValue(f"plots/{plot.id}/layout", "loop")))
    return found


def _blocked(r: Results) -> list[Finding]:
    found = []
    for zone in r.garden.zones:
        if zone.filter_blocked > 0:
            edit = SetValue(f"zones/{zone.id}/filter_blocked", 0.0)
            found.append(Finding(
                "push.filter-blocked", "care",
                say(f"{quoted(zone.name)}: its filter is " + "{x} blocked",
                    x=Amount(zone.filter_blocked, "share")),
                say("It loses {n} times what a clean one does.", n=Amount(
                    1 / (1 - zone.filter_blocked) ** 2, "ratio", 1)),
                Later(partial(_headed, r, zone, f"clean-{zone.id}", Phrase("Clean it"), edit))))
    return found


def _headed(r: Results, zone: Zone, key: str, label: Phrase, edit: SetValue) -> tuple[Remedy]:
    return (head_remedy(r, zone, key, label, edit),)


def _dirt(r: Results) -> list[Finding]:
    """A garden that works only while its filters are clean."""
    for zone in r.garden.zones:
        if zone.filter_blocked > 0 or r.flows[zone.id]["low"].short_m > 0:
            continue
        dirty = r.flows[zone.id].dirty
        if dirty.short_m > TOLD_M:
            edit = SetValue(f"zones/{zone.id}/filter", "filter-large")
            return [Finding(
                "push.dirty-filter", "note",
                say(f"{quoted(zone.name)}: a half blocked filter leaves it " + "{h} short",
                    h=Amount(dirty.short_m, "head", 2)),
                Phrase("There is little head to spare: clean the filter before it shows."),
                () if zone.filter == "filter-large" else Later(partial(
                    _headed, r, zone, f"large-{zone.id}", Phrase("A larger filter"), edit)))]
    return []


def _high_stand(r: Results) -> list[Finding]:
    return [Finding(
        "push.high-stand", "care",
        say(f"{quoted(store.name)}: a stand of " + "{h} carries {m}",
            h=Amount(store.stand_m, "length"), m=Amount(storage.full_mass_kg(store), "mass")),
        say("Up to {most} is common on the flat. Higher wants a braced frame on a footing; have "
            "it checked.", most=Amount(HIGH_STAND_M, "length")), caution=True)
        for store in r.garden.stores if store.stand_m > HIGH_STAND_M]
