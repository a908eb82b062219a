"""What a garden names in the tables: each row by its table and key."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core.garden.model import Bed, Garden

Named = tuple[str, str, str]  # label, name of the table in the library, key


def named_rows(garden: Garden) -> Iterator[Named]:
    """Every row that a garden names, as (label, table, key); one may come more than once.

    Crops of the garden's own stand under their ids and are left out.
    """
    yield from (("timer", "timers", timer.kind) for timer in garden.timers)
    yield from (("soil", "soils", key) for key in (
        garden.site.soil, *(d.soil for d in garden.drains), *(g.soil for g in garden.rain_gardens),
        *(w.soil for w in garden.wet_areas)))
    for roof in garden.roofs:
        yield "roof material", "roof_materials", roof.material
        yield "gutter guard", "guards", roof.guard
    yield from (("pump", "pumps", lift.kind) for lift in garden.lifts)
    yield from _of_plots(garden)
    yield from _of_lines(garden)


def _of_plots(garden: Garden) -> Iterator[Named]:
    own = {crop.id for crop in garden.crops}
    grown = (*(b.crop for d in garden.drains for b in d.basins),
             *(x.crop for p in garden.plots for x in p.plantings))
    yield from (("crop", "crops", key) for key in grown if key not in own)
    for plot in garden.plots:
        yield "mix", "soils", plot.soil
        if isinstance(plot, Bed):
            yield "way of watering", "methods", plot.method
        yield from (("dripper", "outlets", d.kind) for d in plot.drippers)


def _of_lines(garden: Garden) -> Iterator[Named]:
    for zone in garden.zones:
        yield "tube", "tubes", zone.supply_tube
        yield "filter", "fittings", zone.filter
    yield from (("tube", "tubes", line.tube) for line in garden.lines)
    yield from (("outlet", "outlets", run.kind) for run in garden.outlets)
    yield from (("fitting", "fittings", f.kind) for f in garden.fittings if f.kind != "timer")
