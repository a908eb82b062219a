"""Grow: what each plot drinks."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from euhydra.core import thirst
from euhydra.core.advice import Finding, Remedy, StationReport, worst_first
from euhydra.core.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.garden.edits import SetValue
from euhydra.core.garden.model import Pots
from euhydra.core.reckoning import Reckoning
from euhydra.core.stations.place import MONTHS
from euhydra.core.weather.generator import MONTH_OF_DAY


def need_by_month(r: Reckoning) -> NDArray[np.float64]:
    """Litres a day that all plots need after rain, by month (12,)."""
    return np.asarray(np.sum([t.net_by_month for t in r.thirsts.values()], axis=0))


def peak_month(r: Reckoning) -> int:
    """The month with the largest need."""
    return int(np.argmax(need_by_month(r)))


def report(r: Reckoning) -> StationReport:
    """What Grow says."""
    need, peak = need_by_month(r), peak_month(r)
    verdict = say(f"In {MONTHS[peak]} the garden drinks " + "{need}, after rain.",
                  need=Amount(float(need[peak]), "daily"))
    return StationReport("grow", "Grow", verdict,
                         say("{v}", v=Amount(float(need[peak]), "daily")), _figures(r, peak),
                         worst_first([*_pot_waterings(r), *_non_potable(r)]))


def _figures(r: Reckoning, peak: int) -> tuple[Figure, ...]:
    need = need_by_month(r)
    eto = float(r.weather.eto_mm[:, MONTH_OF_DAY == peak].mean())
    figures = [Figure("need_peak", f"All plots, {MONTHS[peak]}", Amount(float(need[peak]), "daily"),
                      Working("the plots' needs added up", tuple(
                          Term(r.garden.plot(t.plot).name,
                               Amount(float(t.net_by_month[peak]), "daily"))
                          for t in r.thirsts.values()),
                          "root-zone balance by day, FAO-56 eq. 85, recalled", "published")),
               Figure("need_year", "All plots in a year",
                      Amount(float(sum(t.net_l.sum() for t in r.thirsts.values()))
                             / r.weather.years, "yearly"),
                      Working("what refills the root zones on watering days, mean of "
                              f"{r.years} years", (),
                              "root-zone balance by day, FAO-56 eq. 85, recalled", "published"))]
    for t in r.thirsts.values():
        plot = r.garden.plot(t.plot)
        crop = r.library.crops[plot.plantings[0].crop]
        kc = float(t.kc[MONTH_OF_DAY == peak].mean())
        figures.append(Figure(
            f"need_{t.plot}", plot.name, Amount(float(t.net_by_month[peak]), "daily"),
            Working("ETo × Kc × area" + (" × exposure" if isinstance(plot, Pots) else
                                         ", less the rain that the root zone kept"),
                    (Term("ETo", Amount(eto, "et"), MONTHS[peak]),
                     Term("Kc, month's mean", Amount(kc, "ratio"), f"{crop.name}: {crop.source}"),
                     Term("area", Amount(t.area_m2, "area"),
                          "leaf area" if isinstance(plot, Pots) else ""),
                     *([Term("exposure", Amount(thirst.POT_EXPOSURE, "ratio"), "from memory")]
                       if isinstance(plot, Pots) else []),
                     Term("crop uses", Amount(float(t.use_by_month[peak]), "daily")),
                     Term("roots can draw", Amount(t.raw_l, "volume"), "before they feel it")),
                    "FAO-56 single crop coefficient, chapter 6, recalled", "published")))
    return tuple(figures)


def _pot_waterings(r: Reckoning) -> list[Finding]:
    found = []
    for t in r.thirsts.values():
        plot = r.garden.plot(t.plot)
        if not isinstance(plot, Pots) or t.waterings_a_day < 2:
            continue
        found.append(Finding(
            "grow.pot-waterings", "care",
            say(f"{quoted(plot.name)}: " + "{n} waterings a day at the height of summer",
                n=Amount(t.waterings_a_day, "count")),
            say("The row uses {use} on such a day, and its mix gives {raw} before the roots feel "
                "it.", use=Amount(t.peak_use_l, "drop"), raw=Amount(t.raw_l, "drop")),
            _bigger_pots(r, plot)))
    return found


def _bigger_pots(r: Reckoning, plot: Pots) -> tuple[Remedy, ...]:
    """Deeper pots of the same mouth: the plants are no larger and the store is."""
    deeper = round(plot.height_m * 1.5, 2)
    if deeper > 1.5:
        return ()
    edit = SetValue(f"plots/{plot.id}/height_m", deeper)
    times = r.after(edit).thirsts[plot.id].waterings_a_day
    if times >= r.thirsts[plot.id].waterings_a_day:
        return ()
    return (Remedy(f"deeper-{plot.id}", say("Pots {h} deep", h=Amount(deeper, "small")),
                   say("{n} a day", n=Amount(times, "count")), edit),)


def _non_potable(r: Reckoning) -> list[Finding]:
    raw = [p for p in r.garden.plots
           if any(r.library.crops[x.crop].edible_raw in ("leaf", "root") for x in p.plantings)]
    if not raw:
        return [Finding("grow.non-potable", "note", Phrase("This is not drinking water"),
                        say("Label all {n} plots' outlets. Nobody drinks from them.",
                            n=Amount(len(r.garden.plots), "count")), caution=True)]
    return [Finding(
        "grow.non-potable", "note",
        Phrase("Leaves or roots here are eaten raw: water the soil, not the leaf"),
        say("On {n} of {m} plots (" + quoted(", ".join(p.name for p in raw)) + "). Stored water "
            "may carry bird droppings: wash the harvest in drinking water, and label the outlets "
            "as not for drinking.", n=Amount(len(raw), "count"),
            m=Amount(len(r.garden.plots), "count")), caution=True)]
