"""Panes of Grow: the plots, thirst by month and today, plantings, habits, self-watering rows."""

from __future__ import annotations

import math
from collections.abc import Mapping

from euhydra.core.advise.habits import Habit, habits_of
from euhydra.core.demand.crop_water import PlotThirst, stage_on
from euhydra.core.demand.plants import stands_in
from euhydra.core.editing.makers import MAKERS
from euhydra.core.garden.base import day_of_year, month_day
from euhydra.core.garden.model import AnyPlot, Wicking
from euhydra.core.garden.plot_kinds import PLOT_KINDS
from euhydra.core.hydraulics.float_valves import refill_min
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.wicking import carried_by_crop, wicking_rows
from euhydra.core.units import show_month_day
from euhydra.web import charts
from euhydra.web.drawings import grow as draw_grow
from euhydra.web.measures import OWN_KEYS
from euhydra.web.panes.base import Links, Pane, Paste, Table
from euhydra.web.sheet import Sheet

HABIT_FIELDS = ("soil", "mulch", "shade", "shade_h", "exposure", "cover")


LIST_OF_BEDS = Paste(
    "beds", "Paste a list of beds", "A line for each bed: name, length, width, crop. A size may be "
    "one cell, as in 8 x 4 ft. They stand beside the others and are watered alike.",
    "Put these beds in")


def plots(sheet: Sheet) -> list[Pane]:
    """All plots, and what may be added, one by one or as a list."""
    return [Pane(add=tuple((kind, MAKERS[kind][0]) for kind in PLOT_KINDS)),
            Pane(drawing=draw_grow.plots(sheet)), Pane(form=LIST_OF_BEDS),
            Pane(twin=True, table=_plots(sheet))]


def _plots(sheet: Sheet) -> Table:
    """What stands where, its size and what it drinks."""
    demand, month = sheet.assessment.demand, sheet.assessment.demand.peak_month
    crops = sheet.assessment.library.crops
    rows = tuple((p.name, ", ".join(crops[x.crop].name for x in p.plantings),
                  sheet.show(p.length_m, "length"), sheet.show(p.breadth_m, "length"),
                  sheet.show(float(demand.thirsts[p.id].net_by_month[month]), "daily"))
                 for p in sheet.garden.plots)
    return Table(f"The plots, and what each drinks in {MONTHS[month]}",
                 ("Plot", "Crops", "Length", "Width", "Drinks"), rows, frozenset({2, 3, 4}))


def thirst(sheet: Sheet) -> list[Pane]:
    """What the plots drink, month by month."""
    plots_ = sheet.garden.plots
    needs = [sheet.assessment.demand.thirsts[p.id].net_by_month for p in plots_]
    whole = sheet.assessment.demand.need_by_month
    rows = tuple((MONTHS[m], *(sheet.show(float(n[m]), "daily") for n in needs),
                  sheet.show(float(whole[m]), "daily")) for m in range(12))
    return [Pane(chart=charts.thirst_by_month(sheet)), Pane(twin=True, table=Table(
        "Need by month, after rain", ("Month", *(p.name for p in plots_), "All"), rows,
        frozenset(range(1, len(plots_) + 2))))]


def today(sheet: Sheet) -> list[Pane]:
    """Every plot today: stage, plants, litres; beside the hottest week and one's own measure."""
    day = show_month_day(month_day(sheet.today))
    every = [_today_row(sheet, plot) for plot in sheet.garden.plots]
    rows = tuple((r[0], r[3]) for r in every)
    more = tuple((r[0], r[1], r[2], *r[4:]) for r in every)
    total = sum(t.about(sheet.today) for t in sheet.assessment.demand.thirsts.values())
    fields = tuple((plot.name, tuple(sheet.fields.at(f"plots/{plot.id}/{key}", plot.name)
                                     for key in OWN_KEYS)) for plot in sheet.garden.plots)
    base = f"/g/{sheet.garden.id}/grow?view=today"
    days = Links("About", (
        (base, "today", not sheet.asked_day),
        *((f"{base}&day={m + 1:02d}-15", f"15 {MONTHS[m][:3]}", sheet.asked_day and sheet.today
           == day_of_year(f"{m + 1:02d}-15")) for m in range(12))))
    return [Pane(links=days), Pane(table=Table(
        f"About {day}: {sheet.show(total, 'daily')} in all",
        ("Plot", "About today"), rows, frozenset({1}))),
        Pane(table=Table("What grows there, what its roots hold, what you give", (
            "Plot", "Stage", "Plants", "Hottest week", "the same a week", "Roots hold",
            "Waterings, hottest day", "You give"), more, frozenset(range(2, 8)))),
        Pane(grid=fields, heads=(
            "Your own measure", "cans a day, as litres", "or a depth a week",
            "or minutes a day", "the plot is run by"))]


