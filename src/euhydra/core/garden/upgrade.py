"""Bring the tree of an older file up to the version this app writes, one version at a time."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from euhydra.core.garden.timers import BY_HAND
from euhydra.core.library import Library

Tree = dict[str, Any]
MOST_STORES, MOST_JOINTS = 12, 20
LEAST_TANK_L, TANK_TALL_M, TANK_OUTLET_M = 10.0, 0.4, 0.03


def upgraded(garden: Any, version: int, wanted: int, library: Library) -> Any:
    """The garden's tree as version ``wanted`` would have written it.

    A tree that is not what its version wrote is passed on as it is, for the models to refuse.
    """
    for step in range(version, wanted):
        if isinstance(garden, dict):
            garden = STEPS[step](garden, library)
    return garden


def _from_1(garden: Tree, library: Library) -> Tree:
    """Version 2 gives each roof its downspouts; a roof of version 1 led a share to one store.

    A zone draws from a source, which may be a tap, where it drew from a store.
    """
    garden = dict(garden)
    for things, step in (("roofs", _roof_from_1), ("zones", _zone_from_1)):
        if isinstance(garden.get(things), list):
            garden[things] = [step(t) if isinstance(t, dict) else t for t in garden[things]]
    return garden


def _zone_from_1(zone: Tree) -> Tree:
    return {("source" if key == "store" else key): value for key, value in zone.items()}


def _roof_from_1(roof: Tree) -> Tree:
    roof = dict(roof)
    spout = {"id": "d1", "name": "Downspout", "along_m": roof.get("width_m", 0.0),
             "share": roof.pop("gutter_share", 1.0), "to": roof.pop("store", "")}
    return roof | {"downspouts": [spout]}


def _from_2(garden: Tree, library: Library) -> Tree:
    """Version 3 knows parts of the list by their keys, and a row's own tank as a store like any.

    The tank stands beside its self-watering row, which draws from it alone, and is fed as the row
    was: through a float valve from its store, or, where that is none, by hand.
    """
    if isinstance(garden.get("holdings"), list):
        ids = library.renamed_parts
        garden = garden | {"holdings": [
            h | {"id": ids.get(str(h.get("id")), h.get("id"))} if isinstance(h, dict) else h
            for h in garden["holdings"]]}
    plots, stores, joints = (garden.get(key, []) for key in ("plots", "stores", "joints"))
    if not all(isinstance(things, list) and all(isinstance(x, dict) for x in things)
               for things in (plots, stores, joints)):
        return garden
    garden = garden | {"plots": [], "stores": list(stores), "joints": list(joints)}
    first = next((s.get("id") for s in stores), "")
    for plot in plots:
        plot = dict(plot)
        litres, up_m = plot.pop("tank_l", 0), plot.pop("tank_up_m", 0)
        if _number(litres) > 0 and len(garden["stores"]) < MOST_STORES:
            _own_tank(garden, plot, litres, _number(up_m), plot.get("fed_by") or first)
        garden["plots"].append(plot)
    if len(garden["stores"]) > len(stores):
        garden |= {key: [] for key in ("nodes", "lines", "fittings", "outlets", "zones")}
    return garden


def _own_tank(garden: Tree, plot: Tree, litres: float, up_m: float, source: str) -> None:
    taken = [s.get("id") for s in garden["stores"]]
    tank = next(t for n in range(1, MOST_STORES + 2) if (t := f"tank-{n}") not in taken)
    fed = (any(s.get("id") == source for s in garden["stores"])
           and len(garden["joints"]) < MOST_JOINTS)
    garden["stores"].append({
        "id": tank, "name": f"Tank of {plot.get('name', '')}"[:80], "at": plot.get("corner"),
        "ground_m": plot.get("ground_m", 0.0), "volume_l": max(litres, LEAST_TANK_L),
        "height_m": TANK_TALL_M, "outlet_m": TANK_OUTLET_M, "hand_filled": not fed,
        "stand_m": min(max(_number(plot.get("water_m", 0.05)) + up_m - TANK_OUTLET_M, 0.0), 3.0)})
    if fed:
        garden["joints"].append({"id": f"{tank}-feed", "name": f"Feed of {tank}", "kind": "float",
                                 "a": source, "b": tank, "bore_mm": 13.6})
    plot["fed_by"] = tank


def _number(value: Any) -> float:
    return value if isinstance(value, (int, float)) and not isinstance(value, bool) else 0.0


def _from_3(garden: Tree, library: Library) -> Tree:
    """Version 4 begins a zone's name with the number that its valve bears."""
    zones = garden.get("zones", [])
    if not isinstance(zones, list) or not all(isinstance(z, dict) for z in zones):
        return garden
    return garden | {"zones": [z | {"name": f"{n} · {z.get('name', '')}"[:80].strip()}
                               for n, z in enumerate(zones, start=1)]}


