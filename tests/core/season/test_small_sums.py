"""Small sums of the season, worked with a pencil: shares, roots that grow, stores left alone."""

import math
from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from test_programme import every_day, weather

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.season.inputs import timer_runs
from euhydra.core.season.programme import opened
from euhydra.core.season.simulate import run_season
from euhydra.core.season.sizing import ALWAYS, GROWS, TRIES, Sizes
from gardens import made
from worlds import world

NONE = np.zeros((1, 365))
SHUT = np.zeros((1, 365, 4))


def test_shares_of_a_year_in_which_nothing_is_asked_and_all_runs_over():
    inflow = NONE.copy()
    inflow[0, :10] = 5.0
    season = run_season(world(NONE, NONE, SHUT, size=10.0, inflow=inflow))
    assert season.rain_share == 1.0
    assert season.over_share == pytest.approx(1.0), "it is full from the year before"
    begun = run_season(world(NONE, NONE, SHUT, size=10.0, inflow=inflow), start_share=0.0)
    assert begun.over_share == pytest.approx(40 / 50)


def test_what_one_store_spills_leaves_another_that_it_is_not_joined_with_as_it_stands():
    inflow = np.zeros((2, 1, 365))
    inflow[0] = 5.0
    two = replace(world(NONE, NONE, SHUT), size=np.array([10.0, 100.0]), inflow=inflow,
                  over_to=(-1, -1), tapped=np.zeros(2, dtype=bool),
                  filled_at=np.zeros(2), out=np.zeros((2, 365), dtype=bool))
    season = run_season(two, start_share=0.25)
    assert season.level[1] == pytest.approx(np.full((1, 365), 25.0))
    assert season.spilled.sum() == pytest.approx(365 * 5 - 7.5)


def test_used_water_comes_in_halves_and_a_short_run_gives_its_share():
    grey = np.full((1, 1, 365), 1.5)
    season = run_season(world(NONE, NONE, SHUT, grey=grey, drained=grey[0]))
    assert season.given[0] == pytest.approx(np.full((1, 365), 1.5))
    minutes = SHUT.copy()
    minutes[..., 0] = 0.5
    short = run_season(world(np.ones((1, 365)), NONE, minutes))
    assert short.given[0, 0, 5] == pytest.approx(0.5), "60 L/h for half a minute"


def test_roots_that_grow_reach_soil_as_it_stands():
    """Roots hold 20, grow by halves to 60 from day 60 to 139, and are 20 again from day 300 on.

    9 are drunk after the soil was filled on day 200. At 20 of 60 they lack 3 themselves and leave
    6 below; 5 of rain on day 50 fill the 3, and 2 of what lies below. Half-way through growing, at
    40, half of the 4 is reached; all of it at 60.
    """
    hold = np.concatenate([np.full(60, 20.0), np.arange(20.5, 60.5, 0.5), np.full(160, 60.0),
                           np.full(65, 20.0)])[None]
    use, rain = NONE.copy(), NONE.copy()
    use[0, 201:210] = 1.0
    rain[0, 50], rain[0, 200] = 5.0, 100.0
    season = run_season(world(use, rain, SHUT, hold=hold, total=60.0,
                              ready=19.0, grows=np.ones((1, 365), dtype=bool)))
    lacks = season.depletion[0, 0]
    assert lacks[[250, 299]] == pytest.approx([9, 9])
    assert lacks[[300, 20, 49]] == pytest.approx([3, 3, 3])
    assert lacks[[50, 59]] == pytest.approx([0, 0])
    assert lacks[99] == pytest.approx(2)
    assert lacks[[139, 199]] == pytest.approx([4, 4])


def test_a_run_of_a_minute_is_a_run_and_rain_before_the_first_day_is_the_last_s():
    wet = weather(5.0, years=1)
    wet.rain_mm[0, -1] = 30.0
    minutes, runs = opened([every_day(m, minutes=1) for m in range(12)], [5.0] * 12, wet,
                           np.ones(365, dtype=bool), hold_mm=29.5)
    assert runs.sum(axis=2)[0, [10, 200]].tolist() == [1, 1]
    assert minutes.sum(axis=2)[0, 10] == 1
    assert runs[0, 0].sum() == 0, "held by the rain of the day before"
    _, dry = opened([every_day(m) for m in range(12)], [5.0] * 12, wet,
                    np.ones(365, dtype=bool), hold_mm=30.5)
    assert dry[0, 0].sum() == 1


def test_pots_left_to_the_hose_stand_in_the_season_by_its_flow(library):
    a = assess(made(library, ("plots/pots-1/watered", "hose")), library)
    season, each = a.season, a.schedule.by_hand["pots-1"]
    i = season.world.plots.index("pots-1")
    assert season.world.flow_l_h[i].tolist() == [each.flow_l_h] * 3
    july = each.setting_in(6)
    given = season.given[i][:, 181:212]
    assert given.max() == pytest.approx(each.litres(july) * july.starts_a_day)
    bed = season.world.plots.index("bed-1")
    assert season.world.grows[bed, [0, 200]].tolist() == [False, True]


