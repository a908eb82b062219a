"""Panes of Push: section, every outlet, gravity against pump, balance, through a watering."""

from __future__ import annotations

import math
from collections.abc import Callable

from euhydra.core.advise.drilled_rows import DrilledRow, drilled_row
from euhydra.core.garden.model import Bed, Store, Tower, Zone
from euhydra.core.hydraulics import equalising, profile
from euhydra.core.hydraulics.balancing import CUP_L, Branch, balanced, towers_balanced
from euhydra.core.hydraulics.drilled import DrilledFlow, DrilledPipe
from euhydra.core.season.drawdown import one_watering
from euhydra.core.stations.drums import busiest_day, leaves_of
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.worst import part_names
from euhydra.web import charts
from euhydra.web.drawings import outlets as draw_outlets
from euhydra.web.drawings import push
from euhydra.web.panes.base import Fold, Folds, Links, Pane, Table, bar
from euhydra.web.sheet import Sheet


def _levels(sheet: Sheet, base: str) -> Pane:
    return Pane(links=Links("Water", tuple(
        (f"{base}&level={key}", words, key == sheet.level)
        for key, words in (("full", "full"), ("half", "half"), ("low", "nearly empty"))),
        listed=True))


def section(sheet: Sheet) -> list[Pane]:
    """The long section, with a zone, a plot in it and a water level to choose."""
    zone, _, way = sheet.chosen_way
    base = f"/g/{sheet.garden.id}/push?view=section"
    zones = Links("Zone open", tuple(
        (f"{base}&zone={z.id}&level={sheet.level}", z.name, z.id == zone.id)
        for z in sheet.garden.zones))
    here = next((p.plot for p in way.plots if p.on_the_way), "")
    plots = Links("Way to", tuple(
        (f"{base}&zone={zone.id}&level={sheet.level}&plot={p}", sheet.garden.plot(p).name,
         p == here) for p in zone.plots))
    tapped = sheet.garden.tap_of(zone.source) is not None
    return [*([] if tapped else [_levels(sheet, f"{base}&zone={zone.id}&plot={here}")]),
            Pane(links=zones), *([Pane(links=plots)] if len(zone.plots) > 1 else []),
            Pane(drawing=push.draw(sheet)),
            Pane(table=Table("Where the pressure goes, in order", ("Part", "Takes", "Left over it"),
                             lost_table(sheet), frozenset({1, 2})))]


def outlets(sheet: Sheet) -> list[Pane]:
    """Every outlet on the plan, and every plot's in a table."""
    base = f"/g/{sheet.garden.id}/push?view=outlets"
    return [*([_levels(sheet, base)] if sheet.garden.stores else []),
            Pane(drawing=draw_outlets.plan(sheet), zoom=True),
            Pane(table=_outlet_table(sheet))]


def _outlet_table(sheet: Sheet) -> Table:
    rows, wished = [], sheet.every_wish
    for zone in sheet.garden.zones:
        levels = sheet.assessment.flows[zone.id]
        for plot_id in zone.plots:
            here = {k: [o for o in f.outlets if o.plot == plot_id] for k, f in levels.items()}
            shown = [w for w in wished.values() if w.outlet.plot == plot_id]
            each = [w.outlet.flow_l_h / w.outlet.each for w in shown]
            rows.append((
                sheet.garden.plot(plot_id).name,
                str(sum(o.each for o in here["half"] if not o.open_end)),
                sheet.show(min(each), "flow", 2), sheet.show(max(each), "flow", 2),
                f"{100 * min(w.share for w in shown):.0f} to "
                f"{100 * max(w.share for w in shown):.0f} %"
                if zone not in sheet.garden.float_zones else "as it drinks",
                sheet.show(min(o.head_m for o in here["low"]), "head"),
                sheet.show(here["low"][0].least_head_m, "head"),
                *(sheet.show(levels[k].plot_flow_l_h(plot_id), "flow")
                  for k in ("full", "half", "low"))))
    return Table(
        "Every plot's outlets; least and most with the water chosen above",
        ("Plot", "Outlets", "Least", "Most", "Of its wish", "Least pressure, nearly empty", "Needs",
         "All, full", "half", "nearly empty"), tuple(rows), frozenset(range(1, 10)))


def _stores(sheet: Sheet) -> list[Store]:
    drawn = {z.source for z in sheet.garden.zones}
    return [s for s in sheet.garden.stores if s.id in drawn]


def chosen_store(sheet: Sheet, base: str) -> tuple[Store | None, list[Pane]]:
    """The store that is looked at, of those that a zone draws from, and links to the others."""
    stores = _stores(sheet)
    chosen = next((s for s in stores if s.id == sheet.store), stores[0] if stores else None)
    links = [Pane(links=Links("Drawn from", tuple(
        (f"{base}&store={s.id}", s.name, s is chosen) for s in stores)))] if len(
            stores) > 1 else []
    return chosen, links


