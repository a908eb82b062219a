"""The day in words: each sentence stands on the days that it tells of, and on no other."""

from functools import cache

import numpy as np
import pytest

from drawn import KILN_YARD
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.daily.thirst import RULES as CAUSES
from euhydra.core.daily.thirst import why
from euhydra.core.daily.told import _joined, day_told, dry_without_rain
from euhydra.core.daily.year import Year, named_years
from euhydra.core.editing.file import from_json
from euhydra.core.season.simulate import run_days
from euhydra.core.statements.figures import Amount, say
from fifteen import fifteen
from gardens import all_sorts, made, poured

DRY = {"site/last_frost": "06-20", "site/first_frost": "07-20"}


def dry_year(garden, library):
    a = assess(garden, library)
    return Year(a, named_years(a)["dry"])


@pytest.fixture(scope="module")
def years(library):
    """Gardens that between them know every sentence."""
    kinds = fifteen()
    return {
        "poured": dry_year(poured(library), library),
        "tap": dry_year(poured(library, tap=True), library),
        "sorts": dry_year(all_sorts(library), library),
        "kiln": dry_year(from_json(KILN_YARD, library), library),
        "held": dry_year(made(library, ("rain_hold_mm", 2.0), tap=True), library),
        "frost": dry_year(made(library, *DRY.items(), tap=True), library),
        "tank": dry_year(kinds["eight float pots"](library), library),
        "gutters": dry_year(kinds["two gutters"](library), library),
        "drum": dry_year(kinds["a laundry drum, tape"](library), library),
        "border": dry_year(kinds["a border and pots"](library), library),
        "hose": dry_year(made(library, ("plots/pots-1/watered", "hose"), tap=True), library)}


@cache
def all_days(year):
    return [day_told(year, day) for day in range(365)]


def days_of(year, rule):
    return {n for n, day in enumerate(all_days(year)) if any(t.rule == rule for t in day.told)}


def on(daily, least=0.5):
    return set(np.flatnonzero(daily > least).tolist())


@pytest.mark.parametrize("name", ["poured", "tap", "sorts", "tank", "kiln", "drum", "hose"])
def test_each_sentence_stands_on_its_days_only(years, name):
    year = years[name]
    assert days_of(year, "day.ran") == set(year.runs_by_day)
    assert days_of(year, "day.over") == on(year.over)
    assert days_of(year, "day.tap") == on(year.tap)
    assert days_of(year, "day.well") == on(year.well)
    assert days_of(year, "day.poured") == on(year.poured.sum(axis=0))
    assert days_of(year, "day.washed") == on(year.used)
    assert days_of(year, "day.emptied") == on(year.emptied)
    assert days_of(year, "day.drank") == set(np.flatnonzero(year.grows.any(axis=0)).tolist())
    for day, runs in list(year.runs_by_day.items())[::30]:
        told = [t for t in all_days(year)[day].told if t.rule == "day.ran"]
        assert len(told) == len({run.of for run in runs})
        assert sum(t.words.amounts["v"].value for t in told) == pytest.approx(
            sum(run.litres for run in runs))
        assert sum(t.words.amounts["n"].value for t in told) == len(runs)
    floats = year.given[year.season.world.always_on]
    assert days_of(year, "day.let-in") == on(floats.max(axis=0) if len(floats) else np.zeros(365))
    for day in sorted(days_of(year, "day.let-in"))[::40]:
        told = next(t for t in all_days(year)[day].told if t.rule == "day.let-in")
        assert told.words.amounts["v"].value == pytest.approx(
            floats[:, day][floats[:, day] > 0.5].sum())
    snows = days_of(year, "day.snow")
    assert days_of(year, "day.rain") | snows == on(year.rain_mm, 0.04999)
    assert all(year.snow_mm[d] > year.snow_mm[d - 1] for d in snows)
    melts = days_of(year, "day.melts")
    assert all(year.rain_mm[d] < 0.05 and year.snow_mm[d] < year.snow_mm[d - 1] for d in melts)


def test_between_them_the_gardens_know_every_sentence(years):
    told = {t.rule for year in years.values() for day in all_days(year) for t in day.told}
    assert told >= {*(f"day.{x}" for x in ("ran", "over", "tap", "well", "poured", "washed", "rain",
                                           "emptied", "drank", "let-in", "snow"))}
    assert told >= set(CAUSES)


