"""Catch, taps and wells: what each can give, and which crops its water suits."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import AnyPlot, Garden, Well
from euhydra.core.hydraulics.line_warmth import arrives_c
from euhydra.core.season.well_draws import well_draws
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy
from euhydra.core.storage.top_up import well_day_l
from euhydra.core.supply import mains

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

MOST_TRIED = 3
COLD_C = 15.0  # water under this checks warm-season crops, from memory


def figures(r: Results) -> tuple[Figure, ...]:
    """Each tap's and each well's figures."""
    taps = [figure for tap in r.garden.under_pressure for figure in (
        Figure(f"tap_flow_{tap.id}", f"{tap.name}: plan for at most",
               Amount(mains.design_l_h(tap), "flow", 0), Working(
            "80 % of the bucket test",
            (Term("bucket", Amount(tap.bucket_l, "volume")),
             Term("filled in", Amount(tap.bucket_s, "seconds")),
             Term("wide open", Amount(mains.tested_l_h(tap), "flow", 0))),
            "common practice, no source", "common practice")),
        Figure(f"tap_head_{tap.id}", f"{tap.name}: pressure left at that",
               Amount(mains.pressure_kpa(tap, mains.design_l_h(tap)), "pressure"), Working(
            "p = p₀ − c Q², with nothing left at the tested flow",
            (Term("shut", Amount(tap.static_kpa, "pressure")),
             Term("at half the tested flow", Amount(mains.pressure_kpa(
                 tap, mains.tested_l_h(tap) / 2), "pressure"))),
            "loss in a pipe goes with the square of the flow", "physics")))]
    wells = [Figure(
        f"well_day_{well.id}", f"{well.name} gives in a day", Amount(well_day_l(well), "volume"),
        Working("what comes back in 24 h, or what the hours of drawing reach if that is less",
                (Term("comes back", Amount(well.recovery_l_h, "flow", 0)),
                 Term("stands in it", Amount(well.standing_l, "volume")),
                 Term("drawn for", Amount(well.hours, "hours"))),
                "a well gives no more, day after day, than returns to it", "physics"))
        for well in r.garden.wells]
    return (*taps, *wells)


def named(*, tap: bool, well: bool, gives: str, give: str) -> str:
    """Tap, well, or both, as a sentence begins with them, and the verb."""
    if tap and well:
        return f"Tap and well {give}"
    return f"The {'well' if well else 'tap'} {gives}"


def beside_rain(garden: Garden) -> str:
    """Who gives water beside the rain."""
    return named(tap=bool(garden.taps), well=bool(garden.wells), gives="gives", give="give")


def findings(r: Results) -> list[Finding]:
    """Every rule on taps and wells."""
    return [*_backflow(r), *_well_short(r), *_cold(r)]


def _backflow(r: Results) -> list[Finding]:
    return [Finding(
        "catch.backflow", "stop", Phrase(f"{quoted(tap.name)} has no backflow preventer"),
        say(("At {p} a burst main can suck barrel water back into what you drink. Fit one on the "
             "tap, and let the water fall freely through air into the barrel."
             if r.garden.on_mains(tap.id) else
             "When its pump stops, what stands at {p} in the lines runs back down the well, which "
             "you or others may drink from. Fit one behind each timer.")
            + " Your local code and a licensed plumber decide which kind.",
            p=Amount(tap.static_kpa, "pressure")),
        (Remedy(f"backflow-{tap.id}", Phrase("Fit a backflow preventer"), Phrase("fitted"),
                SetValue(f"{r.garden.source_path(tap.id)}/backflow", True)),), caution=True)
        for tap in r.garden.under_pressure if not tap.backflow]


def _well_short(r: Results) -> list[Finding]:
    """The dry season's days on which a well cannot give what is asked of it."""
    found = []
    for well in r.garden.wells:
        asked = asked_of(r, well)
        days = float((asked > well_day_l(well) + 1e-6).sum()) / r.years
        if days >= 1:
            found.append(Finding(
                "catch.well-short", "care",
                say(f"{quoted(well.name)} cannot keep up on " + "{d} of a year",
                    d=Amount(days, "days")),
                say("It gives {v} a day; the worst day asks for {w}.",
                    v=Amount(well_day_l(well), "volume"), w=Amount(float(asked.max()), "volume")),
                Later(partial(_spare_the_well, r, well, days))))
    return found


