"""The year goes round: where it begins, what short days and runs are counted to."""

import numpy as np
import pytest

from euhydra.core.season.programme import PARTS
from euhydra.core.season.simulate import run_season
from euhydra.core.season.state import longest_run
from worlds import random_world, world


def test_a_season_goes_round_and_begins_where_it_ends():
    w = random_world(3, begins=300)
    season = run_season(w)
    assert season.end == pytest.approx(season.level[:, 0, 299])
    # The year that goes before is the last one, so that stores and soil begin as it leaves them.
    assert season.start == pytest.approx(season.end, abs=1e-6)
    assert run_season(w, start_share=0.25).start == pytest.approx(w.size * 0.25)


def marked(*days):
    found = np.zeros((1, 365))
    for day, litres in days:
        found[0, day] = litres
    return found


def test_short_lasts_from_a_watering_that_failed_to_the_next_that_did_not():
    """60 L/h for 10 minutes every fourth day from day 10, and 25 L to give: the third fails."""
    minutes = np.zeros((1, 365, PARTS))
    minutes[0, 10:60:4, 0] = 10.0
    grows = np.zeros((1, 365), dtype=bool)
    grows[0, 8:50] = True
    use = np.ones((1, 365))
    w = world(use, np.zeros((1, 365)), minutes, size=25.0, inflow=marked((37, 25.0)), grows=grows)
    season = run_season(w, start_share=1.0)
    # 10 L each on days 10 and 14, 5 of 10 on day 18: short from there to day 37; full on 38, 42;
    # 5 of 10 on day 46; the season ends with day 49.
    assert np.flatnonzero(season.short[0]).tolist() == [*range(18, 38), *range(46, 50)]
    assert (season.short_days.tolist(), season.longest_dry_run) == ([24], 20)
    assert season.first_short == 18
    assert season.days_met == pytest.approx(1 - 24 / 42)
    assert season.rain_share == pytest.approx(50 / (50 + 5 + 10 * 4 + 5 + 10 * 3))


def test_a_valve_that_stays_shut_gives_no_watering_in_its_season():
    minutes, use = np.zeros((1, 365, PARTS)), np.ones((1, 365))
    grows = (np.arange(365) < 40)[None]
    season = run_season(world(use, np.zeros((1, 365)), minutes, grows=grows,
                              stuck=np.array([True])))
    assert season.short.sum() == 40
    assert season.asked.sum() == 0


def test_a_southern_season_is_not_cut_at_new_year():
    """Dry from the first of November on; every run fails from then to the season's end in April."""
    minutes = np.zeros((3, 365, PARTS))
    minutes[..., 0] = 10.0
    grows = np.ones((1, 365), dtype=bool)
    grows[0, 90:273] = False
    w = world(np.ones((3, 365)), np.zeros((3, 365)), minutes, size=310.0, grows=grows, begins=181,
              inflow=np.tile(marked((272, 310.0)), (3, 1)))
    season = run_season(w)
    assert season.longest_dry_run == 90 + 365 - 304
    assert season.first_short == 304
    assert season.short_days.tolist() == [151, 151, 151]


def test_the_longest_run_and_where_it_begins():
    marked = np.array([1, 1, 0, 1, 1, 1, 0, 1, 1, 1], dtype=bool)
    assert longest_run(marked) == (3, 3)
    assert longest_run(~marked)[1] == 1
    assert longest_run(np.zeros(4, dtype=bool))[1] == 0
    assert longest_run(np.ones(4, dtype=bool)) == (0, 4)