def _from_4(garden: Tree, library: Library) -> Tree:
    """Version 5 has timers as things; before, one kind of timer opened each zone of a garden.

    What was opened by hand is so still. How many hours a day were allowed is not kept: hours of
    the clock are, and those are for its gardener to say.
    """
    kind, opens = garden.get("timer", "dial-ball"), garden.get("opens", "morning")
    garden = {key: value for key, value in garden.items()
              if key not in ("timer", "opens", "window_h")}
    zones = garden.get("zones", [])
    if not isinstance(zones, list) or not all(isinstance(z, dict) for z in zones):
        return garden
    if kind == BY_HAND:
        return garden | {"timers": []}
    return garden | {
        "timers": [{"id": "timer", "name": "Timer", "kind": kind, "opens": opens}],
        "zones": [z | {"timer": "timer"} if z.get("timed", True) else z for z in zones]}


DRIP_KEYS = ("empties_by", "empties_l_h", "drip_m2", "drip_crop", "drip_planted")
MOST_PLOTS, MOST_LIFTS, WIDEST_BED_M = 100, 6, 20.0


def _from_5(garden: Tree, library: Library) -> Tree:
    """Version 6 has a drain's drum as a source of lines, as a store is; before, its drip watered
    ground that was no plot.

    That ground becomes a bed beside the drain, and its float pump one of the garden's; how fast
    the drum empties is reckoned from its lines. The garden is laid anew.
    """
    things = [garden.get(key, []) for key in ("drains", "plots", "lifts")]
    if not all(isinstance(x, list) and all(isinstance(t, dict) for t in x) for x in things):
        return garden
    drains, plots, lifts = (list(x) for x in things)
    holdings = garden.get("holdings")
    if isinstance(holdings, list):
        garden = garden | {"holdings": [
            h | {"id": "pump-submersible-small"} if isinstance(h, dict)
            and h.get("id") == "float-pump" else h for h in holdings]}
    drums = [d for d in drains if d.get("school") == "drum"]
    for drain in drums[:MOST_PLOTS - len(plots)]:
        plots.append(_drip_bed(drain, [p.get("id") for p in plots]))
        if drain.get("empties_by", "pump") == "pump" and len(lifts) < MOST_LIFTS:
            lifts.append({"id": f"float-{drain.get('id')}"[:60], "draws_from": drain.get("id"),
                          "name": f"Float pump of {drain.get('name')}"[:80],
                          "at": drain.get("at"), "kind": "submersible-small",
                          "control": "float", "reserve_m": 0.05})
    kept = [{k: v for k, v in d.items() if k not in DRIP_KEYS} for d in drains]
    garden = garden | {"drains": kept}
    if drums:
        garden |= {"plots": plots, "lifts": lifts} | {
            key: [] for key in ("nodes", "lines", "fittings", "outlets", "zones")}
    return garden


def _drip_bed(drain: Tree, taken: list[Any]) -> Tree:
    """The ground that a drum's drip watered, as a bed to the south of the drain."""
    area = _number(drain.get("drip_m2", 8)) or 8.0
    long_m = max(area**0.5, area / WIDEST_BED_M, 0.3)
    place = drain.get("at")
    at: Tree = place if isinstance(place, dict) else {}
    return {"kind": "bed", "name": f"{drain.get('name')}: drip"[:80],
            "id": next(i for n in range(1, MOST_PLOTS + 2) if (i := f"drip-{n}") not in taken),
            "corner": {"x_m": _number(at.get("x_m", 0)),
                       "y_m": round(_number(at.get("y_m", 0)) - 1 - area / long_m, 3)},
            "length_m": round(long_m, 4), "width_m": round(area / long_m, 4),
            "soil": drain.get("soil", "loam"), "mulch": "chips", "fed_by": drain.get("id"),
            "plantings": [{"id": "p1", "crop": drain.get("drip_crop", "bush-fruit"),
                           "planted": drain.get("drip_planted", "04-14")}]}


STEPS: dict[int, Callable[[Tree, Library], Tree]] = {
    1: _from_1, 2: _from_2, 3: _from_3, 4: _from_4, 5: _from_5}