def balance(sheet: Sheet) -> list[Pane]:
    """Valve settings of a manifold, drilled pipes, barrels that level, drums that empty."""
    zones = [z for z in sheet.garden.zones if len(z.plots) > 1]
    panes: list[Pane] = []
    if zones:
        zone = next((z for z in zones if z.id == sheet.zone), zones[0])
        base = f"/g/{sheet.garden.id}/push?view=balance"
        panes.append(Pane(links=Links("Manifold", tuple(
            (f"{base}&zone={z.id}", z.name, z is zone) for z in zones))))
        found = _branches(sheet, zone)
        cup = sheet.show(CUP_L[sheet.system], "cup")
        panes.append(Pane(table=_balance_table(sheet, zone, found)))
        fine = ("No hand valve can be set so finely as some of these flows ask: there drill the "
                "hole that is named through a plug and push it into the branch."
                if any(b.too_fine for b in found) else "")
        panes.append(Pane(words=f"Nearest first; then a cup under one outlet of each plot: "
                                f"how long {cup} take."))
        if fine:
            panes.append(Pane(form=Folds((Fold("Where a valve is too coarse", lines=(fine,)),))))
        panes.append(Pane(table=_evened_table(sheet, zone, found)))
    else:
        panes.append(Pane(words="No zone here waters two plots or more, so that there is nothing "
                                "to even out by valves. Plots that share a zone get a valve each "
                                "here."))
    for tower in sheet.garden.plots:
        if isinstance(tower, Tower) and tower.count > 1 and tower.watered == "lines":
            panes.append(Pane(table=_towers_table(sheet, tower)))
    for bed in sheet.garden.plots:
        if isinstance(bed, Bed) and (row := drilled_row(sheet.assessment, bed)):
            panes += [bar(sheet, (f"plots/{bed.id}/hole_mm", bed.name),
                          (f"plots/{bed.id}/end", bed.name)),
                      Pane(table=_drilled_table(sheet, bed, row))]
    level = equalising.levellings(sheet.garden)
    if level:
        panes.append(Pane(table=Table(
            "Barrels that level each other", (
                "Joint", "Kind", "Bore",
                f"With levels {sheet.show(equalising.SEEN_M, 'small')} apart",
                f"{sheet.show(equalising.APART_M, 'small')} apart to level"),
            tuple((x.name, x.kind, sheet.show(x.bore_mm, "bore"), sheet.show(x.flow_l_h, "flow"),
                   sheet.show(x.minutes, "minutes")) for x in level), frozenset({2, 3, 4}))))
    if sheet.garden.drums:
        panes.append(Pane(table=_drum_table(sheet)))
    return panes


def _branches(sheet: Sheet, zone: Zone) -> tuple[Branch, ...]:
    """The valves that give each plot its share at the height of summer."""
    a = sheet.assessment
    shares = {p: float(a.demand.thirsts[p].net_by_month[a.demand.peak_month]) for p in zone.plots}
    return balanced(a.garden, a.library, zone, a.flows[zone.id]["half"],
                    shares if all(v > 0 for v in shares.values()) else None)


def _balance_table(sheet: Sheet, zone: Zone, found: tuple[Branch, ...]) -> Table:
    a = sheet.assessment
    rows = tuple((
        a.garden.plot(b.key).name, *_turned(b),
        sheet.show(b.cup_s, "seconds", 0) if math.isfinite(b.cup_s) else "–") for b in found)
    return Table(f"{zone.name}: valves that give each plot its share, half full", (
        "Plot", "Ball valve's lever", "Screw valve of 4 turns",
        f"{sheet.show(CUP_L[sheet.system], 'cup')} under one outlet"), rows, frozenset({3}))


def _towers_table(sheet: Sheet, tower: Tower) -> Table:
    a = sheet.assessment
    zone = next(z for z in a.garden.zones if tower.id in z.plots)
    rows = tuple((b.key, sheet.show(b.before_l_h, "flow", 2), sheet.show(b.after_l_h, "flow", 2),
                  *_turned(b), sheet.show(b.cup_s, "seconds", 0) if math.isfinite(b.cup_s) else "–")
                 for b in towers_balanced(a.garden, tower, a.flows[zone.id]["half"]))
    return Table(f"{tower.name}: each riser's valve", (
        "Tower", "All open", "Evened", "Ball valve's lever", "Screw valve of 4 turns",
        f"{sheet.show(CUP_L[sheet.system], 'cup')} under one outlet"), rows,
        frozenset({1, 2, 5}))


def _turned(b: Branch) -> tuple[str, str]:
    """How a branch's valve is set: of a lever, of a screw."""
    return ("too fine for it" if b.lever_deg is None else "open" if b.lever_deg < 1 else
            f"{b.lever_deg:.0f}° of 90° across",
            "too fine for it" if b.open_eighths is None else "open" if b.open_eighths >= 8 else
            f"{2 * b.open_eighths:.1f} quarter turns open")


