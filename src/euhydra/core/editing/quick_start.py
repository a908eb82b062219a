"""First pour: a few answers in, a complete, laid garden out."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from euhydra.core.editing.answers import Answers, Feeds
from euhydra.core.editing.makers import FLOAT_PUMP, UNDER_RIM_M, basin_at, pump_on
from euhydra.core.editing.quick_plots import plots_of
from euhydra.core.editing.relaying import relaid
from euhydra.core.garden.model import (
    AnyPlot,
    Climate,
    Downspout,
    Drain,
    Garden,
    Holder,
    Joint,
    Point,
    Roof,
    Site,
    Source,
    Store,
    Tap,
    Timer,
    Well,
    Wicking,
    month_day,
)
from euhydra.core.library import Library
from euhydra.core.weather.generator import daily_from_monthly
from euhydra.core.weather.hemispheres import frosts_at

BARRELS, TANK, LAUNDRY, WELL = "barrels", "tank", "drain-1", "well-1"
FROST_NIGHT_C = 3.0  # a mean low under this still brings frosts, from memory
BARREL_L, BARREL_HEIGHT_M, BARREL_SHELL_KG = 210.0, 0.88, 10.0


def pour(answers: Answers, library: Library, garden_id: str) -> Garden:
    """A whole garden: sited, planted, zoned and laid. Something is watered, from some source."""
    site = _site(answers, library)
    stores, taps = _stores(answers), _taps(answers)
    wells, drains = _wells(answers), _drains(answers, site)
    sources: tuple[Source, ...] = (*stores, *taps, *wells, *drains)
    first = sources[0]
    plots = plots_of(answers, library, site, first.at.x_m, first.ground_m)
    stores = tuple(_beside_its_row(store, plots) if store.hand_filled else store
                   for store in stores)
    garden = Garden(
        id=garden_id, name=answers.name, units=answers.units, site=site,
        roofs=_roofs(answers, library), drains=drains, stores=stores, taps=taps,
        wells=wells, joints=_siphons(stores), today=answers.today,
        timers=(Timer(id="timer", name="Timer"),),
        plots=_fed(answers, plots))
    # By gravity a drum empties too slowly for a busy house: common practice.
    lifts = tuple(pump_on(garden, drain.drum, FLOAT_PUMP) for drain in garden.drums)
    laid = relaid(garden.model_copy(update={"lifts": lifts}), library)
    return laid if laid.timed_zones else laid.model_copy(update={"timers": ()})


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


def _roofs(answers: Answers, library: Library) -> tuple[Roof, ...]:
    if "roof" not in answers.waters:
        return ()
    sizes = [(answers.roof_width_m, answers.roof_depth_m),
             *((roof.length_m, roof.width_m) for roof in answers.roofs)]
    flush, y, found = library.roof_materials[answers.roof_material].first_flush_mm, 0.0, []
    for i, (wide, deep) in enumerate(sizes, start=1):
        found.append(Roof(
            id=f"roof-{i}" if i > 1 else "roof", name=f"Roof {i}" if len(sizes) > 1 else "Roof",
            corner=Point(x_m=0, y_m=round(y, 3)), width_m=wide, depth_m=deep,
            material=answers.roof_material, first_flush_mm=flush,
            downspouts=(Downspout(id="d1", name="Downspout", to=BARRELS, along_m=wide),)))
        y += deep + 1.0
    return tuple(found)


def _stores(answers: Answers) -> tuple[Store, ...]:
    """The barrels, more of other sizes to the west of them, and a tank that is filled by hand."""
    found, x = [], round((answers.roof_width_m if "roof" in answers.waters else 0.0) + 0.5, 3)
    level = max(0.0, answers.fall_m)
    if answers.has_barrels:
        found.append(_store(BARRELS, "Barrels" if answers.barrels > 1 else "Barrel",
                            answers.barrel_l, answers.barrels, answers.stand_m, x, level))
        for i, more in enumerate(answers.stores, start=2):
            x = round(x - 1.2 * found[-1].count, 3)
            found.append(_store(f"{BARRELS}-{i}", f"Barrels {i}" if more.count > 1 else
                                f"Barrel {i}", more.volume_l, more.count, answers.stand_m, x,
                                level))
    if "tank" in answers.waters:
        ground = level if not found else round(level - answers.fall_m, 4)
        found.append(_store(TANK, "Tank", answers.tank_l, 1, answers.tank_stand_m, x, ground)
                     .model_copy(update={"hand_filled": True, "shape": "box",
                                         "overflow_down_m": 0.0}))
    return tuple(found)


def _store(key: str, name: str, volume_l: float, count: int, stand_m: float, x_m: float,
           ground_m: float) -> Store:
    height = barrel_height_m(volume_l)
    return Store(id=key, name=name, at=Point(x_m=x_m, y_m=0.0), ground_m=ground_m,
                 volume_l=volume_l, count=count, height_m=height, stand_m=stand_m,
                 outlet_m=round(min(0.08, height / 4), 3), overflow_down_m=UNDER_RIM_M,
                 shell_kg=round(BARREL_SHELL_KG * (volume_l / BARREL_L) ** (2 / 3), 1))


def _beside_its_row(tank: Store, plots: tuple[AnyPlot, ...]) -> Store:
    """A tank that is filled by hand, beside the self-watering row that it feeds, if there is one.

    Else it stands where it stood.
    """
    row = next((p for p in plots if isinstance(p, Wicking)), None)
    if row is None:
        return tank
    return tank.model_copy(update={"at": Point(x_m=round(row.corner.x_m - 0.6, 3),
                                               y_m=row.corner.y_m), "ground_m": row.ground_m})


def _siphons(stores: tuple[Store, ...]) -> tuple[Joint, ...]:
    """Barrels of several sizes share their level."""
    alike = [store for store in stores if store.id.startswith(BARRELS)]
    return tuple(Joint(id=f"joint-{i}", name=f"Siphon {i}", kind="siphon", a=alike[0].id, b=b.id)
                 for i, b in enumerate(alike[1:], start=1))


def _taps(answers: Answers) -> tuple[Tap, ...]:
    if "tap" not in answers.waters:
        return ()
    x = (answers.roof_width_m if "roof" in answers.waters else 0.0) + 0.5
    return (Tap(id="tap", name="Yard tap", backflow=True, ground_m=max(0.0, answers.fall_m),
                tops_up=BARRELS if answers.tap_fills else "",
                bucket_l=answers.bucket_l, bucket_s=answers.bucket_s,
                at=Point(x_m=round(x, 3), y_m=1.5)),)


def _wells(answers: Answers) -> tuple[Well, ...]:
    if "well" not in answers.waters:
        return ()
    return (Well(id=WELL, name="Well", at=Point(x_m=-1.5, y_m=-2.0),
                 tops_up=BARRELS if answers.well_fills else "", backflow=True,
                 ground_m=max(0.0, answers.fall_m), recovery_l_h=answers.well_l_h,
                 bucket_l=answers.well_bucket_l, bucket_s=answers.well_bucket_s),)


def _drains(answers: Answers, site: Site) -> tuple[Drain, ...]:
    """A laundry or another drain led to basins, or into a drum; its uses spread over the week."""
    if "laundry" not in answers.waters:
        return ()
    uses = [0] * 7
    for n in range(answers.washes):
        uses[n * 7 // answers.washes] += 1
    name = answers.fixture.capitalize()
    laundry = Drain(id=LAUNDRY, name=name, fixture=answers.fixture, at=Point(x_m=0, y_m=-1),
                    soil=site.soil,
                    litres_a_use=answers.wash_l, uses=tuple(uses))
    if answers.has_drum:
        return (laundry.model_copy(update={
            "school": "drum", "drum_l": answers.drum_l, "name": f"{name} drum",
            "ground_m": max(0.0, answers.fall_m)}),)
    return (laundry.model_copy(update={"basins": tuple(
        basin_at(round(1.7 * i, 3), i + 1) for i in range(answers.basins))}),)


def _fed(answers: Answers, plots: tuple[AnyPlot, ...]) -> tuple[AnyPlot, ...]:
    """The plots, each with the source it draws from where that is not the first."""
    source = dict.fromkeys(_by_tap(answers, plots), "tap") | dict.fromkeys(
        _by_tank(answers, plots), TANK) | dict.fromkeys(
        _by_well(answers, plots), WELL) | dict.fromkeys(_by_drum(answers, plots), LAUNDRY)
    return tuple(p.model_copy(update={"fed_by": source[p.id]}) if p.id in source else p
                 for p in plots)


def _by_tap(answers: Answers, plots: tuple[AnyPlot, ...]) -> list[str]:
    """Where the tap feeds lines itself: the pots, towers and buckets, or all."""
    if "tap" not in answers.waters or answers.tap_fills:
        return []
    pots_alone = answers.has_barrels and answers.tap_feeds == "pots"
    return [p.id for p in plots if isinstance(p, Holder) or not pots_alone]


def _by_well(answers: Answers, plots: tuple[AnyPlot, ...]) -> list[str]:
    """What a well's own pump feeds."""
    if "well" not in answers.waters or answers.well_fills:
        return []
    return _of(plots, answers.well_feeds if len(answers.waters) > 1 else "all")


def _by_drum(answers: Answers, plots: tuple[AnyPlot, ...]) -> list[str]:
    """What a laundry's drum feeds: never a self-watering row, which shuts."""
    if not answers.has_drum:
        return []
    return _of([p for p in plots if not isinstance(p, Wicking)],
               answers.drum_feeds if len(answers.waters) > 1 else "all")


def _of(plots: Iterable[AnyPlot], feeds: Feeds) -> list[str]:
    return [p.id for p in plots if feeds == "all" or (feeds == "beds") == (p.kind == "bed")]


def _by_tank(answers: Answers, plots: tuple[AnyPlot, ...]) -> list[str]:
    """What a tank that is filled by hand feeds: self-watering rows, else pots, else all."""
    if "tank" not in answers.waters:
        return []
    for kind in (Wicking, Holder):
        if found := [p.id for p in plots if isinstance(p, kind)]:
            return found
    return [] if answers.has_barrels else [p.id for p in plots]
