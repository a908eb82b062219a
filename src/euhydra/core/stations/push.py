"""Push: does the water reach every outlet by its own weight, and if not, what would cure it."""

from __future__ import annotations

from collections.abc import Iterable

from euhydra.core import push, storage
from euhydra.core.advice import Finding, Remedy, StationReport, worst_first
from euhydra.core.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.garden.edits import Edit, SetValue
from euhydra.core.garden.model import Bed, Zone
from euhydra.core.hydraulics.uniformity import uniformity_class
from euhydra.core.reckoning import Reckoning
from euhydra.core.units import head_m

HIGHEST_STAND_M = 1.5
HIGH_STAND_M = 0.6  # common practice: up to 60 cm on the flat
GOOD_EVENNESS = 0.80
LARGER = {"poly-16": "poly-20", "poly-20": "poly-25"}


def worst_zone(r: Reckoning) -> Zone:
    """The zone whose worst outlet has the least head to spare at the last water."""
    return min(r.garden.zones, key=lambda z: r.flows[z.id]["low"].worst.head_m
               - r.flows[z.id]["low"].worst.least_head_m)


def report(r: Reckoning) -> StationReport:
    """What Push says."""
    low = r.flows[worst_zone(r).id]["low"]
    return StationReport(
        "push", "Push", _verdict(r), say("{h}", h=Amount(low.worst.head_m, "head", 2)),
        _figures(r), worst_first([*_unsettled(r), *_valve(r), *_starved(r), *_uneven(r),
                                  *_high_stand(r)]))


def _verdict(r: Reckoning) -> Phrase:
    short = [z for z in r.garden.zones if r.flows[z.id]["low"].short_m > 0]
    if not r.garden.stores:
        return Phrase("The tap does not reach every outlet." if short else
                      "The tap reaches every outlet through its regulator.")
    if short and len(short) == len(r.garden.zones):
        return Phrase("Gravity does not reach the beds as things stand.")
    if short:
        names = quoted(", ".join(z.name for z in short[:2]))
        return Phrase(f"Gravity falls short at {names}.")
    if not r.valve.opens:
        return Phrase("Gravity reaches every outlet, but this timer's valve will not open.")
    return Phrase("Gravity reaches every outlet, down to the last water.")


def _figures(r: Reckoning) -> tuple[Figure, ...]:
    zone = worst_zone(r)
    low, half = r.flows[zone.id]["low"], r.flows[zone.id]["half"]
    losses = _losses(r, zone)
    figures = [
        Figure("least_head", "Head at the worst outlet, last water",
               Amount(low.worst.head_m, "head"), Working(
            "water over the outlet, less what each element of the way takes",
            (Term("water over the outlet", Amount(low.standing_m, "head"),
                  r.garden.plot(low.worst.plot).name), *losses),
            "Darcy–Weisbach, global gradient method (Todini and Pilati 1988), solved",
            "published")),
        Figure("head_to_spare", "Head to spare there",
               Amount(low.worst.head_m - low.worst.least_head_m, "head"), Working(
            "head less what the outlet needs to meter its water",
            (Term("head", Amount(low.worst.head_m, "head")),
             Term("outlet needs", Amount(low.worst.least_head_m, "head"), "from memory")),
            "outlet table", "from memory")),
        Figure("valve_gets", "At the timer's valve, barrels full",
               Amount(r.valve.gets_kpa, "pressure"), Working(
            "height of the water over the barrel's outlet, where the timer hangs",
            (Term("water over it, full", Amount(head_m(r.valve.gets_kpa), "head")),
             Term("valve needs", Amount(r.valve.needs_kpa, "pressure"),
                  r.library.timers[r.garden.timer].name)),
            "1 m of water is 9.807 kPa", "physics"))]
    for zone in r.garden.zones:
        full, half, low = (r.flows[zone.id][k] for k in ("full", "half", "low"))
        figures.append(Figure(
            f"flow_{zone.id}", f"Flow, {zone.name}", Amount(half.flow_l_h, "flow"),
            Working("q = k·hˣ at each outlet, all added, with the barrels half full",
                    (Term("barrels full", Amount(full.flow_l_h, "flow")),
                     Term("last water", Amount(low.flow_l_h, "flow")),
                     Term("outlets", Amount(sum(o.each for o in half.outlets), "count")),
                     Term("imbalance at the worst node", Amount(half.solution.residual_l_h,
                                                                "flow", 4))),
                    "outlet law; global gradient method, solved", "published")))
        figures.append(Figure(
            f"evenness_{zone.id}", f"Evenness, {zone.name}",
            Amount(half.evenness, "share"), Working(
                "EU = (1 − 1.27 Cv) × least flow ÷ mean flow",
                (Term("Cv", Amount(half.worst.cv, "ratio"), "manufacturing variation"),
                 Term("low-quarter DU", Amount(half.low_quarter, "share")),
                 Term(f"class: {uniformity_class(half.evenness)}",
                      Amount(half.evenness, "share"))),
                "Keller and Karmeli 1974; classes ASAE EP458, recalled", "published")))
    return tuple(figures)


