"""All trade tables together, as one value."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from euhydra.core.library.kits import Kit
from euhydra.core.library.rows import (
    Climate,
    Crop,
    FittingKind,
    GreySchool,
    Guard,
    OutletKind,
    Part,
    PumpKind,
    RoofMaterial,
    Row,
    Soil,
    Timer,
    Tube,
    WateringMethod,
)

if TYPE_CHECKING:
    from euhydra.core.garden.model import Garden, OwnCrop


@dataclass(frozen=True)
class Library:
    """All tables by key. Built by ``euhydra.data.library()``; tests may build their own.

    ``renamed_parts`` says how lines of the parts list that an earlier version knew are known now.
    """

    climates: Mapping[str, Climate]
    roof_materials: Mapping[str, RoofMaterial]
    guards: Mapping[str, Guard]
    grey_schools: Mapping[str, GreySchool]
    soils: Mapping[str, Soil]
    crops: Mapping[str, Crop]
    methods: Mapping[str, WateringMethod]
    tubes: Mapping[str, Tube]
    outlets: Mapping[str, OutletKind]
    fittings: Mapping[str, FittingKind]
    timers: Mapping[str, Timer]
    pumps: Mapping[str, PumpKind]
    parts: Mapping[str, Part]
    kits: Mapping[str, Kit]
    renamed_parts: Mapping[str, str]

    def with_rows(self, rows: Iterable[tuple[str, Row]]) -> Library:
        """The tables with rows added, as (table, row), where they have none of that key."""
        more: dict[str, dict[str, Row]] = {}
        for table, row in rows:
            if row.key not in getattr(self, table):
                more.setdefault(table, {})[row.key] = row
        return replace(self, **{t: {**getattr(self, t), **new} for t, new in more.items()}
                       ) if more else self

    def timer_like(self, key: str, *, style: str | None = None, valve: str | None = None) -> str:
        """The key of the timer that differs from ``key`` only in style or valve.

        With as many valves where there is such a one, else with one; ``key`` itself when the table
        has none at all.
        """
        own = self.timers[key]
        wanted = (style or own.style, valve or own.valve)
        like = [t for t in self.timers.values() if (t.style, t.valve) == wanted]
        return next((t.key for t in sorted(like, key=lambda t: t.valves != own.valves)), key)

    def of(self, garden: Garden) -> Library:
        """The tables with the garden's own crops among them; itself where it has none."""
        return self.with_crops(garden.crops)

    def with_crops(self, crops: Iterable[OwnCrop]) -> Library:
        """The tables with crops of the gardener's own, each under its id."""
        own = {crop.id: Crop(
            key=crop.id, source="your own figures", standing="from memory", group="own",
            planted="+0", **{k: v for k, v in crop.model_dump().items() if k != "id"})
            for crop in crops}
        if not own or all(self.crops.get(key) == crop for key, crop in own.items()):
            return self
        return replace(self, crops={**self.crops, **own})
