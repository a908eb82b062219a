"""A garden's reckoning as the arrays that its season runs on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from euhydra.core.demand.demand import Demand
from euhydra.core.demand.wicking import free_water_l
from euhydra.core.garden.model import Garden, Wicking
from euhydra.core.hydraulics.drum_lines import DrumLines
from euhydra.core.hydraulics.flows import Flows
from euhydra.core.library import Library
from euhydra.core.schedule import timing
from euhydra.core.schedule.by_hand import AT_H
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.season.programme import opened
from euhydra.core.season.state import Array, World
from euhydra.core.season.washing import washed_by_day
from euhydra.core.season.well_draws import well_draws
from euhydra.core.storage import Banks
from euhydra.core.storage.inflow import Inflow
from euhydra.core.storage.top_up import feeding
from euhydra.core.supply.greywater import grounds
from euhydra.core.weather import frost
from euhydra.core.weather.generator import DailyWeather

LEVELS = ("low", "half", "full")
MORE_THAN_ANY = 1e9  # L/h


@dataclass(frozen=True, eq=False)
class SeasonInputs:
    """All that a garden's season is run from."""

    garden: Garden
    library: Library
    weather: DailyWeather
    banks: Banks
    inflow: Inflow
    demand: Demand
    flows: Flows
    schedule: Schedule
    drums: Mapping[str, DrumLines]


def world_of(inputs: SeasonInputs) -> World:
    """Everything of the garden that its days run on, the timer as its schedule sets it."""
    garden, banks, flows, demand = inputs.garden, inputs.banks, inputs.flows, inputs.demand
    zones = {plot: zone for zone in garden.zones for plot in zone.plots}
    hands = inputs.schedule.by_hand
    plots = [plot for plot in garden.plots if plot.id in zones or plot.id in hands]
    timed = {p.id: p.id in zones and zones[p.id].timed for p in plots}
    washed, of_drums, drained = washed_by_day(
        garden, inputs.drums, frost.timer_days(garden.site), inputs.weather.years)
    thirsts = [*(demand.thirsts[plot.id] for plot in plots),
               *(demand.grey_thirsts[key] for key in washed)]
    more = len(washed)
    number = {plot: i for i, zone in enumerate(garden.zones) for plot in zone.plots} | {
        plot: i for i, plot in enumerate(hands, start=len(garden.zones))}
    shape = inputs.weather.rain_mm.shape
    rows = [plot if isinstance(plot, Wicking) else None for plot in plots] + [None] * more
    stores = [{s.id for b in feeding(banks, i) for s in banks.banks[b].stores}
              for i in range(len(banks.banks))]
    minutes, runs = timer_runs(inputs, inputs.weather)
    wells = well_draws(garden, banks)
    at, behind = banks.of_store | wells.shafts, np.zeros(len(wells.shafts))
    credits = {zone.id: flows[zone.id].refill.credit_l(flows[zone.id]["half"])
               if zone.timed else {}
               for zone in garden.zones}
    return World(
        plots=(*(plot.id for plot in plots), *washed), washed=frozenset(washed) | set(of_drums),
        names=(*(plot.name for plot in plots),
               *(bed.name for d in garden.drains for bed in grounds(d))),
        carried=frozenset(hands),
        bank=np.array([*(at.get(garden.source_of(p), -1) for p in plots),
                       *[-1] * more], dtype=np.intp),
        zone=np.array([*(number[p.id] for p in plots), *[0] * more], dtype=np.intp),
        flow_l_h=np.array([[hands[p.id].flow_l_h] * 3 if p.id in hands else
                           [flows[zones[p.id].id][level].plot_flow_l_h(p.id)
                            * flows.read_share(zones[p.id]) for level in LEVELS]
                           for p in plots] + [[0.0] * 3] * more).reshape(len(thirsts), 3),
        works=np.array([*(timing.efficiency(flows[zones[p.id].id]["half"])
                          if timed[p.id] else 1.0 for p in plots), *[1.0] * more]),
        minutes=minutes, runs=runs,
        refilled=np.array([*(credits[zones[p.id].id].get(p.id, 0.0) if timed[p.id] else 0.0
                             for p in plots), *[0.0] * more]),
        always_on=np.array([row is not None for row in rows], dtype=bool),
        reservoir=np.array([free_water_l(row) if row else 0.0 for row in rows]),
        hold=np.array([t.ground.hold_l for t in thirsts]).reshape(len(thirsts), 365),
        full=np.array([t.ground.full_l for t in thirsts]),
        ready=np.array([t.ground.ready_l for t in thirsts]).reshape(len(thirsts), *shape),
        use=np.array([t.use_l for t in thirsts]).reshape(len(thirsts), *shape),
        bare=np.array([t.ground.bare_l for t in thirsts]).reshape(len(thirsts), *shape),
        rain=np.array([t.rain_l for t in thirsts]).reshape(len(thirsts), *shape),
        caught=np.array([t.ground.caught_l for t in thirsts]).reshape(len(thirsts), 365),
        grey=_grey([*(p.id for p in plots), *washed], washed | of_drums, shape),
        drained=drained,
        size=np.array([*([bank.usable_l for bank in banks.banks] or [0.0]), *behind]),
        inflow=_behind(inputs.inflow.by_bank_l, len(behind)),
        over_to=(*(banks.over_to or (-1,)), *[-1] * len(behind)), feeds=banks.feeds,
        well_day=np.array(wells.day_l, dtype=float), well_to=wells.to,
        well_share=np.array(wells.shares, dtype=float), shafts=len(behind),
        tapped=np.array([*([any(t.tops_up in near for t in garden.taps) for near in stores]
                           or [False]), *behind], dtype=bool),
        out=_behind(inputs.inflow.winters, len(behind)),
        filled_at=np.array([*([bank.filled_at_l for bank in banks.banks] or [0.0]), *behind]),
        leak=_every_day([*([bank.leak_l_day for bank in banks.banks] or [0.0]), *behind], shape),
        stuck=np.array([*(timed[p.id] and zones[p.id].id in flows.shut for p in plots),
                        *[False] * more], dtype=bool),
        grows=np.array([t.kc > 0 for t in thirsts], dtype=bool).reshape(len(thirsts), 365),
        begins=demand.year_begins)