def _losses(r: Reckoning, zone: Zone) -> list[Term]:
    """Head taken by each fitting and by the pipes on the way to the worst outlet."""
    low = r.flows[zone.id]["low"]
    terms, total = [], 0.0
    kinds = {f.id: f.kind for f in r.garden.fittings}
    for loss in low.network.losses:
        taken = low.solution.head_m[loss.start] - low.solution.head_m[loss.end]
        kind = kinds[loss.id]
        name = (r.library.timers[r.garden.timer].name if kind == "timer"
                else r.library.fittings[kind].name)
        terms.append(Term(name, Amount(-taken, "head", 3),))
        total += taken
    pipes = low.lost_m - total
    return [*terms, Term("pipes, tees and bends", Amount(-pipes, "head", 3),)]


def _unsettled(r: Reckoning) -> list[Finding]:
    bad = [f for levels in r.flows.values() for f in levels.values() if not f.solution.converged]
    if not bad:
        return []
    return [Finding("push.unsettled", "stop", Phrase("The flow could not be settled"),
                    say("The worst node is out by {q} after {n} rounds; the figures here are not "
                        "to be trusted.", q=Amount(bad[0].solution.residual_l_h, "flow", 3),
                        n=Amount(bad[0].solution.iterations, "count")))]


def _valve(r: Reckoning) -> list[Finding]:
    if r.valve.opens:
        return []
    ball = r.library.timer_like(r.garden.timer, valve="ball")
    edit = SetValue("timer", ball)
    return [Finding(
        "push.valve-shut", "stop",
        say("The timer's valve needs {need}; full barrels give it {got}",
            need=Amount(r.valve.needs_kpa, "pressure"), got=Amount(r.valve.gets_kpa, "pressure")),
        Phrase("A pilot valve lifts on line pressure. A motor turns a ball valve, which opens at "
               "none."),
        (Remedy("ball-valve", Phrase("Use a ball-valve timer"),
                say("opens at {p}", p=Amount(r.after(edit).valve.needs_kpa, "pressure", 0)),
                edit),))]


def _starved(r: Reckoning) -> list[Finding]:
    """One finding for all zones that fall short, led by the worst of them."""
    short = [z for z in r.garden.zones if r.flows[z.id]["low"].short_m > 0]
    if not short:
        return []
    zone = worst_zone(r)
    low, full = r.flows[zone.id]["low"], r.flows[zone.id]["full"]
    added, flow = push.pump_lift_m(r.garden, r.library, zone)
    title = (say(f"{quoted(zone.name)}: " + "{short} short with the last water",
                 short=Amount(low.short_m, "head", 2)) if full.short_m <= 0 else
             say(f"{quoted(zone.name)}: " + "{short} short, even with full barrels",
                 short=Amount(full.short_m, "head", 2)))
    others = [z for z in short if z is not zone]
    also = (" Also short: " + quoted(", ".join(z.name for z in others)) + ".") if others else ""
    why = say("The worst outlet needs {need} and gets {got}." + also + " By pump it would take a "
              "lift of {lift} at {flow}.", need=Amount(low.worst.least_head_m, "head", 2),
              got=Amount(low.worst.head_m, "head", 2), lift=Amount(added, "head", 1),
              flow=Amount(flow, "flow", 0))
    return [Finding("push.starved", "care" if full.short_m <= 0 else "stop", title, why,
                    tuple(_cures(r, zone, short)))]


