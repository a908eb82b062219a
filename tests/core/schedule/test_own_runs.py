"""Plots run by their gardener's own litres, depth or minutes, whatever the weather."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from gardens import made, rules_of

BED = "plots/bed-1"
ONE = {"beds": (BedAnswer(length_m=2.4, width_m=1.2, group="fruiting"),), "pots": 0, "tap": True,
       "fall_m": 1.0}


def run(library, *steps):
    return assess(made(library, (f"{BED}/run_by", "own"), *steps, **ONE), library)


def minutes_a_day(a, zone):
    return {s.month: s.minutes * s.runs_a_week / 7 for s in a.schedule.settings[zone.id]}


@pytest.mark.parametrize(("key", "value", "litres"), [
    ("own_l_day", 12.0, 12.0), ("own_mm_week", 25.0, 25 * 2.4 * 1.2 / 7)])
def test_a_plot_is_given_its_own_litres_in_every_month_of_its_season(library, key, value, litres):
    a = run(library, (f"{BED}/{key}", value), ("timers/timer/kind", "multi-ball"))
    zone = a.garden.timed_zones[0]
    half = a.flows[zone.id]["half"]
    wants = litres / half.plot_flow_l_h("bed-1") * 60
    told = minutes_a_day(a, zone)
    assert len(told) > 3
    # To whole minutes a run, at most one a day, and the lines to fill before each.
    assert all(wants - 1 <= got <= wants + 4 for got in told.values()), (wants, told)
    wanted = [n.wanted_l_day for n in a.schedule.needs[zone.id] if n.plots]
    assert wanted == [pytest.approx(litres)] * len(wanted)


def test_minutes_give_what_flows_in_them_and_a_reading_counts(library):
    a = run(library, (f"{BED}/own_min_day", 15.0))
    zone = a.garden.timed_zones[0]
    flow = a.flows[zone.id]["half"].plot_flow_l_h("bed-1")
    assert a.own_l_day(a.garden.plot("bed-1")) == pytest.approx(flow / 4)
    told = [n.minutes_a_day for n in a.schedule.needs[zone.id] if n.plots]
    assert told == [pytest.approx(15)] * len(told)
    solved = a.flows[zone.id]["half"].flow_l_h
    read = run(library, (f"{BED}/own_min_day", 15.0), (f"zones/{zone.id}/read_l_h", solved / 2))
    assert read.own_l_day(read.garden.plot("bed-1")) == pytest.approx(flow / 8)


def test_the_season_gives_less_when_less_is_set_and_the_rules_say_so(library):
    little, enough = (run(library, (f"{BED}/own_l_day", litres)) for litres in (3.0, 60.0))
    weather = assess(made(library, **ONE), library)
    assert little.season.given.sum() < weather.season.given.sum()
    assert little.season.thirsty_days.mean() > weather.season.thirsty_days.mean() + 10
    assert enough.season.thirsty_days.mean() <= weather.season.thirsty_days.mean()
    own = ((f"{BED}/run_by", "own"),)
    rules = rules_of(made(library, *own, (f"{BED}/own_l_day", 3.0), **ONE), library)
    (by_weather,) = rules["time.own-run"].remedies
    assert by_weather.edit.apply(little.garden, library).plot("bed-1").run_by == "weather"
    none = rules_of(made(library, *own, **ONE), library)
    assert "time.own-none" in none
    assert "time.own-run" not in none
    assert none["time.own-none"].level == "care"
    thirst = weather.demand.thirsts["bed-1"]
    month = weather.demand.peak_month
    like = rules_of(made(library, *own, (f"{BED}/own_l_day", thirst.net_in_season(month)), **ONE),
                    library)
    assert not {"time.own-run", "time.own-none"} & like.keys()
    unused = rules_of(made(library, (f"{BED}/own_l_day", 3.0), **ONE), library)
    assert not {"time.own-run", "time.own-none"} & unused.keys()