def _evened_table(sheet: Sheet, zone: Zone, found: tuple[Branch, ...]) -> Table:
    rows = tuple((
        sheet.garden.plot(b.key).name, sheet.show(b.way_m, "length"),
        sheet.show(b.before_l_h, "flow"), sheet.show(b.after_l_h, "flow"),
        sheet.show(b.hole_mm, "bore") if b.hole_mm else "none",
        sheet.show(b.holed_l_h, "flow")) for b in found)
    return Table(f"{zone.name}: what valves do, or drilled plugs", (
        "Plot", "From the source", "All open", "Evened", "Or a plug drilled", "Then"), rows,
        frozenset(range(1, 6)))


def _drilled_table(sheet: Sheet, bed: Bed, row: DrilledRow) -> Table:
    end, other = ("open", "shut") if row.each.open_end else ("shut", "open")

    def told(head: str, gives: Callable[[DrilledFlow], str],
             drill: Callable[[DrilledPipe], str] = lambda _: "–") -> tuple[str, ...]:
        return (head, gives(row.now), gives(row.otherwise), drill(row.each), gives(row.each_gives),
                drill(row.thirds), gives(row.thirds_give))

    def hole(i: int) -> tuple[str, ...]:
        return told(str(i * row.every + 1), lambda f: sheet.show(f.holes_l_h[i], "flow", 2),
                    lambda p: sheet.show(p.bores_mm[i], "bore"))

    rows = [hole(i) for i in range(len(row.now.holes_l_h))]
    rows.append(told("out of the end",
                     lambda f: sheet.show(f.end_l_h, "flow", 2) if f.end_l_h > 0 else "–"))
    rows.append(told("least of the mean", lambda f: sheet.show(f.evenness, "share")))
    return Table(
        f"{bed.name}: a row of drilled pipe under {sheet.show(row.head_m, 'head')}", (
            "Hole", f"Now, its end {end}", f"Its end {other}", "A drill for each", "Then",
            "One for each third", "Then"), tuple(rows), frozenset(range(1, 7)))


def _drum_table(sheet: Sheet) -> Table:
    rows = []
    for drain in sheet.garden.drums:
        leaves = leaves_of(sheet.assessment, drain)
        day = busiest_day(sheet.assessment, drain)
        rows.append((drain.name, sheet.show(leaves.full_l_h, "flow"),
                     sheet.show(leaves.low_l_h, "flow"),
                     "never" if math.isinf(day.held_h) else sheet.show(day.held_h, "hours"),
                     f"{day.starts}" if leaves.pumped else "no pump"))
    return Table("Surge drums through their lines, on the busiest day",
                 ("Drum", "Lets through when full", "At its last", "Empty again after",
                  "Starts of its pump"), tuple(rows), frozenset(range(1, 5)))


def through_the_day(sheet: Sheet) -> list[Pane]:
    """One watering as the timer is set, from full barrels: the level, and what each plot gets."""
    base = f"/g/{sheet.garden.id}/push?view=day"
    store, links = chosen_store(sheet, base)
    month = sheet.month if sheet.month is not None else sheet.assessment.demand.peak_month
    months = Pane(links=Links("Month", tuple(
        (f"{base}&month={m + 1}" + (f"&store={store.id}" if store else ""), MONTHS[m][:3],
         m == month) for m in range(12))))
    if store is None:
        return [Pane(words="A tap feeds these lines: its flow does not fade through a watering.")]
    run = one_watering(sheet.assessment.season_inputs, store, month)
    if run is None:
        return [*links, months, Pane(words=f"Nothing is watered from {store.name} in "
                                           f"{MONTHS[month]}.")]
    names = {z.id: z.name for z in sheet.garden.zones}
    rows = tuple((names[p.zone], sheet.garden.plot(p.plot).name, sheet.show(p.wanted_l, "drop"),
                  sheet.show(p.litres, "drop"), sheet.show(p.share, "share"))
                 for p in run.plots)
    worst = run.worst
    dry = f"; the {sheet.garden.vessel}s run dry on the way" if run.ran_dry else ""
    return [*links, months, Pane(chart=charts.watering(sheet, run)), Pane(table=Table(
        f"{MONTHS[month]}: one watering takes {sheet.show(run.took_min, 'minutes')}{dry}; "
        f"{sheet.garden.plot(worst.plot).name} comes off worst, at "
        f"{sheet.show(worst.share, 'share')} of its wish",
        ("Zone", "Plot", "Wants", "Gets", "Of its wish"), rows, frozenset({2, 3, 4})))]


def lost_table(sheet: Sheet) -> tuple[tuple[str, str, str], ...]:
    """Where each metre is lost on the way: part, what it takes, what is left over the outlet."""
    _, _, way = sheet.chosen_way
    names, end = part_names(sheet.assessment), way.stations[-1].z_m
    left = way.stations[0].head_m
    rows = [("water over the outlet", "", sheet.show(left - end, "head"))]
    for part, lost in profile.lost_by(way):
        left -= lost
        rows.append((names.get(part, "pipes, tees and bends"),
                     ("+" if lost < 0 else "−") + sheet.show(abs(lost), "head", 3),
                     sheet.show(left - end, "head")))
    return tuple(rows)
