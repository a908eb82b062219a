"""New things for a garden, each beside what stands already, and what hangs on one taken away."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from euhydra.core.garden.model import (
    Basin,
    Bed,
    Downspout,
    Drain,
    Garden,
    Joint,
    Planting,
    Plot,
    Point,
    Pots,
    RainGarden,
    Roof,
    Spot,
    Store,
    Tap,
    Thing,
    Well,
    WetArea,
)

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
    return Point(x_m=at.x_m + east_m, y_m=at.y_m + north_m)


def _plot(kind: str) -> Maker:
    def make(garden: Garden) -> Plot:
        number = free_number(garden.plots)
        top = max(p.corner.y_m + p.breadth_m for p in garden.plots)
        like = next((p for p in reversed(garden.plots) if p.kind == kind), None)
        corner = Point(x_m=(like or garden.plots[-1]).corner.x_m, y_m=round(top + 0.6, 3))
        name = f"{'Bed' if kind == 'bed' else 'Pots'} {number}"
        if like is not None:
            planting = like.plantings[0].model_copy(update={"id": "p1", "share": 1.0})
            return like.model_copy(update={"id": f"{kind}-{number}", "corner": corner,
                                           "plantings": (planting,), "name": name})
        if kind == "bed":
            return Bed(id=f"bed-{number}", name=name, corner=corner, length_m=2.4, width_m=1.2,
                       rim_m=0.2, plantings=(Planting(id="p1", crop="lettuce"),))
        return Pots(id=f"pots-{number}", name=name, corner=corner, count=4,
                    plantings=(Planting(id="p1", crop="tomato"),))
    return make


def _roof(garden: Garden) -> Roof:
    number = free_number(garden.roofs)
    top = max((r.corner.y_m + r.depth_m for r in garden.roofs), default=-1.0)
    spout = Downspout(id="d1", name="Downspout 1", along_m=3.0,
                      to=garden.stores[0].id if garden.stores else "")
    return Roof(id=f"roof-{number}", name=f"Roof {number}", corner=Point(x_m=0, y_m=top + 1.0),
                width_m=3.0, depth_m=2.0, material="metal", downspouts=(spout,))


def _tap(garden: Garden) -> Tap:
    number = free_number(garden.taps)
    at, ground = _beside(garden)
    return Tap(id="tap" if not garden.taps else f"tap-{number}",
               name="Yard tap" if not garden.taps else f"Tap {number}", ground_m=ground,
               tops_up=garden.stores[0].id if garden.stores else "", backflow=True,
               at=Point(x_m=at.x_m, y_m=at.y_m + 1.5))


def _well(garden: Garden) -> Well:
    if not garden.stores:
        raise CannotAdd("A well fills a store, and this garden has none. Add a store first.")
    store, number = garden.store, free_number(garden.wells)
    return Well(id=f"well-{number}", name="Well" if number == 1 else f"Well {number}",
                at=Point(x_m=store.at.x_m - 2, y_m=store.at.y_m - 2), tops_up=store.id)


def _drain(garden: Garden) -> Drain:
    number = free_number(garden.drains)
    return Drain(id=f"drain-{number}", name="Laundry" if number == 1 else f"Drain {number}",
                 at=Point(x_m=0, y_m=-1), soil=garden.site.soil, basins=(_basin_at(0.0, 1),))


def _basin_at(x_m: float, number: int) -> Basin:
    return Basin(id=f"basin-{number}", name=f"Mulch basin {number}",
                 corner=Point(x_m=x_m, y_m=-3.0), length_m=1.2, width_m=1.0)


def _store(garden: Garden) -> Store:
    number = free_number(garden.stores)
    if not garden.stores:
        at, ground = _beside(garden)
        return Store(id="store-1", name="Barrel", at=Point(x_m=at.x_m + 1.5, y_m=at.y_m),
                     ground_m=ground, volume_l=210, height_m=0.88)
    last = garden.stores[-1]
    return last.model_copy(update={
        "id": f"store-{number}", "name": f"Store {number}", "count": 1,
        "at": Point(x_m=round(last.at.x_m + 1.2, 3), y_m=last.at.y_m)})


def _joint(garden: Garden) -> Joint:
    joined = {frozenset((j.a, j.b)) for j in garden.joints}
    pairs = [(a.id, b.id) for i, a in enumerate(garden.stores) for b in garden.stores[i + 1:]
             if frozenset((a.id, b.id)) not in joined]
    if not pairs:
        raise CannotAdd("Every two stores are joined already. Add another store first."
                        if len(garden.stores) > 1 else
                        "A joint needs two stores. Add another store first.")
    number = free_number(garden.joints)
    return Joint(id=f"joint-{number}", name=f"Joint {number}", kind="siphon", a=pairs[0][0],
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
    at = (Point(x_m=spots[-1].at.x_m + 3, y_m=spots[-1].at.y_m) if spots else _beside(garden)[0])
    level = spots[-1].level_m if spots else _beside(garden)[1]
    return Spot(id=f"spot-{number}", name=f"Spot {number}", at=at, level_m=level)


# what may be added: the words for it, where it stands, how it is made
MAKERS: dict[str, tuple[str, str, Maker]] = {
    "bed": ("Add a bed", "plots", _plot("bed")), "pots": ("Add pots", "plots", _plot("pots")),
    "roof": ("Add a roof", "roofs", _roof), "tap": ("Top up from a tap", "taps", _tap),
    "well": ("Add a well", "wells", _well), "drain": ("Add a laundry drain", "drains", _drain),
    "store": ("Add a store", "stores", _store), "joint": ("Join two stores", "joints", _joint),
    "rain-garden": ("Add a rain garden", "rain_gardens", _rain_garden),
    "wet-area": ("Add wet ground", "wet_areas", _wet_area),
    "spot": ("Add a spot height", "site/spots", _spot),
}


def child_of(garden: Garden, path: str) -> tuple[str, Thing]:
    """Where a new part of a thing stands, and that part, by the thing's path and the part's name.

    ``roofs/shed/downspouts`` gives a downspout, ``drains/laundry/basins`` a mulch basin.
    """
    parts = path.split("/")
    for things, kind in (("roofs", "downspouts"), ("drains", "basins")):
        if len(parts) == 3 and parts[0] == things and parts[2] == kind:
            owner = next((t for t in getattr(garden, things) if t.id == parts[1]), None)
            if isinstance(owner, Roof):
                number = free_number(owner.downspouts)
                left = max(0.0, 1 - sum(d.share for d in owner.downspouts))
                return path, Downspout(id=f"d-{number}", name=f"Downspout {number}",
                                       share=round(left, 6))
            if isinstance(owner, Drain):
                number = free_number(owner.basins)
                x = max((b.corner.x_m + b.length_m for b in owner.basins), default=-0.5) + 0.5
                return path, _basin_at(round(x, 3), number)
    raise CannotAdd(f"“{path[:60]}” is nothing that can be added to a garden.")


def without_source(tree: dict[str, Any], store: str) -> dict[str, Any]:
    """The garden's tree with nothing left that names a store or tap about to go.

    Taps and wells top up the first store that is left; with none left a tap feeds the lines.
    """
    for roof in tree["roofs"]:
        for spout in roof["downspouts"]:
            spout["to"] = "" if spout["to"] == store else spout["to"]
    for plot in tree["plots"]:
        plot["fed_by"] = "" if plot["fed_by"] == store else plot["fed_by"]
    left = next((s["id"] for s in tree["stores"] if s["id"] != store), "")

    def moved(sources: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [s | {"tops_up": left if s["tops_up"] == store else s["tops_up"]} for s in sources]

    return tree | {
        "taps": moved(tree["taps"]),
        "wells": [well for well in moved(tree["wells"]) if well["tops_up"]],
        "joints": [j for j in tree["joints"] if store not in (j["a"], j["b"])],
        "zones": [z for z in tree["zones"] if z["source"] != store]}
