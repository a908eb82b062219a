"""What a season tells of its days: counted by hand on days that are made to fail."""

from dataclasses import replace

import numpy as np
import pytest

from euhydra.core.season.inputs import just_what_it_drinks
from euhydra.core.season.simulate import run_season
from worlds import side_by_side, world

YEARS = 5


def dry(*failing, years=YEARS, **more):
    """Two plots that drink a litre a day, on full barrels of 1 L and a tank of plenty.

    The first is opened for 5 L on (year, day): more than the barrel holds. Grows on days 100 to
    199; the water year begins with day 50.
    """
    minutes = np.zeros((2, years, 365, 4))
    for year, day in failing:
        minutes[0, year, day, 0] = 5.0
    minutes, use = more.pop("minutes", minutes), np.zeros((years, 365))
    use[:, 100:200] = 1.0
    return run_season(side_by_side(
        world(use, np.zeros((years, 365)), minutes[0], total=500.0, ready=500.0), minutes,
        **({"bank": np.array([0, 1]), "size": np.array([1.0, 1000.0]),
            "inflow": np.zeros((2, years, 365)),
            "tapped": np.zeros(2, dtype=bool), "filled_at": np.zeros(2), "over_to": (-1, -1),
            "out": np.zeros((2, 365), dtype=bool), "begins": 50} | more)), start_share=1.0)


def test_a_plot_is_short_from_a_watering_that_failed_to_its_season_s_end_and_no_other_by_it():
    """The first fails on day 150 of year 1; its next watering, of the year after, fails too."""
    season = dry((1, 150), (2, 180))
    assert np.flatnonzero(season.short[1]).tolist() == list(range(150, 200))
    assert np.flatnonzero(season.short[2]).tolist() == list(range(180, 200))
    assert season.short.sum() == 50 + 20
    assert season.short_days.tolist() == [0, 50, 20, 0, 0]
    assert season.dry_run == (365 - 50 + 150, 50)
    assert season.days_met == pytest.approx(1 - 70 / 500)


def test_no_day_is_short_before_the_first_watering():
    """Everything grows all year; 1 L stands there: 5 fail on day 1, half is given on day 5."""
    rained = np.zeros((2, 1, 365))
    rained[0, 0, 3] = 1.0
    minutes = np.zeros((2, 1, 365, 4))
    minutes[0, 0, [1, 5, 364], 0] = 5.0, 0.5, 5.0
    season = dry(years=1, minutes=minutes, inflow=rained, begins=0,
                 grows=np.ones((2, 365), dtype=bool))
    assert np.flatnonzero(season.short[0]).tolist() == [1, 2, 3, 4, 364]


@pytest.mark.parametrize(("years", "failing", "first"), [
    (5, (1, 2), None), (5, (1, 2, 4), 150.0), (3, (1, 2), 150.0), (2, (1,), None),
    (2, (0, 1), 150.0)])
def test_a_first_short_day_is_told_where_most_years_have_one(years, failing, first):
    assert dry(*[(year, 150) for year in failing], years=years).first_short == first


def test_thirsty_days_are_counted_by_plot_and_year():
    """The first gets 0.7 of its thirst from day 120 on; the second all of it."""
    season = dry()
    thirst = replace(season, fed=np.where(np.arange(365) < 120, 1.0, 0.7)[None, None] * np.array(
        [[[1.0]] * YEARS, [[2.0]] * YEARS]))
    assert thirst.thirsty_days.tolist() == [[245.0] * YEARS, [0.0] * YEARS]
    assert thirst.thirsty_days.shape == (2, YEARS)


def test_the_typical_year_is_the_middle_one_by_thirsty_days_of_all_plots():
    """0, 9, 4, 30 and 5 days by year: the middle is 5, of the last; the second plot adds none."""
    season = dry()
    fed = np.ones((2, YEARS, 365))
    for year, days in enumerate((0, 9, 4, 30, 5)):
        fed[0, year, 100:100 + days] = 0.5
    assert replace(season, fed=fed).typical_year == 4


def test_a_perfect_waterer_s_beds_have_no_water_of_their_own():
    one = world(np.zeros((1, 365)), np.zeros((1, 365)), np.zeros((1, 365, 4)))
    kept = side_by_side(one, np.zeros((2, 1, 365, 4)), always_on=np.array([False, True]),
                        reservoir=np.array([7.0, 9.0]))
    assert just_what_it_drinks(kept).reservoir.tolist() == [0.0, 9.0]