def _today_row(sheet: Sheet, plot: AnyPlot) -> tuple[str, ...]:
    t = sheet.assessment.demand.thirsts[plot.id]
    crops = sheet.assessment.library.crops
    stages = "; ".join(dict.fromkeys(
        f"{crops[p.crop].name.lower()}: {stage_on(crops[p.crop], p.planted, sheet.today) or 'rest'}"
        for p in plot.plantings))
    standing = sum(len(s.places) for s in stands_in(plot, sheet.assessment.library))
    own = sheet.assessment.own_l_day(plot)
    return (plot.name, stages, str(standing), sheet.show(t.about(sheet.today), "daily"),
            sheet.show(t.hottest_week_l, "daily"),
            sheet.show(7 * t.hottest_week_l / t.area_m2, "rain") if t.area_m2 else "–",
            sheet.show(t.raw_l, "volume"), _how_often(t), sheet.show(own, "daily") if own else "–")


def _how_often(t: PlotThirst) -> str:
    if t.always_on:
        return "always on"
    return f"{t.waterings_a_day} a day" if t.potted else f"every {t.interval_days} days"


def plantings(sheet: Sheet) -> list[Pane]:
    """What grows where: any number of crops in a plot, each by count or by spacing."""
    every = [(plot, i, p) for plot in sheet.garden.plots
             for i, p in enumerate(plot.plantings, start=1)]
    rows = tuple((plot.name if i == 1 else f"{plot.name}, crop {i}", tuple(
        sheet.fields.at(f"plots/{plot.id}/plantings/{p.id}/{key}", f"{plot.name}, crop {i}")
        for key in ("crop", "planted", "share", "count", "spacing_m"))) for plot, i, p in every)
    gone = tuple((f"plots/{plot.id}/plantings/{p.id}", f"Remove crop {i} of {plot.name}")
                 for plot, i, p in every if len(plot.plantings) > 1)
    add = (*((f"plots/{plot.id}/plantings", f"Add a crop to {plot.name}")
             for plot in sheet.garden.plots), ("crop", MAKERS["crop"][0]))
    return [Pane(grid=rows, heads=("plot", "crop", "planted", "share",
                                   "plants (0: as many as fit)", "spacing (0: the crop's)")),
            Pane(add=add, remove=gone)]


def habits(sheet: Sheet) -> list[Pane]:
    """What each habit would save on each plot in the peak month, and the habits as they are."""
    a = sheet.assessment
    found = {plot.id: habits_of(a, plot) for plot in sheet.garden.plots}
    keys = (("mulch", "Mulch"), ("shade", "Shade at noon"), ("soil", "Richer mix"),
            ("wind", "Windbreak"), ("packed", "Packed"))
    peak = a.demand.peak_month
    rows = tuple((plot.name, sheet.show(float(a.demand.thirsts[plot.id].net_by_month[peak]),
                                        "daily"),
                  *(_saving(sheet, found[plot.id], key) for key, _ in keys))
                 for plot in sheet.garden.plots)
    fields = tuple((plot.name, tuple(sheet.fields.at(f"plots/{plot.id}/{key}", plot.name)
                                     for key in HABIT_FIELDS)) for plot in sheet.garden.plots)
    best = tuple((plot.name, *_best(sheet, found[plot.id], dict(keys)))
                 for plot in sheet.garden.plots)
    return [Pane(table=Table(
        f"What helps each plot most in {MONTHS[a.demand.peak_month]}",
        ("Plot", "Best habit", "Saves"), best, frozenset({2}))), Pane(table=Table(
        f"What each habit saves in {MONTHS[a.demand.peak_month]}, tried alone",
        ("Plot", "Needs", *(words for _, words in keys)), rows, frozenset(range(1, 7)))),
        Pane(grid=fields, heads=("As it is", "mix", "mulch", "shaded by", "hours about noon",
                                 "wind", "stands in the"))]