def asked_of(r: Results, well: Well) -> NDArray[np.float64]:
    """Litres a day that are asked of a well, (years, 365): its share, and what its store has not.

    Of one that feeds lines itself, all that they draw.
    """
    bank = (r.banks.of_store[well.tops_up] if well.tops_up else
            well_draws(r.garden, r.banks).shafts[well.id])
    drawn = r.season.asked[r.season.world.bank == bank].sum(axis=0)
    return np.asarray(r.season.beyond[bank] + well.share * drawn)


def _spare_the_well(r: Results, well: Well, days: float) -> Iterator[Remedy]:
    """Plots that a store feeds instead, one at a time, the thirstiest first; fewer days then."""
    if well.tops_up or not r.garden.stores:
        return
    mine = sorted((p for p in r.garden.plots if r.garden.source_of(p) == well.id),
                  key=lambda p: -float(r.demand.thirsts[p.id].net_l.sum()))
    for plot in mine[:MOST_TRIED]:
        edit = SetValue(f"plots/{plot.id}/fed_by", r.garden.store.id)
        after = r.after(edit)
        then = float((asked_of(after, well) > well_day_l(well) + 1e-6).sum()) / r.years
        if then < days - 0.5:
            yield Remedy(f"off-{plot.id}", Phrase(
                f"Feed {quoted(plot.name)} from {quoted(r.garden.store.name)}"),
                say("{d}", d=Amount(then, "days")), edit)


def _is_warm(plot: AnyPlot, r: Results) -> bool:
    crop = r.library.crops[plot.main.crop]
    return crop.season == "warm" and crop.thirst == "fruiting"


def _rain_only(r: Results) -> str | None:
    """The first store that a roof fills and no well does."""
    welled = {well.tops_up for well in r.garden.wells}
    led = [d.to for roof in r.garden.roofs for d in roof.downspouts if d.to]
    return next((store for store in led if store not in welled), None)


def _cold(r: Results) -> list[Finding]:
    found = []
    for well in r.garden.wells:
        plots = [p for p in r.garden.plots if _is_warm(p, r)
                 and r.garden.source_of(p) in (well.tops_up, well.id)
                 and arrives(r, well, p)[0] < COLD_C]
        if well.temperature_c < COLD_C and plots:
            found.append(_cold_finding(r, well, plots))
    return found


def arrives(r: Results, well: Well, plot: AnyPlot) -> tuple[float, float]:
    """A well's water at a plot's first outlet in its first month, °C, and the pipe passed, m.

    Of a well that fills a store, as it comes out of the ground.
    """
    zone = next((z for z in r.garden.zones if z.source == well.id and plot.id in z.plots), None)
    if zone is None:
        return well.temperature_c, 0.0
    climate, month = r.garden.site.climate, int(plot.main.planted[:2]) - 1
    air_c = (climate.tmin_c[month] + climate.tmax_c[month]) / 2
    flow = r.flows[zone.id]["half"]
    first = next(o for o in flow.outlets if o.plot == plot.id)
    return arrives_c(flow, f"{first.emitter}-at", well.temperature_c, air_c)


def _cold_finding(r: Results, well: Well, plots: list[AnyPlot]) -> Finding:
    rain = _rain_only(r)
    comes_c, passed = arrives(r, well, plots[0])
    names = quoted(", ".join(p.name for p in plots[:3]))
    remedies = tuple(
        Remedy(f"rain-{plot.id}", Phrase(f"Feed {quoted(plot.name)} from "
                                         f"{quoted(r.garden.store_of(rain).name)}"),
               Phrase("warm water"), SetValue(f"plots/{plot.id}/fed_by", rain))
        for plot in plots[:3]) if rain else ()
    return Finding(
        "catch.well-cold", "note",
        say(f"{quoted(well.name)} is at " + "{t}: it suits cabbage, broccoli and peas",
            t=Amount(well.temperature_c, "temperature")),
        say("Tomatoes, squash and peppers do better on warm barrel water (common practice); "
            f"here it feeds {names}." + (
                " {m} of pipe in mild air bring it to {c} on the way."
                if passed > 0 else ""),
            m=Amount(passed, "length"), c=Amount(comes_c, "temperature")), remedies)
