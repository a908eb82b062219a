"""The list twin: every value that may be typed at a station, under the thing it belongs to."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from euhydra.core.garden.model import Bed, Garden
from euhydra.web.fields import Field, Fields

Group = tuple[str, tuple[Field, ...]]


def listed(station: str, fields: Fields) -> list[Group]:
    """Groups of fields with their heads, in the order of the drawing."""
    return [(head, tuple(replace(fields.at(path, head), in_list=True) for path in paths))
            for head, paths in _paths(station, fields.garden)]


def _paths(station: str, garden: Garden) -> Iterable[tuple[str, list[str]]]:
    store = garden.store
    if station == "place":
        yield garden.name, ["name", "site/place", "site/climate/archetype", "site/latitude_deg",
                            "site/altitude_m", "site/soil", "site/last_frost", "site/first_frost",
                            "site/local_rules", "site/years", "site/seed", "site/reckon_with",
                            "site/lie"]
        for spot in garden.site.spots:
            yield spot.name, [f"site/spots/{spot.id}/{key}"
                              for key in ("name", "at/x_m", "at/y_m", "level_m")]
    elif station == "catch":
        for roof in garden.roofs:
            yield roof.name, [f"roofs/{roof.id}/{key}" for key in (
                "name", "width_m", "depth_m", "eave_m", "material", "first_flush_mm")]
    elif station in ("store", "prove"):
        keys = ("count", "volume_l", "height_m", "stand_m", "outlet_m", "shell_kg", "footing",
                "lid_locked", "screened") if station == "store" else ("count", "volume_l")
        yield store.name, [f"stores/{store.id}/{key}" for key in keys]
    elif station in ("grow", "lay"):
        for plot in garden.plots:
            own = (("length_m", "width_m", "rim_m") if isinstance(plot, Bed)
                   else ("count", "diameter_m", "height_m"))
            shared = ("name", *own, "ground_m", "soil", *(("method",) if isinstance(plot, Bed)
                                                          else ()))
            crops = [f"plots/{plot.id}/plantings/{x.id}/{key}" for x in plot.plantings
                     for key in ("crop", "planted")] if station == "grow" else []
            yield plot.name, [*(f"plots/{plot.id}/{key}" for key in shared), *crops]
    elif station == "push":
        yield store.name, [f"stores/{store.id}/stand_m", f"stores/{store.id}/ground_m"]
        yield "Timer", ["timer"]
        for zone in garden.zones:
            yield zone.name, [f"zones/{zone.id}/supply_tube"]
        for plot in garden.plots:
            yield plot.name, [f"plots/{plot.id}/ground_m",
                              *([f"plots/{plot.id}/rim_m"] if isinstance(plot, Bed) else [])]
    elif station == "time":
        yield "Timer", ["timer", "window_h"]