def _best(sheet: Sheet, found: tuple[Habit, ...], words: Mapping[str, str]) -> tuple[str, str]:
    best = max(found, key=lambda h: h.saves_l_day, default=None)
    if best is None or best.saves_l_day < 0.05:
        return "none is left", "–"
    return words.get(best.key, best.label), _saving(sheet, found, best.key)


def _saving(sheet: Sheet, found: tuple[Habit, ...], key: str) -> str:
    habit = next((h for h in found if h.key == key), None)
    if habit is None:
        return "–"
    return sheet.show(max(habit.saves_l_day, 0.0), "drop") if abs(
        habit.saves_l_day) >= 0.05 else "nothing"


def _carried(sheet: Sheet, row: Wicking) -> Table:
    crops = sheet.assessment.library.crops
    found = carried_by_crop(sheet.assessment, row)
    return Table(
        f"{row.name}: plants that one float box carries down a tube of "
        f"{sheet.show(row.tube_mm, 'bore')}, in the hottest hour",
        ("Crop", "Each drinks a day", "It carries", "Held back by"), tuple(
            (crops[crop].name, sheet.show(each, "drop"), str(told.carries),
             "its tubes" if told.tube_decides else "six thirsty or thirteen modest plants")
            for crop, (each, told) in found.items()), frozenset({1, 2}))


def _minutes(sheet: Sheet, minutes: float) -> str:
    return "nothing comes" if math.isinf(minutes) else sheet.show(minutes, "minutes", 1)


def self_watering(sheet: Sheet) -> list[Pane]:
    """The self-watering rows; with none, what they are and a way to add one."""
    rows = wicking_rows(sheet.assessment)
    add = Pane(add=tuple((kind, MAKERS[kind][0]) for kind in (
        "gutter", "chain", "float-pots", "hand-tank")))
    if not rows:
        return [Pane(words="No self-watering row yet. Buckets stand over a gutter kept full by a "
                           "float valve, or in a chain off one float box, or each pot has its own "
                           "valve. Add one here."), add]
    table = Table("In the hottest week", (
        "Row", "Plants", "Each drinks", "Free water", "A day comes back in",
        "Cut off, it lasts",
        "Float box carries", "Feed when fruit sets"), tuple((
            row.name, str(row.count), sheet.show(state.each_l_day, "drop"),
            sheet.show(state.held_l, "drop"),
            _minutes(sheet, refill_min(sheet.assessment.flows, sheet.assessment.demand, row)),
            sheet.show(state.days_cut_off, "days", 1),
            str(state.chain.carries) if row.kind == "chain" else "–",
            sheet.show(state.feed_ml, "dose")) for row, state in rows),
        frozenset(range(1, 8)))
    fields = tuple((row.name, tuple(sheet.fields.at(f"plots/{row.id}/{key}", row.name) for key in (
        "count", "bucket_l", "tube_mm", "gutter_mm", "fed_by")))
        for row, _ in rows if isinstance(row, Wicking))
    return [add, Pane(drawing=draw_grow.self_watering(sheet)), Pane(table=table),
            *(Pane(table=_carried(sheet, row)) for row, _ in rows if row.kind == "chain"),
            Pane(grid=fields, heads=("Row", "how many", "each holds", "tube between", "gutter",
                                     "water from"))]