def _cures(r: Reckoning, zone: Zone, short: list[Zone]) -> Iterable[Remedy]:
    """A stand that cures every short zone; outlet kind and pipe for the worst, where they help."""
    stands = [push.stand_that_cures(r.garden, r.library, z, HIGHEST_STAND_M) for z in short
              if z.source == zone.source]
    if None not in stands:
        stand = max(s for s in stands if s is not None)
        yield _head_remedy(r, zone, "stand", say("Stand to {h}", h=Amount(stand, "length")),
                           push.stand_edit(zone.source, stand))
    for plot in (r.garden.plot(p) for p in zone.plots):
        if isinstance(plot, Bed) and plot.method == "dripline-pc":
            yield _head_remedy(r, zone, f"plain-{plot.id}",
                               Phrase(f"Plain dripline in {quoted(plot.name)}"),
                               SetValue(f"plots/{plot.id}/method", "dripline"))
    if larger := LARGER.get(zone.supply_tube):
        edit = SetValue(f"zones/{zone.id}/supply_tube", larger)
        gain = (r.after(edit).flows[zone.id]["low"].worst.head_m
                - r.flows[zone.id]["low"].worst.head_m)
        if gain > 0.01:
            yield _head_remedy(r, zone, f"supply-{zone.id}",
                               Phrase(f"{r.library.tubes[larger].name.split(' p')[0]} supply"),
                               edit)


def _head_remedy(r: Reckoning, zone: Zone, key: str, label: Phrase, edit: Edit) -> Remedy:
    after = r.after(edit)
    worst = min((after.flows[z.id]["low"].worst for z in after.garden.zones
                 if set(z.plots) & set(zone.plots)), key=lambda o: o.head_m - o.least_head_m)
    return Remedy(key, label, say("gets {h}", h=Amount(worst.head_m, "head", 2)), edit)


def _uneven(r: Reckoning) -> list[Finding]:
    found = []
    for zone in r.garden.zones:
        half = r.flows[zone.id]["half"]
        if half.evenness >= GOOD_EVENNESS or half.flow_l_h <= 1e-6 or half.short_m > 0:
            continue
        remedies = []
        if larger := LARGER.get(zone.supply_tube):
            edit = SetValue(f"zones/{zone.id}/supply_tube", larger)
            better = r.after(edit).flows[zone.id]["half"].evenness
            if better > half.evenness + 0.01:
                remedies.append(Remedy(
                    f"even-supply-{zone.id}",
                    Phrase(f"{r.library.tubes[larger].name.split(' p')[0]} supply"),
                    say("evenness {e}", e=Amount(better, "share")), edit))
        flows = [o.flow_l_h / o.each for o in half.outlets]
        found.append(Finding(
            "push.uneven", "care",
            say(f"{quoted(zone.name)}: evenness " + "{e}, " + uniformity_class(half.evenness),
                e=Amount(half.evenness, "share")),
            say("The outlets give from {a} to {b}.", a=Amount(min(flows), "flow", 2),
                b=Amount(max(flows), "flow", 2)), tuple(remedies)))
    return found


def _high_stand(r: Reckoning) -> list[Finding]:
    return [Finding(
        "push.high-stand", "care",
        say(f"{quoted(store.name)}: a stand of " + "{h} carries {m}",
            h=Amount(store.stand_m, "length"), m=Amount(storage.full_mass_kg(store), "mass")),
        say("Up to {most} is common on the flat. Higher wants a braced frame on a footing; have "
            "it checked.", most=Amount(HIGH_STAND_M, "length")), caution=True)
        for store in r.garden.stores if store.stand_m > HIGH_STAND_M]
