"""A season's world with one plot on one bank, for tests that work its days by hand."""

from dataclasses import replace

import numpy as np

from euhydra.core.demand.soil import Ground
from euhydra.core.season.programme import PARTS
from euhydra.core.season.state import World
from euhydra.core.weather.generator import DailyWeather


def world(use, rain, minutes, *, size=1000.0, inflow=None, flow=(60.0, 60.0, 60.0), total=100.0,
          ready=50.0, works=1.0, **more):
    """One plot on one bank."""
    years = use.shape[0]
    return World(**{
        "plots": ("bed",), "names": ("Bed",), "grey": np.zeros((1, years, 365)),
        "drained": np.zeros((years, 365)), "bank": np.array([0]), "zone": np.array([0]),
        "flow_l_h": np.array([flow]), "works": np.array([works]), "minutes": minutes[None],
        "runs": (minutes > 0)[None] * 1.0, "refilled": np.zeros(1),
        "always_on": np.array([False]), "reservoir": np.zeros(1),
        "hold": np.full((1, 365), total), "full": np.array([total]),
        "ready": np.full((1, years, 365), ready), "bare": np.zeros((1, years, 365)),
        "caught": np.zeros((1, 365)), "use": use[None], "rain": rain[None],
        "size": np.array([size]),
        "inflow": (np.zeros((years, 365)) if inflow is None else inflow)[None], "over_to": (-1,),
        "feeds": (), **well(), "tapped": np.array([False]),
        "filled_at": np.zeros(1), "leak": np.zeros((1, years, 365)),
        "out": np.zeros((1, 365), dtype=bool),
        "grows": use.any(axis=0)[None], "stuck": np.array([False])} | more)


def well(bank=None, day_l=0.0, share=0.0):
    """A well that gives a bank so much a day; none."""
    there = [] if bank is None else [bank]
    return {"well_day": np.array([day_l for _ in there]), "well_to": tuple((0, b) for b in there),
            "well_share": np.array([share for _ in there])}


def holding(total, ready=None, caught=0.0, bare=None, hold=None, years=1):
    """Ground that holds so much all year, moist where nothing grows."""
    whole = np.full((years, 365), total if ready is None else ready)
    return Ground(np.full(365, total) if hold is None else hold, total, whole,
                  np.zeros((years, 365)) if bare is None else bare, np.full(365, caught))


def side_by_side(one, minutes, **more):
    """The world of one plot with a second like it, each a zone of its own by ``minutes`` (2, …)."""
    by_plot = {name: np.repeat(getattr(one, name), 2, axis=0) for name in (
        "grey", "bank", "flow_l_h", "works", "refilled", "always_on", "reservoir", "hold", "full",
        "ready", "bare", "caught", "use", "rain", "grows", "stuck")}
    return replace(one, **(by_plot | {
        "plots": ("bed", "other"), "names": ("Bed", "Other"), "zone": np.array([0, 1]),
        "minutes": minutes, "runs": (minutes > 0) * 1.0} | more))


def steady(eto_mm=6.0, rain_mm=0.0):
    """One year of days alike."""
    shape = (1, 365)
    return DailyWeather(np.full(shape, rain_mm), np.full(shape, 15.0), np.full(shape, 30.0),
                        np.full(shape, eto_mm))


def random_world(seed, **more):
    rng = np.random.default_rng(seed)
    shape = (4, 365)
    wet = rng.random(shape) < 0.3
    return world(rng.uniform(0, 8, shape) * (np.arange(365) > 90), wet * rng.uniform(0, 12, shape),
                 (rng.random((*shape, PARTS)) < 0.2) * rng.uniform(0, 30, (*shape, PARTS)),
                 size=float(rng.uniform(5, 400)), inflow=wet * rng.uniform(0, 60, shape),
                 flow=(10.0, 25.0, 60.0), works=0.8, **more)
