"""Bring the tree of an older file up to the version this app writes, one version at a time."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

Tree = dict[str, Any]


def upgraded(garden: Any, version: int, wanted: int) -> Any:
    """The garden's tree as version ``wanted`` would have written it.

    A tree that is not what its version wrote is passed on as it is, for the models to refuse.
    """
    for step in range(version, wanted):
        if isinstance(garden, dict):
            garden = STEPS[step](garden)
    return garden


def _from_1(garden: Tree) -> Tree:
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


STEPS: dict[int, Callable[[Tree], Tree]] = {1: _from_1}
