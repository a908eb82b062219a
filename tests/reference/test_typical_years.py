"""Months of typical years against pvlib's own reading of the files that its package carries.

Those are TMY3 (NREL/TP-581-43156, recalled); no file of the EPW kind comes with it.
"""

from importlib.resources import files

import numpy as np
import pandas as pd
import pvlib
import pytest

from euhydra.core.weather.typical import typical_year

DATA = files("pvlib") / "data"


@pytest.mark.parametrize("name", ["703165TY.csv", "723170TYA.CSV"])
def test_months_of_a_tmy3_file(name):
    """pvlib names an hour by its end: a second before it, it lies in its own day."""
    read, _ = pvlib.iotools.read_tmy3(str(DATA / name), coerce_year=2001, map_variables=True)
    at = read.index - pd.Timedelta(seconds=1)
    days = pd.Series(at.strftime("%m-%d"), index=read.index)
    heat = read["temp_air"].groupby(days.to_numpy())
    month = np.array([int(day[:2]) for day in heat.min().index])
    year = typical_year((DATA / name).read_text(encoding="latin-1"))
    tables = dict(year.tables)
    for table, daily in (("tmin_c", heat.min()), ("tmax_c", heat.max())):
        means = [daily.to_numpy()[month == m].mean() for m in range(1, 13)]
        assert tables[table] == pytest.approx(means, abs=0.01)
    rain = read["Lprecip depth (mm)"].clip(lower=0)
    assert year.lacks_rain == (rain.sum() < 1)
    if not year.lacks_rain:
        fell = rain.groupby(at.month).sum().to_numpy()
        assert tables["rain_mm"] == pytest.approx(fell, abs=0.05)
