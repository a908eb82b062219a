"""A typical year by the hour: its twelve months, and what a broken one is told."""

import numpy as np
import pytest

from euhydra.core.weather.generator import MONTH_LENGTHS
from euhydra.core.weather.typical import BadYear, typical_year

DAYS = [(m + 1, d + 1) for m in range(12) for d in range(int(MONTH_LENGTHS[m]))]


def epw(rain="999", hours=24):
    """Each day goes from its month's number up to 23 °C more."""
    lines = ["LOCATION,Made up,-,-,made,0,41.0,0.0,0.0,10.0"] + [f"HEAD {i}" for i in range(7)]
    for i, (m, d) in enumerate(DAYS):
        for hour in range(1, hours + 1):
            row = ["2001", str(m), str(d), str(hour), "0", "?", f"{m + hour - 1:.1f}"]
            row += ["0"] * 26 + [rain if i % 3 == 0 and hour == 5 else "0.0", "0"]
            lines.append(",".join(row))
    return "\n".join(lines)


def test_lows_and_highs_of_each_month_and_no_rain_where_there_is_none():
    year = typical_year(epw())
    assert (year.service, year.lacks_rain) == ("EPW", True)
    assert dict(year.tables) == {"tmin_c": tuple(float(m) for m in range(1, 13)),
                                 "tmax_c": tuple(float(m + 23) for m in range(1, 13))}


def test_rain_where_there_is_some_with_its_wet_days():
    tables = dict(typical_year(epw("4.5")).tables)
    wet = np.array([sum(i % 3 == 0 and m == n for i, (m, _) in enumerate(DAYS))
                    for n in range(1, 13)])
    assert tables["wet_days"] == pytest.approx(wet)
    assert tables["rain_mm"] == pytest.approx(wet * 4.5, abs=0.01)


def test_a_part_of_a_year_is_refused():
    with pytest.raises(BadYear, match="8395 hours"):
        typical_year(epw(hours=23))
    with pytest.raises(BadYear, match="every day of twelve months"):
        typical_year(epw().replace("2001,7,", "2001,8,"))
    assert typical_year("date,rain\n1,2") is None
    assert typical_year("") is None
