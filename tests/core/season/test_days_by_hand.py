"""Single days of the season, worked with a pencil: what is asked, given, passed on and spilt."""

from dataclasses import replace

import numpy as np
import pytest

from euhydra.core.season.simulate import run_season
from worlds import side_by_side, well, world

NONE = np.zeros((1, 365))


def year(*days):
    """What comes or is drunk on the first days of a year."""
    daily = np.zeros((1, 365))
    daily[0, :len(days)] = days
    return daily


def opened(*minutes):
    """Minutes that a valve is open early on the first days, (1, 365, 4)."""
    by_part = np.zeros((1, 365, 4))
    by_part[0, :len(minutes), 0] = minutes
    return by_part


def test_water_past_the_roots_first_fills_what_lacks_below_them():
    """8 lacking of 20; harvest leaves roots of 5: 2 lacking in them, 6 below. 15 L come, 0.6 work.

    Of the 9 that soak in 2 fill the roots and 6 what lies below: 15 − 2 − 6 = 7 are lost.
    """
    hold = np.full((1, 365), 5.0)
    hold[0, 0] = 20.0
    season = run_season(world(year(8), NONE, opened(0, 15), total=20.0, ready=20.0, works=0.6,
                              hold=hold), start_share=1.0)
    assert season.depletion[0, 0, :2] == pytest.approx([8, 0])
    assert season.given[0, 0, 1] == pytest.approx(15)
    assert season.wasted[0, 0, 1] == pytest.approx(7)
    assert season.level[0, 0, :2] == pytest.approx([1000, 985])


def test_used_water_is_drunk_in_two_halves_and_the_drum_spills_the_rest():
    """8 L drained, 5 led to the ground: 2.5 before noon find full roots, 2 of the next 2.5 room."""
    grey, drained = year(5)[None], year(8)
    season = run_season(world(year(4), NONE, opened(), total=20.0, ready=20.0, grey=grey,
                              drained=drained), start_share=1.0)
    assert season.given[0, 0, 0] == pytest.approx(5)
    assert season.wasted[0, 0, 0] == pytest.approx(2.5 + 0.5)
    assert season.depletion[0, 0, 0] == pytest.approx(2)
    assert (season.used[0, 0], season.spilled[0, 0]) == pytest.approx((8, 3))
    assert season.drunk[0, 0, 0] == pytest.approx(4)


def test_what_a_bank_lacks_comes_from_the_one_that_feeds_it_and_no_more():
    # 40 L wanted, 30 there: 10 come from the bank above, whose 30 become 20.
    one = world(NONE, NONE, opened(40), bank=np.array([1]), feeds=((0, 1),))
    season = run_season(replace(
        one, size=np.array([100.0, 100.0]), inflow=np.zeros((2, 1, 365)),
        tapped=np.zeros(2, dtype=bool), filled_at=np.zeros(2), over_to=(-1, -1),
        out=np.zeros((2, 365), dtype=bool)), start_share=0.3)
    assert season.given[0, 0, 0] == pytest.approx(40)
    assert season.level[:, 0, 0] == pytest.approx([20, 0])
    assert season.beyond.sum() == pytest.approx(0)


def test_less_than_a_litre_is_shared_out_like_any_other():
    # Half a litre wanted of a bank that holds a fifth of one.
    season = run_season(world(NONE, NONE, opened(0.5), size=0.2), start_share=1.0)
    assert season.given[0, 0, 0] == pytest.approx(0.2)
    assert season.lacking[0, 0, 0] == pytest.approx(0.3)


def test_a_plot_whose_valve_is_shut_gets_nothing_while_another_s_is_open():
    minutes = np.stack([opened(30), opened(0, 20)])
    season = run_season(side_by_side(world(NONE, NONE, opened()), minutes), start_share=1.0)
    assert season.given[:, 0, :3] == pytest.approx(np.array([[30, 0, 0], [0, 20, 0]]))
    assert season.lacking.sum() == 0


def test_a_float_valve_lets_in_what_is_drunk_and_what_water_and_mix_lack():
    """10 L of free water, 2 L/h: no more than 24 in each half day.

    Day 1 drinks 30 a half: 24 come, 4 of water are left; then 24 come, and 2 are drawn from the
    mix. Day 2 drinks 4 a half: 4 and the 10 + 2 that lack come, then 4.
    """
    season = run_season(world(year(60, 8, 8), NONE, opened(), flow=(2.0, 2.0, 2.0), total=20.0,
                              ready=20.0, always_on=np.array([True]), reservoir=np.array([10.0])),
                        start_share=1.0)
    assert season.given[0, 0, :3] == pytest.approx([48, 20, 8])
    assert season.drunk[0, 0, :3] == pytest.approx([60, 8, 8])
    assert season.reservoir[0, 0, :3] == pytest.approx([0, 10, 10])
    assert season.depletion[0, 0, :3] == pytest.approx([2, 0, 0])
    assert season.level[0, 0, :3] == pytest.approx([952, 932, 924])
    assert (season.wasted.sum(), season.lacking.sum()) == pytest.approx((0, 0))


def test_a_bank_out_for_frost_is_emptied_once_and_gives_nothing():
    out = np.zeros((1, 365), dtype=bool)
    out[0, 2:5] = True
    season = run_season(world(NONE, NONE, opened(0, 10, 10, 10, 0, 0, 10), size=100.0, out=out,
                              inflow=year(0, 0, 0, 0, 0, 7)), start_share=0.5)
    assert season.emptied[0, :6] == pytest.approx([0, 0, 40, 0, 0, 0])
    assert season.level[0, 0, :7] == pytest.approx([50, 40, 0, 0, 0, 7, 0])
    assert season.given[0, 0, :7] == pytest.approx([0, 10, 0, 0, 0, 0, 7])
    assert season.spilled.sum() == pytest.approx(0)


