"""Values put at paths of a garden: one, or several at once with the lines laid anew once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from euhydra.core.editing.fields import measure_at
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.removals import LAST_WATER, ends_a_source, without_source
from euhydra.core.editing.trees import EditRefused, at_path, checked, checked_whole, put_at
from euhydra.core.garden.model import Garden, Point
from euhydra.core.library import Library
from euhydra.core.weather.hemispheres import across, turned_tree

# What no line is laid by: a change of it leaves them as they lie.
BESIDE_THE_LINES = ("name", "every_days", "longer", "rain_hold_mm", "thirst", "today", "sketch")
BESIDE_THEM_TOO = tuple(f"site/{key}" for key in (
    "place", "latitude_deg", "altitude_m", "seed", "years", "last_frost", "first_frost",
    "local_rules", "reckon_with"))
# Nor by what only changes how much comes, is held or drunk.
OF_WATER = {"plots": ("mulch", "shade", "shade_h", "exposure"),
            "stores": ("count", "volume_l", "link_mm", "refill_at", "leak_l_day"),
            "roofs": ("to", "restrictor_l_h", "diverter_mm", "own_runoff")}
# Of a timer or a zone.
OF_TIMES = ("opens", "from_h", "until_h", "marks_h", "marks_min", "days", "falls_a_week")


@dataclass(frozen=True)
class SetValue:
    """Put a value (already in the unit inside) at a path. See ``garden.measures``.

    A level typed by hand no longer follows the site; a month typed makes the climate one's own,
    and the garden is reckoned with it. A latitude in the other half of the world turns the
    seasons of a climate that was picked.
    """

    path: str
    value: Any

    def apply(self, garden: Garden, library: Library) -> Garden:
        """The garden with the value set."""
        return set_all(garden, library, (self,))

    @property
    def lays(self) -> bool:
        """Whether lines may lie otherwise for it."""
        parts = self.path.split("/")
        return not (parts[0] in BESIDE_THE_LINES or self.path in BESIDE_THEM_TOO
                    or (parts[0] in ("timers", "zones") and parts[-1] in OF_TIMES)
                    or parts[-1] in OF_WATER.get(parts[0], ()))

    def ends(self) -> bool:
        """Whether it takes a source away from what waters of it."""
        return bool(ends_a_source(self.path.split("/"), self.value))

    def put(self, tree: dict[str, Any], garden: Garden) -> dict[str, Any]:
        """A garden's tree with the value in it; ``garden`` is what it was made of."""
        measure_at(garden, self.path)
        parts = self.path.split("/")
        tree = put_at(tree, parts, self.value)
        if parts[-1] == "ground_m" and "level_from" in at_path(tree, parts[:-1]):
            tree = put_at(tree, [*parts[:-1], "level_from"], "hand")
        if self.ends():
            if [s.id for s in garden.sources] == [parts[1]]:
                raise EditRefused(LAST_WATER)
            tree = without_source(tree, parts[1])
        if len(parts) == 3 and parts[0] == "plots" and parts[2] == "outline":
            tree = put_at(tree, parts[:2], _shaped(at_path(tree, parts[:2])))
        if parts[:2] == ["site", "climate"] and len(parts) == 4:
            tree = own_months(tree)
        if (self.path == "site/latitude_deg" and garden.site.climate.archetype
                and across(garden.site.latitude_deg, self.value)):
            tree = turned_tree(tree)
        return tree


def set_all(garden: Garden, library: Library, values: Sequence[SetValue]) -> Garden:
    """The garden with values set one after another, its lines laid anew once, if any asks it."""
    tree: dict[str, Any] = garden.model_dump()
    for value in values:
        tree = value.put(tree, garden)
    if not any(value.lays for value in values):
        return checked_whole(tree)
    return relaid(checked(tree), library, garden)


def _shaped(bed: dict[str, Any]) -> dict[str, Any]:
    """A bed with its box put about the corners that were typed."""
    if not bed["outline"]:
        return bed
    xs, ys = ([p.x_m if isinstance(p, Point) else p["x_m"] for p in bed["outline"]],
              [p.y_m if isinstance(p, Point) else p["y_m"] for p in bed["outline"]])
    return bed | {"corner": {"x_m": min(xs), "y_m": min(ys)}, "turn_deg": 0.0,
                  "length_m": round(max(xs) - min(xs), 4), "width_m": round(max(ys) - min(ys), 4)}


def own_months(tree: dict[str, Any]) -> dict[str, Any]:
    """Months of one's own are no archetype, and count before a record."""
    tree = put_at(tree, ["site", "climate", "archetype"], "")
    own: dict[str, Any] = put_at(tree, ["site", "reckon_with"], "normals")
    return own
