"""The plots of a First pour: beds in columns, and what else is watered beyond them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from euhydra.core.editing.answers import Answers, BedAnswer
from euhydra.core.garden.model import AnyPlot, Bed, Planting, Point, Site, day_of_year, month_day
from euhydra.core.garden.plot_kinds import PLOT_KINDS
from euhydra.core.library import Crop, Library

PATH_M = 0.6
BEDS_A_COLUMN = 5
RAISED_RIM_M = 0.2
SHRUB_M = 2.0  # what spreads no wider is called a shrub


def planted(crop: Crop, last_frost: str, latitude_deg: float) -> str:
    """The crop's usual planting day: so many days from the last frost, or from early spring."""
    spring = last_frost or ("03-15" if latitude_deg >= 0 else "09-15")
    return month_day(day_of_year(spring) + int(crop.planted))


def plots_of(answers: Answers, library: Library, site: Site, from_m: float, ground_m: float
             ) -> tuple[AnyPlot, ...]:
    """All that is watered, to the east of what feeds it: beds first, the rest to their north.

    ``from_m`` is where that stands from west to east, on ``ground_m``; a bed's terrace may lie
    lower still.
    """
    level, x = ground_m - answers.fall_m, round(from_m + answers.distance_m, 3)
    plots: list[AnyPlot] = list(_beds(answers, library, site, x, level))
    others = list(_others(answers))
    kinds = [kind for kind, _ in others]
    y = max((p.corner.y_m + p.breadth_m for p in plots if p.corner.x_m == x), default=-0.3) + PATH_M
    for number, (kind, measures) in enumerate(others, start=1):
        plot = _new(kind, number, Point(x_m=x, y_m=round(y, 3)), round(level, 4), measures, site,
                    library)
        if kinds.count(kind) > 1:
            plot = plot.model_copy(update={
                "name": f"{plot.name} {kinds[:number].count(kind)}"})
        plots.append(plot)
        y += plot.breadth_m + PATH_M
    return tuple(plots)


def _beds(answers: Answers, library: Library, site: Site, x_m: float, level_m: float
          ) -> Iterator[Bed]:
    """Columns of five; each group of crops in turn."""
    x, y, used = x_m, 0.3, dict[str, int]()
    each = [bed for bed in answers.beds for _ in range(bed.count)]
    for i, bed in enumerate(each, start=1):
        if i > 1 and (i - 1) % BEDS_A_COLUMN == 0:
            x, y = round(x + max(b.length_m for b in answers.beds) + 1.0, 3), 0.3
        yield Bed(
            id=f"bed-{i}", name=f"Bed {i}", corner=Point(x_m=x, y_m=round(y, 3)),
            ground_m=round(level_m - bed.lower_m, 4), length_m=bed.length_m, width_m=bed.width_m,
            rim_m=RAISED_RIM_M, method=answers.method,
            plantings=(planting_of(_crop(bed, library, used), site),))
        y += bed.width_m + PATH_M


def _crop(bed: BedAnswer, library: Library, used: dict[str, int]) -> Crop:
    crops = [c for c in library.crops.values() if c.group == bed.group]
    crop = crops[used.get(bed.group, 0) % len(crops)]
    used[bed.group] = used.get(bed.group, 0) + 1
    return crop


def _others(answers: Answers) -> Iterator[tuple[str, dict[str, Any]]]:
    """What else is watered: its kind and the measures that were answered."""
    for kind, strip in (("border", answers.border), ("lawn", answers.lawn)):
        if strip:
            yield kind, {"length_m": strip.length_m, "width_m": strip.width_m,
                         "method": answers.method}
    if answers.trees:
        yield "tree" if answers.canopy_m > SHRUB_M else "shrub", {
            "count": answers.trees, "canopy_m": answers.canopy_m,
            "apart_m": round(answers.canopy_m + 0.5, 3)}
    if answers.pots:
        yield "pots", {"count": answers.pots, "diameter_m": answers.pot_diameter_m,
                       "height_m": answers.pot_diameter_m}
    if answers.towers:
        yield "tower", {"count": answers.towers}
    for _ in range(answers.gutters):
        yield "gutter", {"count": answers.buckets}
    if answers.chain:
        yield "chain", {"count": answers.chain}
    if answers.float_pots:
        yield "float-pots", {"count": answers.float_pots}


def _new(key: str, number: int, corner: Point, level_m: float, measures: dict[str, Any],
         site: Site, library: Library) -> AnyPlot:
    kind = PLOT_KINDS[key]
    crop = "herbs" if key == "pots" else kind.crop
    return kind.model.model_validate({
        "kind": key, "id": f"{key}-{number}", "name": kind.name, "corner": corner,
        "ground_m": level_m, **kind.usual, **measures,
        "plantings": (planting_of(library.crops[crop], site),),
        **({"soil": site.soil} if kind.in_ground else {})})


def planting_of(crop: Crop, site: Site) -> Planting:
    """A crop over a whole plot, planted on its usual day."""
    return Planting(id="p1", crop=crop.key,
                    planted=planted(crop, site.last_frost, site.latitude_deg))
