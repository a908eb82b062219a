"""Grow: what each plot drinks, and what the gardener's habits save of it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core.advise.habits import habits_of
from euhydra.core.demand import adjustments
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.learnt import source_of
from euhydra.core.garden.model import AnyPlot, Bed, Holder, Pots, day_of_year
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Remedy, StationReport, worst_first
from euhydra.core.stations.own_measure import against_the_hottest_week
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.wicking import wicking_findings
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

WORTH_L_DAY = 0.5  # a habit that saves less is not told


def report(r: Results) -> StationReport:
    """What Grow says."""
    need, peak = r.demand.need_by_month, r.demand.peak_month
    week = sum(t.hottest_week_l for t in r.demand.thirsts.values())
    verdict = say(f"In {MONTHS[peak]} the garden drinks " + "{need}, after rain; in its hottest "
                  "week {week}.", need=Amount(float(need[peak]), "daily"),
                  week=Amount(week, "daily"))
    return StationReport("grow", "Grow", verdict,
                         say("{v}", v=Amount(float(need[peak]), "daily")), _figures(r, peak),
                         worst_first([*_pot_waterings(r), *wicking_findings(r),
                                      *against_the_hottest_week(r),
                                      *_habits(r, peak), *_frost(r), *_non_potable(r)]))


def _figures(r: Results, peak: int) -> tuple[Figure, ...]:
    need = r.demand.need_by_month
    eto = float(r.weather.eto_mm[:, MONTH_OF_DAY == peak].mean())
    balance = "root-zone balance by day, FAO-56 eq. 85, recalled"
    figures = [Figure("need_peak", f"All plots, {MONTHS[peak]}", Amount(float(need[peak]), "daily"),
                      Working("the plots' needs added up", tuple(
                          Term(r.garden.plot(t.plot).name,
                               Amount(float(t.net_by_month[peak]), "daily"))
                          for t in r.demand.thirsts.values()), balance, "published")),
               Figure("need_week", "All plots, hottest week", Amount(sum(
                   t.hottest_week_l for t in r.demand.thirsts.values()), "daily"), Working(
                   f"thirstiest seven days of each year, mean of {r.years} years", tuple(
                       Term(r.garden.plot(t.plot).name, Amount(t.hottest_week_l, "daily"))
                       for t in r.demand.thirsts.values()), balance, "published")),
               Figure("need_year", "All plots in a year",
                      Amount(float(sum(t.net_l.sum() for t in r.demand.thirsts.values()))
                             / r.weather.years, "yearly"),
                      Working("what refills the root zones on watering days, mean of "
                              f"{r.years} years, all plots added", tuple(
                          Term(r.garden.plot(t.plot).name, Amount(
                              float(t.net_l.sum()) / r.years, "yearly"))
                          for t in r.demand.thirsts.values()), balance, "published"))]
    return (*figures, *(_plot_figure(r, plot, peak, eto) for plot in r.garden.plots))


def _plot_figure(r: Results, plot: AnyPlot, peak: int, eto: float) -> Figure:
    t, crop = r.demand.thirsts[plot.id], r.library.crops[plot.main.crop]
    days = peak == MONTH_OF_DAY
    air = float(adjustments.air_factor(plot, r.daylight_h)[days].mean())
    rained = not isinstance(plot, Holder) and plot.cover == "open"
    own = r.own_l_day(plot)
    terms = [Term("ETo", Amount(eto, "et"), MONTHS[peak]),
             Term("Kc, month's mean", Amount(float(t.kc[days].mean()), "ratio"),
                  f"{crop.name}: {crop.source}"
                  + (f"; under {plot.mulch}" if plot.mulch != "none" else "")),
             Term("area", Amount(t.area_m2, "area"),
                  "ground" if isinstance(plot, Bed) else "leaf area"),
             Term("air about it", Amount(air, "ratio"),
                  "shade, wind, glass, warm sides; from memory"),
             Term("crop uses", Amount(float(t.use_by_month[peak]), "daily")),
             Term("roots can draw", Amount(t.raw_l, "volume"), "before they feel it"),
             Term("hottest week", Amount(t.hottest_week_l, "daily"))]
    if r.garden.thirst != 1:
        terms.insert(4, Term("this garden's thirst", Amount(r.garden.thirst, "ratio"),
                             source_of(r.garden, "thirst")))
    if own:
        terms.append(Term("you give", Amount(own, "daily"), "your own measure"))
    return Figure(f"need_{plot.id}", plot.name, Amount(float(t.net_by_month[peak]), "daily"),
                  Working("ETo × Kc × area × air" + (
                      " × own thirst" if r.garden.thirst != 1 else "") + (
                      ", less the rain that the root zone kept" if rained else ""), tuple(terms),
                      "FAO-56 single crop coefficient, chapter 6, recalled", "published"))


def _pot_waterings(r: Results) -> list[Finding]:
    found = []
    for t in r.demand.thirsts.values():
        plot = r.garden.plot(t.plot)
        if not t.potted or t.always_on or t.waterings_a_day < 2:
            continue
        found.append(Finding(
            "grow.pot-waterings", "care",
            say(f"{quoted(plot.name)}: " + "{n} waterings a day at the height of summer",
                n=Amount(t.waterings_a_day, "count")),
            say("The row uses {use} on such a day, and its mix gives {raw} before the roots feel "
                "it.", use=Amount(t.peak_use_l, "drop"), raw=Amount(t.raw_l, "drop")),
            _bigger_pots(r, plot)))
    return found


def _bigger_pots(r: Results, plot: AnyPlot) -> tuple[Remedy, ...]:
    """Deeper pots of the same mouth: the plants are no larger and the store is."""
    if not isinstance(plot, Pots):
        return ()
    deeper = round(plot.height_m * 1.5, 2)
    if deeper > 1.5:
        return ()
    edit = SetValue(f"plots/{plot.id}/height_m", deeper)
    times = r.thirst_of(plot.model_copy(update={"height_m": deeper}), "deeper").waterings_a_day
    if times >= r.demand.thirsts[plot.id].waterings_a_day:
        return ()
    return (Remedy(f"deeper-{plot.id}", say("Pots {h} deep", h=Amount(deeper, "small")),
                   say("{n} a day", n=Amount(times, "count")), edit),)


def _habits(r: Results, peak: int) -> list[Finding]:
    """For the thirstiest plot, what each habit would save."""
    plot = max(r.garden.plots, key=lambda p: float(r.demand.thirsts[p.id].net_by_month[peak]))
    saving = [h for h in habits_of(r, plot) if h.saves_l_day >= WORTH_L_DAY]
    if not saving:
        return []
    best = max(saving, key=lambda h: h.saves_l_day)
    return [Finding(
        "grow.habits", "note",
        say(f"{quoted(plot.name)}: " + best.label.lower() + " saves {l}",
            l=Amount(best.saves_l_day, "daily")),
        say(f"It is the thirstiest plot in {MONTHS[peak]}, at " + "{need}.",
            need=Amount(float(r.demand.thirsts[plot.id].net_by_month[peak]), "daily")),
        tuple(Remedy(f"{h.key}-{plot.id}", Phrase(h.label), say(
            "saves {l}", l=Amount(h.saves_l_day, "daily")), h.edit)
            for h in saving))]


def _frost(r: Results) -> list[Finding]:
    """A warm-season crop that stands outdoors past the first frost, or before the last one."""
    site = r.garden.site
    if not site.last_frost or not site.first_frost:
        return []
    last, first = (day_of_year(d) for d in (site.last_frost, site.first_frost))
    found = []
    for plot in r.garden.plots:
        for planting in plot.plantings:
            crop = r.library.crops[planting.crop]
            day = day_of_year(planting.planted)
            early = (day - first) % 365 < (last - first) % 365
            if crop.season == "warm" and crop.thirst != "woody" and plot.cover == "open" and early:
                found.append(Finding(
                    "grow.frost", "care",
                    say(f"{quoted(plot.name)}: {crop.name.lower()} goes out on " + "{d}, before "
                        "the last frost", d=Amount(day, "date")),
                    say("The last frost is about {f}. Plant after it, or under glass.",
                        f=Amount(last, "date"))))
    return found[:3]


def _non_potable(r: Results) -> list[Finding]:
    stored = [p for p in r.garden.plots if not r.garden.tap_of(r.garden.source_of(p))]
    if not stored:
        return []
    raw = [p for p in stored
           if any(r.library.crops[x.crop].edible_raw in ("leaf", "root") for x in p.plantings)]
    if not raw:
        return [Finding("grow.non-potable", "note", Phrase("This is not drinking water"),
                        say("Label the outlets of {n:plot|plots}. Nobody drinks from them.",
                            n=Amount(len(stored), "count")), caution=True)]
    return [Finding(
        "grow.non-potable", "note",
        Phrase("Leaves or roots here are eaten raw: water the soil, not the leaf"),
        say("On {n} of {m} plots (" + quoted(", ".join(p.name for p in raw)) + "). Stored water "
            "may carry bird droppings: wash the harvest in drinking water, and label the outlets "
            "as not for drinking.", n=Amount(len(raw), "count"),
            m=Amount(len(r.garden.plots), "count")), caution=True)]