def _behind(by_bank: NDArray[Any], more: int) -> NDArray[Any]:
    """With as many banks behind that hold nothing and take nothing in."""
    if not more:
        return by_bank
    nothing = np.zeros((more, *by_bank.shape[1:]), dtype=by_bank.dtype)
    return np.concatenate([by_bank, nothing])


def _every_day(litres: Sequence[float], days: tuple[int, ...]) -> Array:
    """The same each day of every year, (B, Y, 365); not to be written to."""
    return np.broadcast_to(np.array(litres, dtype=float)[:, None, None], (len(litres), *days))


def just_what_it_drinks(world: World) -> World:
    """The same garden if every plot were given just what it drinks, whatever its timer does."""
    own = np.where(world.always_on, world.reservoir, 0.0)
    timed = np.array([plot not in world.washed for plot in world.plots], dtype=bool)
    return replace(world, always_on=timed, reservoir=own, works=np.ones_like(world.works),
                   flow_l_h=np.full_like(world.flow_l_h, MORE_THAN_ANY),
                   stuck=np.zeros_like(world.stuck))


def without_rain(world: World) -> World:
    """The same garden with no rain anywhere, and nobody who fills in for its stores.

    What a well feeds straight is taken to be fed, as what a tap does.
    """
    nothing = np.zeros_like
    return replace(world, rain=nothing(world.rain), inflow=nothing(world.inflow),
                   bank=np.where(world.stored, world.bank, -1),
                   well_day=nothing(world.well_day), tapped=nothing(world.tapped),
                   filled_at=nothing(world.filled_at))


def in_week(inputs: SeasonInputs, world: World, weather: DailyWeather, begins: int) -> World:
    """The same garden in some weather, its timers and its washing as in years that all begin on one
    weekday, from Monday 0. Of a calendar's year that is right from its first day to its last.
    """
    minutes, runs = timer_runs(inputs, weather, begins)
    basins, of_drums, drained = washed_by_day(
        inputs.garden, inputs.drums, frost.timer_days(inputs.garden.site), weather.years, begins)
    return replace(world, minutes=minutes, runs=runs, drained=drained,
                   grey=_grey(world.plots, basins | of_drums, weather.rain_mm.shape))


def _grey(plots: Sequence[str], led: Mapping[str, Array], days: tuple[int, ...]) -> Array:
    """Used water by plot, year and day, none where none is led."""
    none = np.zeros(days)
    return np.array([led.get(plot, none) for plot in plots]).reshape(len(plots), *days)


def timer_runs(inputs: SeasonInputs, weather: DailyWeather, begins: int | None = None) -> Array:
    """Minutes and runs of each zone in some weather, (2, zones, years, 365, 4); ``begins`` is as in
    ``programme.runs``.

    A pilot valve without the pressure to lift it stays shut. What is watered with cans or a hose
    comes after the zones, as one each.
    """
    garden, schedule = inputs.garden, inputs.schedule
    found, starts = [], schedule.first_hours
    for zone in garden.zones:
        settings = (schedule.settings[zone.id] if zone.timed and zone.id not in inputs.flows.shut
                    else ())
        found.append(opened(
            settings, [starts[zone.id, s.month] for s in settings], weather,
            schedule.timer_days[zone.id], adjusts=schedule.row(zone).style == "weather",
            hold_mm=garden.rain_hold_mm, begins=begins))
    found += [opened(each.settings, [AT_H] * len(each.settings), weather, each.days, begins=begins)
              for each in schedule.by_hand.values()]
    shape = (*weather.rain_mm.shape, 4)
    none = (np.zeros(shape), np.zeros(shape))
    return np.array(found or [none]).reshape(-1, 2, *shape).swapaxes(0, 1)
