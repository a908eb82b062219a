"""A garden's reckoning as the arrays that its season runs on."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from euhydra.core import timing
from euhydra.core.backups import feeding, well_day_l
from euhydra.core.garden.model import Wicking, Zone
from euhydra.core.greywater import grey_by_day, grounds
from euhydra.core.push import valve_gets_kpa
from euhydra.core.season.programme import STARTS_H, wetting_minutes
from euhydra.core.season.world import Array, World
from euhydra.core.wicking import free_water_l

if TYPE_CHECKING:
    from euhydra.core.reckoning import Reckoning

LEVELS = ("low", "half", "full")


def world_of(r: Reckoning) -> World:
    """Everything of the garden that its days run on, the timer set as ``r.settings`` says."""
    garden, banks = r.garden, r.banks
    zones = {plot: zone for zone in garden.zones for plot in zone.plots}
    plots = [plot for plot in garden.plots if plot.id in zones]
    washed, drained = grey_by_day(garden, r.years)
    thirsts = [*(r.thirsts[plot.id] for plot in plots), *(r.grey_thirsts[key] for key in washed)]
    more = len(washed)
    number = {zone.id: i for i, zone in enumerate(garden.zones)}
    shape = r.weather.rain_mm.shape
    rows = [plot if isinstance(plot, Wicking) else None for plot in plots] + [None] * more
    stores = [{s.id for b in feeding(banks, i) for s in banks.banks[b].stores}
              for i in range(len(banks.banks))]
    return World(
        plots=(*(plot.id for plot in plots), *washed),
        names=(*(plot.name for plot in plots),
               *(bed.name for d in garden.drains for bed in grounds(d))),
        bank=np.array([*(banks.of_store.get(zones[p.id].source, -1) for p in plots),
                       *[-1] * more], dtype=np.intp),
        zone=np.array([*(number[zones[p.id].id] for p in plots), *[0] * more], dtype=np.intp),
        flow_l_h=np.array([[r.flows[zones[p.id].id][level].plot_flow_l_h(p.id)
                            * r.read_share(zones[p.id]) for level in LEVELS]
                           for p in plots] + [[0.0] * 3] * more).reshape(len(thirsts), 3),
        works=np.array([*(timing.efficiency(r.flows[zones[p.id].id]["half"])
                          if zones[p.id].timed else 1.0 for p in plots), *[1.0] * more]),
        minutes=_minutes(r, garden.zones),
        always_on=np.array([row is not None for row in rows], dtype=bool),
        reservoir=np.array([free_water_l(row) + row.tank_l if row else 0.0 for row in rows]),
        total=np.array([t.total_l for t in thirsts]), ready=np.array([t.raw_l for t in thirsts]),
        use=np.array([t.use_l for t in thirsts]).reshape(len(thirsts), *shape),
        rain=np.array([t.rain_l for t in thirsts]).reshape(len(thirsts), *shape),
        grey=np.array([*(np.zeros(shape) for _ in plots), *washed.values()]).reshape(
            len(thirsts), *shape),
        drained=drained,
        size=np.array([bank.usable_l for bank in banks.banks] or [0.0]), inflow=r.bank_inflow_l,
        over_to=banks.over_to or (-1,), feeds=banks.feeds,
        well=np.array([sum(well_day_l(w) for w in garden.wells if w.tops_up in near)
                       for near in stores] or [0.0], dtype=float),
        tapped=np.array([any(t.tops_up in near for t in garden.taps) for near in stores]
                        or [False], dtype=bool))


def first_hours(r: Reckoning) -> dict[tuple[str, int], float]:
    """The hour of each zone's first start in a day, by zone and month.

    Zones of a source open one after another from early morning or evening, so that no two fight
    for it.
    """
    begun: dict[tuple[str, int], float] = {}
    found = {}
    for zone in r.timed_zones:
        for setting in r.settings[zone.id]:
            turn = (zone.source, setting.month)
            hour = begun.get(turn, STARTS_H[r.garden.opens])
            found[zone.id, setting.month] = hour % 24
            begun[turn] = hour + setting.minutes / 60
    return found


def _minutes(r: Reckoning, zones: tuple[Zone, ...]) -> Array:
    """Wetting of each zone by year, day and part.

    A pilot valve without the pressure to lift it stays shut.
    """
    timer = r.library.timers[r.garden.timer]
    stuck = {source for source in {zone.source for zone in zones}
             if valve_gets_kpa(r.garden, r.library, source) < timer.opens_kpa}
    found, starts = [], first_hours(r)
    for zone in zones:
        settings = r.settings[zone.id] if zone.timed and zone.source not in stuck else ()
        fill = min(r.fill_minutes(zone), 1e4) if zone.timed else 0.0
        found.append(wetting_minutes(
            settings, [starts[zone.id, s.month] for s in settings], fill, r.weather,
            adjusts=timer.style == "weather", hold_mm=r.garden.rain_hold_mm))
    shape = (*r.weather.rain_mm.shape, 4)
    return np.array(found or [np.zeros(shape)]).reshape(-1, *shape)
