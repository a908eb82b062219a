"""Store's panes."""

from __future__ import annotations

import math
from dataclasses import replace

from euhydra.core import storage
from euhydra.core.construction import setting_out
from euhydra.core.garden.store_links import LEVELLING
from euhydra.core.hydraulics import drainage
from euhydra.core.stations.worth import rule_verdict
from euhydra.web import charts
from euhydra.web.drawings import marking as draw_marking
from euhydra.web.drawings import overflow as draw_overflow
from euhydra.web.drawings import store
from euhydra.web.panes.base import Links, Pane, Table, bar
from euhydra.web.sheet import Sheet

HAND_TANK = ("hand-tank", "Add a tank filled by hand")
RULES = {"five-percent": "5 % of a year's yield or need, whichever is less (EN 16941-1, recalled)",
         "dry-spell": "Bridge the usual longest dry spell at the thirstiest month's pace",
         "never-fails": "Never fail in these years"}
KEYS = ("count", "volume_l", "shape", "overflow_mm", "overflow_to", "intake", "hose_m", "footing",
        "feed_ml_l")


def bank(sheet: Sheet) -> list[Pane]:
    """The stores in elevation, what joins them, and the chosen one's fields."""
    garden = sheet.garden
    if not garden.stores:
        return [Pane(add=(("store", "Add a store"), HAND_TANK)),
                Pane(drawing=store.elevation(sheet))]
    chosen = sheet.chosen_store
    add = Pane(add=(("store", "Add a store"), HAND_TANK, ("joint", "Join two stores"),
                    *(() if garden.taps else (("tap", "Top up from a tap"),))))
    words = (("full", "full"), ("half", "half"), ("low", "nearly empty"))
    base = f"/g/{garden.id}/store?view=bank&store={chosen.id}"
    keys = (*KEYS[:3], "hand_filled", *(("refill_at",) if chosen.hand_filled else ()),
            *(("linked", "link_mm") if chosen.count > 1 else ()), *KEYS[3:])
    panes = [Pane(links=Links("Water", tuple((f"{base}&level={key}", label, key == sheet.level)
                                              for key, label in words), listed=True)),
              replace(bar(sheet, *((f"stores/{chosen.id}/{key}", chosen.name) for key in keys)),
                      few=2),
              Pane(drawing=store.elevation(sheet)), add]
    if garden.joints:
        panes += _joints(sheet)
    return [*panes, Pane(twin=True, table=_banks(sheet)), Pane(table=_dips(sheet))]


def _joints(sheet: Sheet) -> list[Pane]:
    """What joins the stores; those that lead one way can be turned round."""
    heads = ("Joint", "Joined by", "From", "To", "Bore", "Length")
    one_way = [j for j in sheet.garden.joints if j.kind not in LEVELLING]
    levelling = [j for j in sheet.garden.joints if j.kind in LEVELLING]
    panes = [Pane(grid=tuple((joint.name, tuple(
        sheet.fields.at(f"joints/{joint.id}/{key}", joint.name)
        for key in ("kind", "a", "b", "bore_mm", "length_m", *more))) for joint in joints),
        heads=(*heads, *(("Ends above base",) if more else ())))
        for joints, more in ((levelling, ("end_m",)), (one_way, ())) if joints]
    names = {store.id: store.name for store in sheet.garden.stores}
    if one_way:
        panes.append(Pane(turn=tuple(
            (j.id, f"Turn {j.name} round: from {names[j.b]} to {names[j.a]}") for j in one_way)))
    return panes


def _dips(sheet: Sheet) -> Table:
    """From the dip stick to litres, for the chosen store by its true shape."""
    chosen = sheet.chosen_store
    full = storage.full_dip_m(chosen)
    step = 0.1 if sheet.system == "metric" else 0.1016
    step *= max(1, math.ceil(full / step / 14))
    dips = [i * step for i in range(1, int(full / step - 1e-9) + 1)] + [full]
    rows = tuple((sheet.show(dip, "small", 0), sheet.show(
        float(storage.volume_at(chosen, dip)) * chosen.count, "volume"), sheet.show(
        max(float(storage.volume_at(chosen, dip) - storage.volume_at(chosen, chosen.outlet_m)),
            0.0) * chosen.count, "volume")) for dip in dips)
    return Table(f"What the dip stick says in {chosen.name}"
                 + (" (all of them together)" if chosen.count > 1 else ""),
                 ("Dip", "Holds", "Comes out"), rows, frozenset({1, 2}))