def test_snow_that_melts_is_told_where_it_comes_to_a_store(library):
    a = assess(made(library, ("stores/barrels/indoors", True), ("site/years", 8)), library)
    found = 0
    for which in range(a.years):
        year = Year(a, which)
        days = days_of(year, "day.melts")
        found += len(days)
        assert days == {d for d in range(365) if year.rain_mm[d] < 0.05
                        and year.snow_mm[d - 1] - year.snow_mm[d] >= 0.05
                        and year.caught[:, d].sum() > 0.5}
    assert found


def test_whoever_is_thirsty_has_a_cause_and_nobody_else(years):
    for year in years.values():
        for day in range(0, 365, 5):
            causes = {w.plot for w in all_days(year)[day].thirsty}
            assert causes == {year.plots[p] for p in np.flatnonzero(year.thirsty[:, day])}


@pytest.mark.parametrize(("name", "cause", "holds"), [
    ("kiln", "thirst.shut", lambda y, p, d: y.season.world.stuck[p]),
    ("drum", "thirst.led-only", lambda y, p, d: y.plots[p] in y.season.world.washed),
    ("poured", "thirst.store-dry", lambda y, p, d: y.lacking[p, max(d - 45, 0):d + 1].sum() > 0),
    ("gutters", "thirst.float", lambda y, p, d: y.season.world.always_on[p]),
    ("frost", "thirst.timer-in", lambda y, p, d: not next(
        y.results.schedule.timer_days[z.id][d] for z in y.results.garden.zones
        if y.plots[p] in z.plots)),
    ("held", "thirst.held", lambda y, p, d: y.rain_mm[d - 6:d + 1].sum() >= 2.0),
    ("frost", "thirst.never", lambda y, p, d: d < 200),
    ("border", "thirst.rare", lambda y, p, d: y.lacking[p, d] == 0),
    ("tap", "thirst.little", lambda y, p, d: y.lacking[p].sum() == 0)])
def test_a_cause_is_named_where_it_holds(years, name, cause, holds):
    year = years[name]
    found = [(p, day) for day in range(365) for p in range(len(year.plots))
             if (w := why(year, p, day)) and w.rule == cause]
    assert found
    assert all(holds(year, p, day) for p, day in found)


def test_since_when_is_the_first_day_of_the_stretch(years):
    year = years["poured"]
    for day in (200, 230):
        for w in day_told(year, day).thirsty:
            p = year.plots.index(w.plot)
            assert year.thirsty[p, w.since:day + 1].all()
            assert not year.thirsty[p, w.since - 1]


def test_without_rain_the_stores_first_fail_on_the_day_that_is_told(years):
    """The same days with neither rain nor tap, run apart: nothing lacks before, something then."""
    year, checked = years["poured"], 0
    season, world = year.season, year.season.world
    for day in (160, 200, 240):
        days = dry_without_rain(year, day)
        if days is None:
            continue
        dry = np.zeros_like
        alone = type(world)(**{**vars(world), "rain": dry(world.rain), "inflow": dry(world.inflow)})
        state = (np.repeat(year.of(x)[:, day:day + 1], season.years, axis=1)
                 for x in (season.level, season.depletion, season.reservoir))
        ran = run_days(alone, *state, (day + 1 + np.arange(days)) % 365)
        lacked = ran.lacking[world.stored].sum(axis=0)
        last = (day + days) % 365
        assert lacked[0, (day + 1 + np.arange(days - 1)) % 365].sum() == pytest.approx(0, abs=1e-6)
        assert lacked[0, last] > 0
        checked += 1
    assert checked


def test_the_head_says_who_is_thirsty_and_when_the_stores_are_dry(years):
    year = years["poured"]
    day = next(d for d in range(365) if year.thirsty[:, d].sum() == 1)
    p = int(np.flatnonzero(year.thirsty[:, day])[0])
    assert day_told(year, day).head.show("metric").startswith(
        f"Thirsty: {year.season.world.names[p]}.")
    assert day_told(year, 20).head.show("us") == "Nothing grows on this day."
    dry = next(d for d in range(365) if year.lacking[:, d].sum() > 1)
    assert "The store is dry." in day_told(year, dry).head.show("metric")


def test_every_sentence_leads_to_a_station_and_reads_in_both_systems(years):
    for year in years.values():
        for day in range(0, 365, 9):
            for one in all_days(year)[day].told:
                assert one.lead.station in STATIONS
                for system in ("metric", "us"):
                    words = one.words.show(system)
                    assert "{" not in words
                    assert words.endswith(".")


def test_phrases_are_joined_whatever_a_name_holds():
    told = _joined(say("Thirsty: {{x}} and {a}.", a=Amount(1, "volume")), say(" {{{a}}}", a=Amount(
        2, "volume")))
    assert told.show("metric").replace("\u00a0", " ") == "Thirsty: {x} and 1 L. {2 L}"
