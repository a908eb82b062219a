"""What a new thing is made as, by its kind: beside what stands there, with figures to start."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from itertools import combinations, pairwise
from typing import Any

from euhydra.core.editing import placement
from euhydra.core.garden.base import EDGE_M
from euhydra.core.garden.model import (
    AnyPlot,
    Basin,
    Bed,
    Building,
    Downspout,
    Drain,
    Garden,
    Joint,
    Lift,
    OwnCrop,
    Path,
    Planting,
    Point,
    RainGarden,
    Roof,
    Spot,
    Store,
    Tap,
    Thing,
    Timer,
    Well,
    WetArea,
    Wicking,
)
from euhydra.core.garden.plot_kinds import PLOT_KINDS
from euhydra.core.layout.heads import nothing_waits
from euhydra.core.terrain import geometry

FLOAT_PUMP = "submersible-small"  # what is put into a drum
UNDER_RIM_M = 0.05  # a new overflow hangs so far under its rim: 2 in, common practice
DRUM_RESERVE_M = 0.05  # left by a float pump over a drum's outlet, from memory

Maker = Callable[[Garden], Thing]


class CannotAdd(ValueError):
    """The garden has no room for it, or nothing to join; the message says why."""


def free_number(things: Iterable[Thing]) -> int:
    """One past the highest number that ends an id among these."""
    ends = [thing.id.rsplit("-", 1)[-1] for thing in things]
    return 1 + max((int(end) for end in ends if end.isdecimal()), default=0)


def _beside(garden: Garden) -> tuple[Point, float]:
    """Where the first source stands, and the ground's level there."""
    first = garden.sources[0]
    return first.at, first.ground_m


def _off(garden: Garden, east_m: float, north_m: float) -> Point:
    at, _ = _beside(garden)
    return free_at(at.x_m + east_m, at.y_m + north_m)


def _plot(kind: str) -> Maker:
    def make(garden: Garden) -> AnyPlot:
        number = free_number(garden.plots)
        top = max(geometry.outline(p).bounds[3] for p in garden.plots)
        like = next((p for p in reversed(garden.plots) if p.kind == kind), None)
        corner = free_at((like or garden.plots[-1]).corner.x_m, top + 0.6)
        name = f"{PLOT_KINDS[kind].name} {number}"
        if like is not None:
            planting = like.plantings[0].model_copy(update={"id": "p1", "share": 1.0, "count": 0})
            fresh: dict[str, Any] = {
                "id": f"{kind}-{number}", "corner": corner, "plantings": (planting,),
                "name": name, "drippers": ()}
            if isinstance(like, Bed):
                fresh |= {"rows": (), "laid": "program"}
            return like.model_copy(update=fresh)
        return new_plot(garden, kind, number, corner)
    return make


def new_plot(garden: Garden, key: str, number: int, corner: Point) -> AnyPlot:
    """A plot of a kind at its usual size, on the level of the plot before it."""
    kind = PLOT_KINDS[key]
    return kind.model.model_validate({
        "kind": key, "id": f"{key}-{number}", "name": f"{kind.name} {number}", "corner": corner,
        "ground_m": garden.plots[-1].ground_m,
        "plantings": (Planting(id="p1", crop=kind.crop),), **kind.usual,
        **({"soil": garden.site.soil} if kind.in_ground else {})})


def _path(garden: Garden) -> Path:
    number = free_number(garden.paths)
    west, south, east, _ = placement.extent(garden)
    y = round(south - 1.0, 3)
    return Path(id=f"path-{number}", name=f"Path {number}",
                course=(free_at(west, y), free_at(east, y)))


def _building(kind: str) -> Maker:
    def make(garden: Garden) -> Building:
        number = free_number(garden.buildings)
        west, _, _, north = placement.extent(garden)
        size = {"building": (3.0, 2.0), "wall": (4.0, 0.25)}[kind]
        return Building(id=f"{kind}-{number}", kind=kind,
                        name=f"{kind.capitalize()} {number}", length_m=size[0], width_m=size[1],
                        corner=free_at(west, north + 0.6))
    return make