def _choose(sheet: Sheet, view: str) -> Pane:
    return Pane(links=Links("Store", tuple(
        (f"/g/{sheet.garden.id}/store?view={view}&store={s.id}&level={sheet.level}", s.name,
         s.id == sheet.chosen_store.id) for s in sheet.garden.stores)))


def _banks(sheet: Sheet) -> Table:
    rows = tuple((b.name, sheet.show(b.full_z_m, "length"), sheet.show(b.capacity_l, "volume"),
                  sheet.show(b.usable_l, "volume"), sheet.show(b.idle_l, "volume"))
                 for b in sheet.assessment.banks.banks)
    return Table("Stores that share a level", ("Stores", "Overflows at", "Holds", "Usable",
                                               "Never fills"), rows, frozenset({1, 2, 3, 4}))


def marking_out(sheet: Sheet) -> list[Pane]:
    """Where to mark and drill, for the chosen store on its stand."""
    if not sheet.garden.stores:
        return bank(sheet)
    chosen = sheet.chosen_store
    rows = tuple((m.where, m.what, sheet.show(m.over_ground_m, "length"),
                  "" if m.over_base_m is None else sheet.show(m.over_base_m, "length"),
                  sheet.show(m.drill_mm, "hole") if m.drill_mm else "mark only")
                 for m in setting_out.marks(sheet.garden, chosen))
    panes = [_choose(sheet, "marking")] if len(sheet.garden.stores) > 1 else []
    return [*panes, bar(sheet, *((f"stores/{chosen.id}/{key}", chosen.name) for key in (
        "stand_m", "height_m", "overflow_down_m", "hose_m", "outlet_m", "overflow_mm"))),
        Pane(drawing=draw_marking.marking_out(sheet)), Pane(table=Table(
            f"Marks for {chosen.name}", ("Where", "What", "Over the ground there",
                                         "Over its base", "Drill"), rows,
            frozenset({2, 3, 4})))]


def sizing(sheet: Sheet) -> list[Pane]:
    """What each barrel buys, and what the rules of thumb would buy."""
    a, sizes = sheet.assessment, sheet.assessment.sizes
    if not sheet.garden.stores:
        return bank(sheet)
    if a.season.world.filled_at.any() and not a.season.world.inflow.any():
        return _filled_by_hand(sheet)
    rows = tuple((
        f"{n}{' (yours)' if i == sizes.own else ''}", sheet.show(size.usable_l, "volume"),
        sheet.show(size.given, "share"),
        "" if i == 0 else "+" + sheet.show(size.given - sizes.curve[i - 1].given, "share", 1),
        sheet.show(size.days_met, "share"), sheet.show(size.rain_l, "yearly"),
        sheet.show(size.filled_in_l if sheet.garden.taps else size.lacking_l, "yearly"),
        sheet.show(size.spilled, "share"), sheet.show(size.dry_run, "days"))
        for i, (n, size) in enumerate(zip(sizes.counts, sizes.curve, strict=True)))
    rules = tuple((RULES[rule.key],
                   *((sheet.show(rule.size_l, "volume"), f"{rule.barrels:.1f}")
                     if math.isfinite(rule.size_l) else ("no size", "–")),
                   sheet.show(rule.reliability, "share"),
                   rule_verdict(a, rule).show(sheet.system)) for rule in sizes.rules)
    lacking = ("Lacking a year" if not sheet.garden.taps else
               "Well and tap a year" if sheet.garden.wells else "Tap a year")
    saved = "Tap saved" if sheet.garden.taps else "Given a year"
    first, vessel = sheet.garden.store.name, sheet.garden.vessel
    buys = "buys" if sizes.as_set else "would buy"
    caption = (f"What each {vessel} like {first} {buys}, the other stores as they are"
               if len(sheet.garden.stores) > 1 else f"What each {vessel} {buys}")
    return [Pane(chart=charts.sizing_curve(sheet)), Pane(table=Table(
        caption,
        ("Number", "Usable", "Given by rain", "Gain", "Days not short", saved, lacking, "Spills",
         "Longest dry run"), rows, frozenset(range(1, 9)))), Pane(table=Table(
            "What rules of thumb would have you buy",
            ("Rule", "Usable", "So many of these", "Given by rain", "Here it is"), rules,
            frozenset({1, 2, 3})))]


