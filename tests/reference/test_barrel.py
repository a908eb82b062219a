"""Roof, first flush, barrel and overflow against SWMM 5 (pyswmm, PyPI), at a thousand times."""

import datetime as dt

import numpy as np
import pytest
from pyswmm import Links, Nodes, Simulation

from euhydra.core.garden.model import Point, Roof
from euhydra.core.season.simulate import run_season
from euhydra.core.supply.runoff import roof_yields
from euhydra.core.weather.generator import generate
from euhydra.data import library
from gardens import climate_of
from worlds import world

LIBRARY = library()
YEARS, TIMES, FIRST, LAST = 5, 1000, 90, 273
DRY_H = 30  # from the end of one day's rain to that of the next day but one, a dry one between
START = dt.datetime(2001, 1, 1)

MODEL = """[OPTIONS]
FLOW_UNITS CMS
INFILTRATION HORTON
FLOW_ROUTING KINWAVE
START_DATE 01/01/2001
END_DATE {end:%m/%d/%Y}
REPORT_STEP 24:00:00
WET_STEP 00:05:00
DRY_STEP 01:00:00
ROUTING_STEP 300

[EVAPORATION]
CONSTANT {dries}
DRY_ONLY YES

[RAINGAGES]
G VOLUME 6:00 1.0 TIMESERIES RAIN

[SUBCATCHMENTS]
S G TANK {hectares} 100 500 5 0

[SUBAREAS]
S 0.011 0.1 {flush} 0 0 OUTLET

[INFILTRATION]
S 1 1 1 1 1

[STORAGE]
TANK 0 1 0 FUNCTIONAL 0 0 {size_m3} 0 0

[OUTFALLS]
OUT -5 FREE NO

[PUMPS]
P TANK OUT DRAW OFF 0 0

[CURVES]
DRAW PUMP4 0 0
DRAW 0.0005 {m3_s}
DRAW 100 {m3_s}

[CONTROLS]
RULE MORNING
IF SIMULATION DAYOFYEAR > {first}
AND SIMULATION DAYOFYEAR <= {last}
AND SIMULATION CLOCKTIME >= 6:00
AND SIMULATION CLOCKTIME < 7:00
THEN PUMP P STATUS = ON
ELSE PUMP P STATUS = OFF

[REPORT]
INPUT NO

[TIMESERIES]
{rain}
"""


def swmm(path, rain_mm, runoff, area_m2, flush_mm, size_l, draw_l):
    """Litres by year that came into the barrel, ran over its rim, and were drawn.

    What wets the roof is its first flush, which a dry day takes away again; rain falls in the
    eighteen hours after seven in the morning, and an hour's draw comes before it.
    """
    falls = [(START + dt.timedelta(days=n, hours=7 + 6 * k), mm * runoff / 3)
             for n, mm in enumerate(rain_mm.ravel()) if mm > 0 for k in range(3)]
    path.write_text(MODEL.format(
        end=START + dt.timedelta(days=rain_mm.size), flush=flush_mm,
        dries=flush_mm * 24 / DRY_H, size_m3=size_l * TIMES / 1000,
        hectares=area_m2 * TIMES / 1e4, m3_s=draw_l * TIMES / 1000 / 3600, first=FIRST, last=LAST,
        rain="\n".join(f"RAIN {at:%m/%d/%Y %H:%M} {mm:.6f}" for at, mm in falls)))
    told = []
    with Simulation(str(path)) as run:
        tank, out = Nodes(run)["TANK"], Nodes(run)["OUT"]
        assert "P" in {link.linkid for link in Links(run)}
        run.step_advance(86400)
        for _ in run:
            told.append((tank.cumulative_inflow, tank.statistics["flooding_volume"],
                         out.cumulative_inflow))
    by_year = np.array([[0.0, 0.0, 0.0], *(told[min(365 * (y + 1), len(told)) - 1]
                                           for y in range(len(rain_mm)))])
    return np.diff(by_year, axis=0).T * 1000 / TIMES


@pytest.mark.parametrize(("climate", "latitude", "size_l", "draw_l"), [
    ("oceanic", 51.5, 210.0, 18.0), ("continental", 47.0, 210.0, 30.0),
    ("oceanic", 51.5, 630.0, 30.0)])
def test_five_years_of_a_barrel_under_a_roof(tmp_path, climate, latitude, size_l, draw_l):
    rain = generate(climate_of(LIBRARY, climate), latitude, YEARS, 2).rain_mm
    roof = Roof.model_validate({
        "id": "r", "name": "r", "corner": Point(x_m=0, y_m=0), "width_m": 5, "depth_m": 4,
        "material": "metal", "first_flush_mm": 0.3, "gutter_mm": 200,
        "downspouts": [{"id": "d", "name": "d", "to": "s", "bore_mm": 150}]})
    caught = roof_yields(rain, (roof,), LIBRARY)["r"].caught_l
    minutes = np.zeros((YEARS, 365, 4))
    minutes[:, FIRST:LAST, 0] = draw_l  # at 60 L/h
    none = np.zeros((YEARS, 365))
    season = run_season(world(none + 1e-9, none, minutes, size=size_l, total=1e9, inflow=caught),
                        start_share=0.0)
    came, spilled, given = swmm(tmp_path / "barrel.inp", rain,
                                LIBRARY.roof_materials["metal"].runoff, 20.0, 0.3, size_l, draw_l)
    demand = draw_l * (LAST - FIRST)
    assert (season.lacking.sum(axis=(0, 2)) > 0.02 * demand).any()  # the barrel does run out
    assert caught.sum(axis=1) == pytest.approx(came, rel=0.025)
    assert season.spilled.sum(axis=1) == pytest.approx(spilled, rel=0.025)
    assert season.given[0].sum(axis=1) == pytest.approx(given, abs=0.02 * demand)