def _crop(garden: Garden) -> OwnCrop:
    number = free_number(garden.crops)
    return OwnCrop(id=f"own-{number}", name=f"My crop {number}")


def _roof(garden: Garden) -> Roof:
    number = free_number(garden.roofs)
    top = max((r.corner.y_m + r.depth_m for r in garden.roofs), default=-1.0)
    spout = Downspout(id="d1", name="Downspout 1", along_m=3.0,
                      to=garden.stores[0].id if garden.stores else "")
    return Roof(id=f"roof-{number}", name=f"Roof {number}", corner=free_at(0, top + 1.0),
                width_m=3.0, depth_m=2.0, material="metal", downspouts=(spout,))


def _tap(garden: Garden) -> Tap:
    number = free_number(garden.taps)
    at, ground = _beside(garden)
    return Tap(id="tap" if not garden.taps else f"tap-{number}",
               name="Yard tap" if not garden.taps else f"Tap {number}", ground_m=ground,
               tops_up=garden.stores[0].id if garden.stores else "", backflow=True,
               at=free_at(at.x_m, at.y_m + 1.5))


def _well(garden: Garden) -> Well:
    number = free_number(garden.wells)
    at, ground = _beside(garden)
    return Well(id=f"well-{number}", name="Well" if number == 1 else f"Well {number}",
                at=free_at(at.x_m - 2, at.y_m - 2), ground_m=ground, backflow=True,
                tops_up=garden.stores[0].id if garden.stores else "")


def _drain(garden: Garden) -> Drain:
    number = free_number(garden.drains)
    return Drain(id=f"drain-{number}", name="Laundry" if number == 1 else f"Drain {number}",
                 at=Point(x_m=0, y_m=-1), soil=garden.site.soil, basins=(basin_at(0.0, 1),))


def _drum(garden: Garden) -> Drain:
    return _drain(garden).model_copy(update={
        "name": "Laundry drum", "school": "drum", "basins": (), "at": _off(garden, -1.5, 0)})


def basin_at(x_m: float, number: int) -> Basin:
    """A mulch basin, so far to the east, by its number."""
    return Basin(id=f"basin-{number}", name=f"Mulch basin {number}",
                 corner=free_at(x_m, -3.0), length_m=1.2, width_m=1.0)


def _lift(garden: Garden) -> Lift:
    pumped = {lift.draws_from for lift in garden.lifts}
    store = next((s for s in garden.vessels if s.id not in pumped), None)
    if store is None:
        raise CannotAdd("Every store has its pump already." if garden.vessels else
                        "A pump draws from a store, and this garden has none. Add a store first.")
    return pump_on(garden, store)


def pump_on(garden: Garden, store: Store, kind: str = "barrel") -> Lift:
    """A pump that draws from a store, beside it; in a drain's drum its float starts it."""
    number = free_number(garden.lifts)
    if garden.drum_of(store.id):
        return Lift(id=f"pump-{number}", name=f"Float pump of {store.name}"[:80], kind=kind,
                    draws_from=store.id, at=store.at, control="float", reserve_m=DRUM_RESERVE_M)
    return Lift(id=f"pump-{number}", name="Pump" if number == 1 else f"Pump {number}",
                kind=kind, draws_from=store.id, at=free_at(store.at.x_m + 0.4, store.at.y_m - 0.4))


def _store(garden: Garden) -> Store:
    number = free_number(garden.stores)
    if not garden.stores:
        at, ground = _beside(garden)
        return Store(id="store-1", name="Barrel", at=free_at(at.x_m + 1.5, at.y_m),
                     ground_m=ground, volume_l=210, height_m=0.88, overflow_down_m=UNDER_RIM_M)
    last = garden.stores[-1]
    return last.model_copy(update={
        "id": f"store-{number}", "name": f"Store {number}", "count": 1,
        "at": free_at(last.at.x_m + 1.2, last.at.y_m)})


def _timer(garden: Garden) -> Timer:
    if not garden.timed_zones:
        raise CannotAdd(nothing_waits(garden))
    if not garden.timers:
        return Timer(id="timer", name="Timer")
    number = max(free_number(garden.timers), 2)
    return garden.timers[-1].model_copy(update={
        "id": f"timer-{number}", "name": f"Timer {number}", "hoses": 0})


