"""First pour: six answers in, a complete, laid garden out."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import Field

from euhydra.core.editing.edits import Add, relaid
from euhydra.core.garden.model import (
    Bed,
    Climate,
    Downspout,
    Garden,
    Name,
    Part,
    Planting,
    Plot,
    Point,
    Pots,
    Roof,
    Site,
    Store,
    day_of_year,
    measure,
    month_day,
    pick,
)
from euhydra.core.garden.site import FARTHEST_DEG
from euhydra.core.library import Crop, Library
from euhydra.core.weather.generator import daily_from_monthly
from euhydra.core.weather.hemispheres import frosts_at

PATH_M = 0.6
BEDS_A_COLUMN = 5
RAISED_RIM_M = 0.2
FROST_NIGHT_C = 3.0  # a mean low under this still brings frosts, from memory
BARREL_L, BARREL_HEIGHT_M, BARREL_SHELL_KG = 210.0, 0.88, 10.0
GROUPS = ("leafy", "fruiting", "roots", "legumes", "berries", "flowers")


class BedAnswer(Part):
    """One bed of question five."""

    length_m: float = measure("bed length", "length", 0.3, 60)
    width_m: float = measure("bed width", "length", 0.2, 20)
    group: Literal["leafy", "fruiting", "roots", "legumes", "berries", "flowers"] = Field(
        title="crop group")


class Answers(Part):
    """The six questions: place, roof, barrels, levels, what is watered, back-up."""

    name: Name = Field(title="garden name")
    units: Literal["metric", "us"] = "metric"
    latitude_deg: float = measure("latitude", "latitude", -FARTHEST_DEG, FARTHEST_DEG)
    climate: Climate
    roof_width_m: float = measure("roof length", "length", 0.3, 60)
    roof_depth_m: float = measure("roof width", "length", 0.3, 60)
    roof_material: str = pick("roof material", "roof_materials")
    barrel_l: float = measure("barrel volume", "volume", 10, 20000)
    barrels: int = measure("barrels", "count", 1, 24)
    stand_m: float = measure("stand height", "length", 0, 3)
    fall_m: float = measure("fall from barrels to beds", "length", -10, 20)
    distance_m: float = measure("distance from barrels to beds", "length", 0.5, 80)
    method: Literal["soaker", "dripline", "drippers"] = Field("dripline", title="watered by")
    beds: tuple[BedAnswer, ...] = Field((), max_length=12)
    pots: int = measure("pots", "count", 0, 60, 0)
    pot_diameter_m: float = measure("pot diameter", "small", 0.08, 1.5, 0.3)
    tap: bool = False


def pour(answers: Answers, library: Library, garden_id: str) -> Garden:
    """A whole garden: sited, planted, zoned and laid. The answers hold a bed or a pot at least."""
    site = _site(answers, library)
    store = _store(answers)
    garden = Garden(
        id=garden_id, name=answers.name, units=answers.units, site=site,
        roofs=(Roof(id="roof", name="Roof", corner=Point(x_m=0, y_m=0),
                    width_m=answers.roof_width_m, depth_m=answers.roof_depth_m,
                    material=answers.roof_material,
                    first_flush_mm=library.roof_materials[answers.roof_material].first_flush_mm,
                    downspouts=(Downspout(id="d1", name="Downspout", to=store.id,
                                          along_m=answers.roof_width_m),)),),
        stores=(store,), plots=_plots(answers, library, store, site))
    return relaid(Add("tap").apply(garden, library) if answers.tap else garden, library)


def frost_dates(climate: Climate) -> tuple[str, str]:
    """Likely last and first frost (month-day), or empty: when the smoothed mean low passes 3 °C."""
    low = daily_from_monthly(np.array(climate.tmin_c))
    cold = low < FROST_NIGHT_C
    if not cold.any() or cold.all():
        return "", ""
    warmest = int(np.argmax(low))
    turned = np.roll(cold, -warmest)
    first, last = int(np.argmax(turned)), 364 - int(np.argmax(turned[::-1]))
    return month_day(last + warmest), month_day(first + warmest)


def planted(crop: Crop, last_frost: str, latitude_deg: float) -> str:
    """The crop's usual planting day: so many days from the last frost, or from early spring."""
    spring = last_frost or ("03-15" if latitude_deg >= 0 else "09-15")
    return month_day(day_of_year(spring) + int(crop.planted))


def barrel_height_m(volume_l: float) -> float:
    """A likely height for a barrel of this volume: 0.88 m at 210 L and of like shape, from memory.

    Totes and tanks are squatter: no more than 2 m.
    """
    return round(min(2.0, BARREL_HEIGHT_M * float((volume_l / BARREL_L) ** (1 / 3))), 2)


def _site(answers: Answers, library: Library) -> Site:
    row = library.climates.get(answers.climate.archetype)
    last, first = (frosts_at(row, answers.latitude_deg) if row else frost_dates(answers.climate))
    return Site(place=row.name if row else answers.name, latitude_deg=answers.latitude_deg,
                climate=answers.climate, last_frost=last, first_frost=first)


def _store(answers: Answers) -> Store:
    shell = BARREL_SHELL_KG * (answers.barrel_l / BARREL_L) ** (2 / 3)
    height = barrel_height_m(answers.barrel_l)
    return Store(id="barrels", name="Barrels" if answers.barrels > 1 else "Barrel",
                 at=Point(x_m=round(answers.roof_width_m + 0.5, 3), y_m=0.0),
                 ground_m=max(0.0, answers.fall_m), volume_l=answers.barrel_l,
                 count=answers.barrels, height_m=height, stand_m=answers.stand_m,
                 outlet_m=round(min(0.08, height / 4), 3), shell_kg=round(shell, 1))


def _plots(answers: Answers, library: Library, store: Store, site: Site) -> tuple[Plot, ...]:
    """Beds in columns of five east of the barrels, pots beyond them, all on one level."""
    level = round(store.ground_m - answers.fall_m, 4)
    x, y, plots = round(store.at.x_m + answers.distance_m, 3), 0.3, list[Plot]()
    used: dict[str, int] = {}
    for i, bed in enumerate(answers.beds, start=1):
        if i > 1 and (i - 1) % BEDS_A_COLUMN == 0:
            x, y = round(x + max(b.length_m for b in answers.beds) + 1.0, 3), 0.3
        crops = [c for c in library.crops.values() if c.group == bed.group]
        crop = crops[used.get(bed.group, 0) % len(crops)]
        used[bed.group] = used.get(bed.group, 0) + 1
        plots.append(Bed(
            id=f"bed-{i}", name=f"Bed {i}", corner=Point(x_m=x, y_m=round(y, 3)),
            ground_m=level, length_m=bed.length_m, width_m=bed.width_m, rim_m=RAISED_RIM_M,
            method=answers.method, plantings=(_planting(crop, site),)))
        y += bed.width_m + PATH_M
    if answers.pots:
        plots.append(Pots(
            id="pots-1", name="Pots", corner=Point(x_m=x, y_m=round(y, 3)), ground_m=level,
            count=answers.pots, diameter_m=answers.pot_diameter_m,
            height_m=answers.pot_diameter_m,
            plantings=(_planting(library.crops["herbs"], site),)))
    return tuple(plots)


def _planting(crop: Crop, site: Site) -> Planting:
    return Planting(id="p1", crop=crop.key,
                    planted=planted(crop, site.last_frost, site.latitude_deg))
