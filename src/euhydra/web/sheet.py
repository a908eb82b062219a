"""What every drawing is given."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from euhydra.core import units
from euhydra.core.assessment.assess import Assessment
from euhydra.core.garden.model import Bed, Garden, Store, Zone
from euhydra.core.hydraulics.emitter_demand import Wish, every_wish
from euhydra.core.hydraulics.profile import Section, long_section
from euhydra.core.hydraulics.surfaces import SHARES
from euhydra.core.hydraulics.zone_flow import ZoneFlow
from euhydra.core.stations.time import peak_month
from euhydra.core.stations.worst import worst_zone
from euhydra.core.units import System
from euhydra.standins import Bench
from euhydra.web.fields import Fields


@dataclass(frozen=True)
class Sheet:
    """The reckoning, how it stood before a remedy is tried, the fields, the view asked for.

    ``quick`` where what takes long may be left out, to be asked for later.
    """

    assessment: Assessment
    fields: Fields
    before: Assessment | None = None
    month: int | None = None
    zone: str | None = None
    level: str = "half"
    reading: Mapping[str, Any] | None = None
    store: str | None = None
    picked: tuple[str, ...] = ()
    hidden: frozenset[str] = frozenset()
    plot: str | None = None
    today: int = 0
    asked_day: bool = False
    away: int = 14
    other: Assessment | None = None
    gardens: tuple[tuple[str, str], ...] = ()
    bench: Bench | None = None
    rained: str = ""
    ticked: frozenset[str] = frozenset()
    asked: str = ""
    at: str = "http://localhost"
    photos: frozenset[str] = frozenset()
    quick: bool = False
    units: System | None = None
    wish: tuple[tuple[str, str], ...] = ()
    case: tuple[tuple[str, str], ...] = ()
    answer: tuple[tuple[str, str], ...] = ()

    def shows(self, layer: str) -> bool:
        """Whether a layer of the plan is drawn."""
        return layer not in self.hidden

    @property
    def chosen_bed(self) -> Bed | None:
        """The bed asked for or picked on the plan, else the first; None where none has lines."""
        beds = [p for p in self.garden.plots if isinstance(p, Bed) and p.watered == "lines"]
        wanted = self.plot or next((p.split("/")[1] for p in self.picked
                                    if p.startswith("plots/")), None)
        return next((b for b in beds if b.id == wanted), beds[0] if beds else None)

    def chosen(self, kind: str) -> str:
        """The id of the thing of a kind that is picked, else of the first; empty without any."""
        ids = [thing.id for thing in getattr(self.garden, kind)]
        picked = (path.removeprefix(f"{kind}/") for path in self.picked)
        return next((p for p in picked if p in ids), ids[0] if ids else "")

    @property
    def garden(self) -> Garden:
        """The garden drawn."""
        return self.assessment.garden

    @property
    def system(self) -> System:
        """The units shown: the garden's, where no others are asked for."""
        return self.units or self.garden.units

    @property
    def chosen_store(self) -> Store:
        """The store asked for, else the first."""
        return next((s for s in self.garden.stores if s.id == self.store), self.garden.store)

    @property
    def shown_month(self) -> int:
        """The month asked for, else the one with most running."""
        return self.month if self.month is not None else peak_month(self.assessment)

    @property
    def water_share(self) -> float:
        """Share of the usable water in the barrels: by name, or in hundredths."""
        return SHARES[self.level] if self.level in SHARES else int(self.level) / 100

    @property
    def chosen_way(self) -> tuple[Zone, ZoneFlow, Section]:
        """The zone that is looked at, its flow, and the way of its water to a plot of it."""
        zone = self.chosen_zone(worst_zone(self.assessment))
        flow = self.assessment.flows.with_share(zone, self.water_share)
        plot = self.plot if self.plot in zone.plots else ""
        return zone, flow, long_section(self.garden, zone, flow, plot or "")

    @property
    def every_wish(self) -> dict[str, Wish]:
        """All outlets by emitter, with the water that is asked for in the stores."""
        a = self.assessment
        return every_wish(a.demand, a.flows, self.water_share)

    def chosen_zone(self, otherwise: Zone) -> Zone:
        """The zone asked for, where the garden has it."""
        return next((z for z in self.garden.zones if z.id == self.zone), otherwise)

    def show(self, value: float, kind: str, decimals: int | None = None) -> str:
        """A value with its unit in the units shown."""
        return units.show(value, kind, self.system, decimals)