def _hand_tank(garden: Garden) -> Store:
    """A small tank on a stand beside the row that waits for one, the last self-watering of all."""
    number = free_number(garden.stores)
    rows = [p for p in garden.plots if isinstance(p, Wicking)]
    at, ground = (rows[-1].corner, rows[-1].ground_m) if rows else _beside(garden)
    return Store(id=f"store-{number}", name=f"Tank {number}", at=free_at(at.x_m - 0.6, at.y_m),
                 ground_m=ground, volume_l=47, height_m=0.4, shape="box", outlet_m=0.03,
                 stand_m=0.25, shell_kg=2, hand_filled=True)


def _joint(garden: Garden) -> Joint:
    joined = {frozenset((j.a, j.b)) for j in garden.joints}
    ids = [store.id for store in garden.stores]
    beside = list(pairwise(ids))  # each new store goes on the one before it, joined as that is
    pairs = [pair for pair in (*beside, *combinations(ids, 2)) if frozenset(pair) not in joined]
    if not pairs:
        raise CannotAdd("Every two stores are joined already. Add another store first."
                        if len(garden.stores) > 1 else
                        "A joint needs two stores. Add another store first.")
    number = free_number(garden.joints)
    alike = garden.joints[-1].kind if garden.joints and pairs[0] in beside else "siphon"
    return Joint(id=f"joint-{number}", name=f"Joint {number}", kind=alike, a=pairs[0][0],
                 b=pairs[0][1])


def _rain_garden(garden: Garden) -> RainGarden:
    number = free_number(garden.rain_gardens)
    return RainGarden(id=f"rain-garden-{number}", name="Rain garden", soil=garden.site.soil,
                      corner=_off(garden, 0, -5),
                      length_m=3.0, width_m=2.0)


def _wet_area(garden: Garden) -> WetArea:
    number = free_number(garden.wet_areas)
    return WetArea(id=f"wet-area-{number}", name="Wet ground", soil=garden.site.soil,
                   corner=_off(garden, 2, -8),
                   length_m=6.0, width_m=4.0)


def _spot(garden: Garden) -> Spot:
    spots, number = garden.site.spots, free_number(garden.site.spots)
    at = (free_at(spots[-1].at.x_m + 3, spots[-1].at.y_m) if spots else _beside(garden)[0])
    level = spots[-1].level_m if spots else _beside(garden)[1]
    return Spot(id=f"spot-{number}", name=f"Spot {number}", at=at, level_m=level)


# what may be added: the words for it, where it stands, how it is made
MAKERS: dict[str, tuple[str, str, Maker]] = {
    **{key: (f"Add {kind.added}", "plots", _plot(key)) for key, kind in PLOT_KINDS.items()},
    "path": ("Add a path", "paths", _path),
    "building": ("Add a building", "buildings", _building("building")),
    "wall": ("Add a wall", "buildings", _building("wall")),
    "crop": ("Add a crop of your own", "crops", _crop),
    "roof": ("Add a roof", "roofs", _roof), "tap": ("Top up from a tap", "taps", _tap),
    "well": ("Add a well", "wells", _well), "drain": ("Add a laundry drain", "drains", _drain),
    "drum": ("Add a laundry drum", "drains", _drum),
    "store": ("Add a store", "stores", _store),
    "hand-tank": ("Add a tank filled by hand", "stores", _hand_tank),
    "joint": ("Join two stores", "joints", _joint),
    "pump": ("Add a pump", "lifts", _lift),
    "timer": ("Add a timer", "timers", _timer),
    "rain-garden": ("Add a rain garden", "rain_gardens", _rain_garden),
    "wet-area": ("Add wet ground", "wet_areas", _wet_area),
    "spot": ("Add a spot height", "site/spots", _spot),
}


def free_at(x_m: float, y_m: float) -> Point:
    """A place beside what stands already, to a millimetre; at the plan's edge on the edge."""
    return Point(x_m=round(min(max(x_m, -EDGE_M), EDGE_M), 3),
                 y_m=round(min(max(y_m, -EDGE_M), EDGE_M), 3))
