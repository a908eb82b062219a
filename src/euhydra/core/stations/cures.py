"""What would cure a zone that falls short, each as an edit with the head it gives."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import islice
from typing import TYPE_CHECKING

from euhydra.core.advise.bounds import HIGHEST_STAND_M, LARGER_TUBE
from euhydra.core.advise.other_timers import other_timers
from euhydra.core.advise.pump_choice import suits
from euhydra.core.editing.edits import Edit
from euhydra.core.editing.plan_edits import RemoveAll
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Zone
from euhydra.core.hydraulics import raised_stand
from euhydra.core.layout.laying import rows_of
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

GAIN_M = 0.01  # a cure that brings less is not told
MOST_CURES = 7
LARGE_LINES, FEW_TRIES = 800, 3  # each try lays a garden anew: in a large one a second


def cures(r: Results, zone: Zone, short: list[Zone]) -> tuple[Remedy, ...]:
    """Those that bring something, the ones that cure first, then by the head they give."""
    found = [*_stand(r, zone, short), *_pump(r, zone)]
    most = FEW_TRIES if len(r.garden.lines) > LARGE_LINES else None
    tried = [(key, label, edit) for key, label, edit in islice(_tries(r, zone), most)
             if _gain(r, zone, edit) > GAIN_M]
    tried.sort(key=lambda t: -_gain(r, zone, t[2]))
    found += [head_remedy(r, zone, key, label, edit) for key, label, edit in tried]
    return tuple(found[:MOST_CURES])


def _stand(r: Results, zone: Zone, short: list[Zone]) -> Iterable[Remedy]:
    """The lowest stand that cures every short zone of the same source."""
    if r.garden.lift_on(zone.source):
        return
    stand = raised_stand.stand_that_cures_all(
        r.garden, r.library, [z for z in (zone, *short) if z.source == zone.source],
        HIGHEST_STAND_M, r.demand.drinks)
    if stand is not None:
        yield head_remedy(r, zone, "stand", say("Stand to {h}", h=Amount(stand, "length")),
                          SetValue(f"{r.garden.source_path(zone.source)}/stand_m", stand))


def _pump(r: Results, zone: Zone) -> Iterable[Remedy]:
    """The cheapest pump that serves every zone of that store."""
    if r.garden.tap_of(zone.source):
        return
    store = r.garden.store_of(zone.source)
    fit = suits(r.garden, r.library, store, r.demand.drinks)
    lift = r.garden.lift_on(store.id)
    if fit and not (lift and lift.kind == fit.kind):
        kind = r.library.pumps[fit.kind]
        yield Remedy("pump", Phrase(f"Fit a {kind.name[0].lower()}{kind.name[1:]}" if not (
            kind.name[0].isdigit()) else f"Fit a {kind.name}"),
            say("gets {h}, {w}", h=Amount(_worst_head(r, zone, fit), "head", 1),
                w=Amount(kind.watts, "power")), fit)


def _tries(r: Results, zone: Zone) -> Iterable[tuple[str, Phrase, Edit]]:
    """Bore, filter, timer valve, outlet kind, a valve of its own, fewer rows."""
    lib, path = r.library, f"zones/{zone.id}"
    if larger := LARGER_TUBE.get(zone.supply_tube):
        yield (f"supply-{zone.id}", Phrase(f"{lib.tubes[larger].name.split(' p')[0]} supply"),
               SetValue(f"{path}/supply_tube", larger))
    if zone.filter != "filter-large":
        yield f"filter-{zone.id}", Phrase("A larger filter"), SetValue(f"{path}/filter",
                                                                       "filter-large")
    if ball := other_timers(r.garden, lib, {zone.id}, valve="ball"):
        yield "ball", Phrase("A ball-valve timer"), ball
    worst = r.garden.plot(r.flows[zone.id]["low"].worst.plot)
    if len(zone.plots) > 1:
        yield (f"own-{worst.id}", Phrase(f"{quoted(worst.name)} on a valve of its own"),
               SetValue(f"plots/{worst.id}/own_valve", True))
    for plot in (r.garden.plot(p) for p in zone.plots):
        if not isinstance(plot, Bed):
            continue
        if plot.method == "dripline-pc":
            yield (f"plain-{plot.id}", Phrase(f"Plain dripline in {quoted(plot.name)}"),
                   SetValue(f"plots/{plot.id}/method", "dripline"))
        rows = rows_of(plot, lib)
        if len(rows) > 2 and plot is worst:
            yield (f"fewer-{plot.id}", Phrase(f"One row fewer in {quoted(plot.name)}"),
                   RemoveAll((f"plots/{plot.id}/rows/{rows[-1].id}",)))


def _worst_head(r: Results, zone: Zone, edit: Edit) -> float:
    """Head at the worst outlet of those plots, with the last water, after an edit."""
    after = r.after(edit)
    return min((after.flows[z.id]["low"].worst for z in after.garden.zones
                if set(z.plots) & set(zone.plots)),
               key=lambda o: o.head_m - o.least_head_m).head_m


def _gain(r: Results, zone: Zone, edit: Edit) -> float:
    now = r.flows[zone.id]["low"].worst
    after = r.after(edit)
    then = min((after.flows[z.id]["low"].worst for z in after.garden.zones
                if set(z.plots) & set(zone.plots)), key=lambda o: o.head_m - o.least_head_m)
    return (then.head_m - then.least_head_m) - (now.head_m - now.least_head_m)


def head_remedy(r: Results, zone: Zone, key: str, label: Phrase, edit: Edit) -> Remedy:
    """A remedy that says what head the zone's worst outlet gets."""
    return Remedy(key, label, say("gets {h}", h=Amount(_worst_head(r, zone, edit), "head", 2)),
                  edit)
