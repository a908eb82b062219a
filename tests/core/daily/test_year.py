"""A year by its days says what the season says: each run by its hour, each root by its litre."""

import numpy as np
import pytest

from drawn import KILN_YARD
from euhydra.core.assessment.assess import assess
from euhydra.core.daily.year import TONES, Year, named_years
from euhydra.core.editing.file import from_json
from euhydra.core.schedule.rhythm import FIRST_START_H
from euhydra.core.weather.generator import MONTH_OF_DAY
from fifteen import fifteen
from gardens import all_sorts, made, poured

GARDENS = {
    "poured": poured, "all sorts": all_sorts,
    "south": lambda library: poured(library, latitude_deg=-34.0),
    "weekdays": lambda library: made(library, ("timers/timer/kind", "weekday-ball"), tap=True),
    "by hand": lambda library: made(library, ("plots/pots-1/watered", "hose"), tap=True)}


@pytest.fixture(scope="module", params=GARDENS)
def year(request, library):
    a = assess(GARDENS[request.param](library), library)
    return Year(a, min(3, a.years - 1))


def test_the_runs_of_a_year_are_all_that_the_season_gave(year):
    """By zone and day: litres, minutes and how often; none beside them."""
    season, world = year.season, year.season.world
    timed = ~world.always_on & np.array([p not in world.washed for p in world.plots])
    given = (year.given - year.grey)[timed]
    assert sum(run.litres for run in year.runs) == pytest.approx(given.sum(), abs=1e-6)
    assert sum(run.lacking for run in year.runs) == pytest.approx(year.lacking[timed].sum())
    minutes = year.of(np.moveaxis(world.minutes, -1, 0))  # by part, zone and day
    used = sorted(set(world.zone[timed].tolist()))
    assert sum(run.minutes for run in year.runs) == pytest.approx(minutes[:, used].sum())
    for day, runs in year.runs_by_day.items():
        assert sum(r.litres for r in runs) == pytest.approx(given[:, day].sum(), abs=1e-6)
    assert season.years > 1
    assert len(year.runs) > 20


def test_each_run_begins_at_an_hour_that_its_timer_is_set_to(year):
    r = year.results
    for run in year.runs:
        assert 0 <= run.start_h < 24
        if not run.by_hand:
            first = r.schedule.first_hours[run.of, int(MONTH_OF_DAY[run.day])]
            every = 24 / max(r.schedule.setting_in(run.of, int(MONTH_OF_DAY[run.day])
                                                   ).runs_a_week / 7, 1)
            off = (run.start_h - first) % every
            assert min(off, every - off) == pytest.approx(0, abs=1e-6)
    assert any(run.start_h >= FIRST_START_H for run in year.runs)


def test_what_is_left_and_its_tone_are_the_seasons(year):
    assert ((year.left >= 0) & (year.left <= 1)).all()
    thirsty = year.tone == TONES.index("thirsty")
    assert (thirsty == (year.thirsty & year.grows)).all()
    assert ((year.tone == TONES.index("bare")) == ~year.grows).all()
    low, full = (year.tone == TONES.index(t) for t in ("low", "full"))
    ready = year.of(year.season.world.ready)
    assert (year.depletion[low] > ready[low]).all()
    assert (year.left[full] >= 0.9).all()


def test_a_float_valves_own_water_counts_as_left(library):
    a = assess(fifteen()["eight float pots"](library), library)
    year = Year(a, 0)
    p = int(np.flatnonzero(year.season.world.always_on)[0])
    world = year.season.world
    there = (world.hold[p] - year.depletion[p] + year.of(a.season.reservoir)[p])
    assert year.left[p] == pytest.approx(there / (world.hold[p] + world.reservoir[p]))


def test_a_calendar_day_of_a_water_year_has_that_days_weather(library):
    """In the south a water year begins in June: its days before are of the next calendar year."""
    a = assess(poured(library, latitude_deg=-34.0), library)
    begins = a.season.world.begins
    assert begins > 100
    year = Year(a, 2)
    assert year.rain_mm[begins] == a.weather.rain_mm[2, begins]
    assert year.rain_mm[begins - 1] == a.weather.rain_mm[3, begins - 1]


def test_the_typical_year_is_the_one_that_prove_draws(library):
    a = assess(from_json(KILN_YARD, library), library)
    named = named_years(a)
    rain = a.season.by_year(a.weather.rain_mm).sum(axis=1)
    assert named["typical"] == a.season.typical_year
    assert rain[named["dry"]] < np.median(rain) < rain[named["wet"]]
    assert (rain < rain[named["dry"]]).mean() == pytest.approx(0.1, abs=0.04)


def test_snow_lies_until_it_melts(library):
    a = assess(from_json(KILN_YARD, library), library)
    weather = a.weather
    whole = np.cumsum((weather.rain_mm - weather.water_mm).ravel()).reshape(weather.rain_mm.shape)
    year = next(Year(a, i) for i in range(a.years) if Year(a, i).snow_mm.max() > 1)
    deepest = int(np.argmax(year.snow_mm))
    at = year.which if deepest >= a.season.world.begins else year.which + 1
    assert year.snow_mm[deepest] == pytest.approx(whole[at % a.years, deepest])
    assert year.snow_mm[195] == pytest.approx(0, abs=1e-6)