def test_a_store_that_never_fails_is_found_where_rain_is_enough_and_nowhere_else(library):
    wide = made(library, ("roofs/roof/width_m", 30.0), ("site/years", 5),
                ("timers/timer/kind", "dial-ball"), pots=0)
    sizes = assess(wide, library).sizes
    peak = sizes.rule_sizes_l["never-fails"]
    rule = next(r for r in sizes.rules if r.key == "never-fails")
    assert math.isfinite(peak)
    tried = [peak * GROWS**n for n in range(TRIES)]
    assert rule.size_l == pytest.approx(next((s for s in tried if sizes._with(
        sizes._in_all(s)).given >= ALWAYS), math.inf))
    small = SetValue("roofs/roof/width_m", 0.5).apply(wide, library)
    assert assess(small, library).sizes.rule_sizes_l["never-fails"] == math.inf


def test_roots_are_drawn_to_their_last_and_no_further():
    """10 hold 8 that are ready, and 9.5 are wanted in each half of a day after a flood.

    The first half leaves 0.5, at which a quarter of the second's 9.5 would be drunk: 0.5 is.
    """
    rain, use = NONE.copy(), NONE.copy()
    rain[0, 10], use[0, 11] = 50.0, 19.0
    season = run_season(world(use, rain, SHUT, total=10.0, ready=8.0))
    assert season.depletion[0, 0, 10] == 0.0
    assert season.depletion[0, 0, 11] == pytest.approx(10.0)
    assert season.drunk[0, 0, 11] == pytest.approx(10.0)


def test_nothing_runs_over_where_nothing_comes():
    assert run_season(world(NONE, NONE, SHUT)).over_share == 0.0


def test_a_timer_with_weekdays_runs_as_it_is_set_and_follows_no_weather(library):
    """Only a weather-adjusting one moves its minutes by the day."""
    for kind, moved in (("weekday-ball", False), ("multi-ball", False), ("weather-ball", True)):
        a = assess(made(library, ("timers/timer/kind", kind), ("site/years", 5)), library)
        zone = a.garden.timed_zones[0]
        minutes, runs = timer_runs(a.season_inputs, a.weather)
        each = np.unique(np.round(minutes[0][runs[0] > 0] / runs[0][runs[0] > 0], 6))
        stand = {float(s.minutes) for m in range(12) if (s := a.schedule.setting_in(zone.id, m))}
        assert (set(each.tolist()) <= stand) != moved, kind


def sized(enough_l):
    """Sizes of which those of so many litres give all that is opened for."""
    return SimpleNamespace(_in_all=lambda size: [size], _with=lambda sizes: SimpleNamespace(
        given=1.0 if sizes[0] >= enough_l else 0.5))


@pytest.mark.parametrize(("enough", "least"), [(90.0, 100.0), (115.0, 121.0), (161.0, 161.051),
                                               (162.0, math.inf)])
def test_the_least_store_that_never_fails_is_met_in_tenths(enough, least):
    """From the sequent peak's up by a tenth each time, five times and no more."""
    assert Sizes._never_fails(sized(enough), 100.0) == pytest.approx(least)


def test_the_sequent_peak_draws_before_the_day_s_rain():
    """10 L come each day and 10 are drawn each day: a store of 10 L bridges from one to the next.

    Ten days without any rain take 100 L more out of it.
    """
    asked, inflow = np.full((1, 365), 10.0), np.full((1, 365), 10.0)
    fake = SimpleNamespace(inflow_l=inflow, asked_l=asked, rain_mm=np.ones((1, 365)),
                           season=SimpleNamespace(by_year=lambda x: x, years=1))
    rules = Sizes.rule_sizes_l.func
    assert rules(fake)["never-fails"] == pytest.approx(10.0)
    inflow[0, 100:110] = 0.0
    inflow[0, 110] = 110.0
    assert rules(fake)["never-fails"] == pytest.approx(110.0)


def test_every_bank_is_reached_where_nobody_says_which_are(library):
    """A hose alone draws on one bank that holds nothing; a well behind it is none."""
    for more, banks in (((), (0,)), (("+well",), (0,))):
        garden = made(library, *more, waters=("tap",))
        a = assess(garden, library)
        found = Sizes(a.season_inputs, a.season, (), as_set=True)
        assert len(a.season.world.size) == 1 + a.season.world.shafts
        assert found.reached == banks


def test_plots_that_a_tap_or_a_well_feeds_itself_are_no_store_s(library):
    hose = assess(made(library, waters=("tap",)), library).season.world
    assert not hose.stored.any()
    barrels = assess(made(library), library).season.world
    assert barrels.stored.all()