def _filled_by_hand(sheet: Sheet) -> list[Pane]:
    """What each vessel buys where no rain comes to any: how seldom a person has to fill."""
    sizes = sheet.assessment.sizes
    rows = tuple((f"{n}{' (yours)' if i == sizes.own else ''}",
                  sheet.show(size.usable_l, "volume"), f"{size.fills:.0f}",
                  sheet.show(size.lacking_l, "yearly"), sheet.show(size.days_met, "share"))
                 for i, (n, size) in enumerate(zip(sizes.counts, sizes.curve, strict=True)))
    return [Pane(words="No rain comes to these stores, so that a larger one only means filling "
                       "less often."), Pane(table=Table(
        f"What each vessel like {sheet.garden.store.name} buys",
        ("Vessels", "Usable", "Filled in a year, times", "Lacking a year", "Days not short"), rows,
        frozenset(range(1, 5))))]


def overflow(sheet: Sheet) -> list[Pane]:
    """Where each overflow goes, the rain gardens, and the planner for wet ground."""
    garden, at = sheet.garden, sheet.fields.at
    panes = [Pane(add=(("rain-garden", "Add a rain garden"), ("wet-area", "Add wet ground"))),
             Pane(drawing=draw_overflow.courses(sheet)),
             Pane(grid=tuple((s.name, tuple(at(f"stores/{s.id}/{key}", s.name) for key in
                                            ("overflow_to", "overflow_mm", "overflow_down_m")))
                             for s in garden.stores),
                  heads=("Store", "Overflow goes to", "Bore", "Under the rim"))]
    if garden.rain_gardens:
        panes.append(Pane(grid=tuple((g.name, tuple(at(f"rain_gardens/{g.id}/{key}", g.name)
                                                    for key in ("length_m", "width_m", "depth_m",
                                                                "soil")))
                                     for g in garden.rain_gardens),
                          heads=("Rain garden", "Length", "Width", "Hollow", "Soil")))
    if garden.wet_areas:
        panes += [Pane(grid=tuple((w.name, tuple(at(f"wet_areas/{w.id}/{key}", w.name) for key in (
            "length_m", "width_m", "flood_m", "months", "soil")))
            for w in garden.wet_areas),
            heads=("Wet ground", "Length", "Width", "Flood depth", "Months a year", "Soil")),
            Pane(grid=tuple((w.name, tuple(at(f"wet_areas/{w.id}/{key}", w.name) for key in (
                "fall_m", "outfall_m", "outfall", "drain_days")))
                for w in garden.wet_areas),
                heads=("Its outfall", "Fall to it", "Way to it", "What it is", "To be dry within")),
            Pane(table=_wet(sheet))]
    return panes


def _wet(sheet: Sheet) -> Table:
    words = {"soaks": "leave it: it soaks away", "drain": "perforated drain",
             "pump": "gravel, sump and pump"}
    rows = []
    for wet in sheet.garden.wet_areas:
        plan = drainage.wet_plan(wet, sheet.assessment.library)
        rows.append((wet.name, words[plan.way], sheet.show(plan.stands_l, "volume"),
                     sheet.show(plan.flow_l_h, "flow", 0) if plan.flow_l_h else "–",
                     sheet.show(plan.drain_mm, "hole") if plan.drain_mm else "–",
                     sheet.show(1000 * plan.gravel_m3, "yearly") if plan.gravel_m3 else "–",
                     sheet.show(plan.sump_l, "volume") if plan.sump_l else "–",
                     sheet.show(plan.head_m, "length", 1) if plan.sump_l else "–"))
    return Table("The plan for wet ground", ("Ground", "What to do", "Stands there", "Flow",
                                             "Drain", "Gravel", "Sump", "Pump head"),
                 tuple(rows), frozenset(range(2, 8)))