def test_a_leak_takes_its_litres_each_day_as_far_as_they_are_there():
    leak = np.full((1, 1, 365), 15.0)
    season = run_season(world(NONE, NONE, opened(0, 10), size=100.0, leak=leak,
                              inflow=year(0, 0, 0, 0, 30)), start_share=0.5)
    # The leak comes first in a day, then the run, then the rain.
    assert season.level[0, 0, :6] == pytest.approx([35, 10, 0, 0, 30, 15])
    assert season.leaked[0, :6] == pytest.approx([15, 15, 10, 0, 0, 15])
    assert season.given[0, 0, :3] == pytest.approx([0, 10, 0])


def test_what_a_person_carried_is_drawn_before_the_rain_that_stood_there():
    # Filled to 100 when under 25: of 20 there 80 are carried, and all that is drawn is of those;
    # where 90 are drawn at first it is filled anew.
    season = run_season(world(NONE, NONE, opened(30, 0, 40), size=100.0,
                              filled_at=np.array([25.0])), start_share=0.2)
    assert season.poured[0, 0, :3] == pytest.approx([80, 0, 0])
    assert season.by_hand[0, :3] == pytest.approx([30, 0, 40])
    again = run_season(world(NONE, NONE, opened(90, 0, 15), size=100.0,
                             filled_at=np.array([25.0])), start_share=0.2)
    assert again.poured[0, 0, :3] == pytest.approx([80, 90, 0])
    assert again.by_hand[0, :3] == pytest.approx([80, 0, 15])


def test_two_plots_on_taps_are_topped_up_at_one_go_and_on_every_part_of_the_day():
    """Two banks with nothing in them, each under a tap: 30 and 20 L early, 10 and 0 later."""
    minutes = np.zeros((2, 1, 365, 4))
    minutes[0, 0, 0, [0, 2]] = 30, 10
    minutes[1, 0, 0, 0] = 20
    two = side_by_side(world(NONE, NONE, opened()), minutes, bank=np.array([0, 1]),
                       size=np.array([50.0, 50.0]), inflow=np.zeros((2, 1, 365)),
                       tapped=np.ones(2, dtype=bool), filled_at=np.zeros(2),
                       over_to=(-1, -1), out=np.zeros((2, 365), dtype=bool))
    season = run_season(two, start_share=0.0)
    assert season.tap[0, 0] == pytest.approx(60)
    assert season.given[:, 0, 0] == pytest.approx([40, 20])
    some = run_season(two, start_share=0.1)
    assert some.tap[0, 0] == pytest.approx(60 - 10)
    assert some.beyond[:, 0, 0] == pytest.approx([35, 15])


def test_a_float_valve_on_the_second_bank_stands_still_while_that_is_out():
    """The first bank is out on day 0, the second on day 1; each has a row that drinks 6, and a
    well fills in for the second: it gives the 6 that lack and the day's 6.
    """
    out = np.zeros((2, 365), dtype=bool)
    out[0, 0] = out[1, 1] = True
    rows = side_by_side(
        world(year(6, 6, 6), NONE, opened(), flow=(2.0, 2.0, 2.0), total=20.0, ready=20.0,
              always_on=np.array([True]), reservoir=np.array([10.0])),
        np.zeros((2, 1, 365, 4)), bank=np.array([0, 1]), size=np.array([500.0, 500.0]),
        inflow=np.zeros((2, 1, 365)), **well(1, 50.0), tapped=np.zeros(2, dtype=bool),
        filled_at=np.zeros(2), over_to=(-1, -1), out=out)
    season = run_season(rows, start_share=1.0)
    assert season.given[1, 0, :3] == pytest.approx([6, 0, 12])
    assert season.given[0, 0, 0] == 0
    assert season.reservoir[:, 0, 1] == pytest.approx([0, 4])


def test_a_float_valve_lacks_what_its_row_did_not_drink_and_not_over_and_over():
    """A row with 10 L of its own and 4 in its mix drinks 6 a day; 9 L stand in the bank.

    Day 0: 3 and 3 come. Day 1: 3 come; from then on it drinks of its own 10 L, and of the mix,
    which ends on day 3 a litre before the day does. Then 30 L of rain fall: 14 fill all, 3 and 3
    are drunk.
    """
    season = run_season(world(year(6, 6, 6, 6, 6), NONE, opened(), flow=(5.0, 5.0, 5.0), size=30.0,
                              inflow=year(0, 0, 0, 30), total=4.0, ready=4.0,
                              always_on=np.array([True]), reservoir=np.array([10.0])),
                        start_share=0.3)
    assert season.given[0, 0, :5] == pytest.approx([6, 3, 0, 0, 20])
    assert season.lacking[0, 0, :5] == pytest.approx([0, 0, 0, 1, 0])
    assert season.drunk[0, 0, :5] == pytest.approx([6, 6, 6, 5, 6])


def test_a_second_bank_that_is_nearly_empty_shares_what_it_has():
    """The first has plenty and its plot gets 20; 6 L of 24 stand in the second: a quarter each."""
    minutes = np.stack([opened(20), opened(24)])
    two = side_by_side(world(NONE, NONE, opened()), minutes, bank=np.array([0, 1]),
                       size=np.array([100.0, 12.0]), inflow=np.zeros((2, 1, 365)),
                       tapped=np.zeros(2, dtype=bool), filled_at=np.zeros(2),
                       over_to=(-1, -1), out=np.zeros((2, 365), dtype=bool))
    season = run_season(two, start_share=0.5)
    assert season.given[:, 0, 0] == pytest.approx([20, 6])
    assert season.lacking[:, 0, 0] == pytest.approx([0, 18])
    assert season.level[:, 0, 0] == pytest.approx([30, 0])
