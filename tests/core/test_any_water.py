"""Any sources into any stores: the books close, more is never worse, and everything speaks."""

import json
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from test_any_garden import speaks

from euhydra.core.advise.watching import planned_runs
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.editing.edits import Add
from euhydra.core.editing.fields import measure_at, with_choices
from euhydra.core.editing.file import from_json, to_json, weather_in
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.stations.time import peak_month
from euhydra.data import library as load_library
from euhydra.web.fields import Fields
from euhydra.web.measures import listed
from euhydra.web.panes import VIEWS
from euhydra.web.sheet import Sheet
from gardens import poured

LIBRARY = load_library()
SLOW = settings(deadline=None, max_examples=6, suppress_health_check=list(HealthCheck))
BASE = SetValue("site/years", 5).apply(poured(LIBRARY, pots=3), LIBRARY)
ADDED = st.lists(st.sampled_from(["roof", "tap", "well", "drain", "drum", "store", "joint", "spot",
                                  "pots", "rain-garden", "wet-area", "timer",
                                  "roofs/roof/downspouts"]), max_size=8)
SETTINGS = {
    "stores": [("count", st.integers(1, 4)), ("volume_l", st.floats(50, 2000)),
               ("height_m", st.floats(0.5, 2)), ("stand_m", st.floats(0, 1)),
               ("shape", st.sampled_from(["upright", "box", "lying"])),
               ("ground_m", st.floats(-1, 1)), ("overflow_down_m", st.floats(0, 0.2))],
    "joints": [("kind", st.sampled_from(["link", "siphon", "overflow", "float"])),
               ("end_m", st.floats(0, 0.3))],
    "timers": [("kind", st.sampled_from([t for t in LIBRARY.timers if t != "hand"])),
               ("hoses", st.integers(0, 2)), ("until_h", st.floats(6, 24)),
               ("opens", st.sampled_from(["morning", "evening", "pulses"]))],
    "taps": [("tops_up", st.just(""))],
    "wells": [("tops_up", st.just("")), ("share", st.floats(0, 1)),
              ("recovery_l_h", st.floats(0, 200)), ("standing_l", st.floats(0, 200))],
    "roofs": [("width_m", st.floats(1, 12)), ("flush_days", st.integers(1, 7)),
              ("guard", st.sampled_from(sorted(LIBRARY.guards)))]}


@st.composite
def gardens(draw):
    """A garden with any sources and stores, joined and set anyhow that holds together."""
    garden = BASE
    for what in draw(ADDED):
        try:
            garden = Add(what).apply(garden, LIBRARY)
        except EditRefused:
            continue
    for things, fields in SETTINGS.items():
        for thing in getattr(garden, things):
            for field, values in draw(st.lists(st.sampled_from(fields), max_size=3)):
                garden = _set(garden, f"{things}/{thing.id}/{field}", draw(values))
    sources = [s.id for s in garden.sources]
    for plot in garden.plots:
        garden = _set(garden, f"plots/{plot.id}/fed_by", draw(st.sampled_from(["", *sources])))
        garden = _set(garden, f"plots/{plot.id}/watered",
                      draw(st.sampled_from(["lines", "lines", "can", "hose"])))
    for zone in garden.timed_zones:
        opener = draw(st.sampled_from(["", *(t.id for t in garden.timers)]))
        garden = _set(garden, f"zones/{zone.id}/timer", opener)
    for roof in garden.roofs:
        for spout in roof.downspouts:
            led = draw(st.sampled_from(["", *(s.id for s in garden.stores)]))
            garden = _set(garden, f"roofs/{roof.id}/downspouts/{spout.id}/to", led)
    return garden


def _set(garden, path, value):
    try:
        return SetValue(path, value).apply(garden, LIBRARY)
    except EditRefused:
        return garden


@SLOW
@given(gardens())
def test_no_source_gives_two_zones_at_once(garden):
    """By the runs as they are due, minute by minute through four weeks of the busiest month."""
    a = assess(garden, LIBRARY)
    month = peak_month(a)
    at_once = [set(s.opening.zones) for s in a.schedule.starts[month]]
    late = {z for s in a.schedule.starts[month] if s.late for z in s.opening.zones}
    for source in garden.sources:
        runs = planned_runs(a, source.id, month, 28)
        for one, other in pairwise(runs):
            if not {one.zone, other.zone} & late and {one.zone, other.zone} not in at_once:
                assert other.start >= one.end or one.zone == other.zone


@SLOW
@given(gardens())
def test_all_books_close_to_a_tenth_of_a_litre_a_year(garden):
    a = assess(garden, LIBRARY)
    fell = sum(y.fell_l.sum() for y in a.inflow.yields.values())
    gone = sum((y.lost_l + y.flushed_l + y.over_l + y.astray_l + y.winter_l).sum()
               for y in a.inflow.yields.values())
    season = a.season
    came = season.world.inflow.sum()
    assert abs(fell - gone - came) < 0.1 * a.years
    assert abs(season.start.sum() + came - season.rain.sum() - season.over.sum()
               - season.emptied.sum() - season.end.sum()) < 0.1 * a.years
    given_l = season.rain + season.well + season.tap + season.lacking.sum(axis=0)
    assert given_l.sum() == pytest.approx(float(season.asked.sum()), rel=1e-9, abs=1e-3)
    # No bank holds more than its size, and none is under empty: joints make no water.
    assert (season.level <= season.world.size[:, None, None] + 1e-6).all()
    assert (season.level >= -1e-6).all()


@SLOW
@given(gardens())
def test_a_bigger_roof_or_tank_never_lowers_reliability(garden):
    a = assess(garden, LIBRARY)
    assert (np.diff([size.lacking_l + size.filled_in_l for size in a.sizes.curve]) <= 1e-6).all()
    if garden.roofs:
        roof = garden.roofs[0]
        wider = _set(garden, f"roofs/{roof.id}/width_m", roof.width_m * 1.5)
        more = a.revised(wider)
        assert more.season.rain_share >= a.season.rain_share - 1e-6


@SLOW
@given(gardens())
def test_every_station_and_view_speaks_and_the_file_opens_again(garden):
    assert from_json(to_json(garden), LIBRARY) == garden
    assert weather_in(to_json(garden)) is None
    speaks(garden)
    for system in ("us", "metric"):
        shown = garden.model_copy(update={"units": system})
        a = assess(shown, LIBRARY)
        for station in ("place", "catch", "store"):
            for view in VIEWS[station]:
                for store in garden.stores:
                    assert view.panes(Sheet(a, Fields(shown, LIBRARY), store=store.id,
                                            level="full"))


EVERYTHING = BASE
for _what in ("roof", "tap", "well", "drain", "store", "joint", "store", "joint", "spot",
              "rain-garden", "wet-area", "roofs/roof/downspouts", "drains/drain-1/basins"):
    EVERYTHING = Add(_what).apply(EVERYTHING, LIBRARY)


def test_every_value_of_a_source_or_store_stands_in_the_list_and_under_a_thing_that_can_go():
    for station, kinds in (("catch", ("roofs", "drains", "taps", "wells")),
                           ("store", ("stores", "joints", "rain_gardens", "wet_areas")),
                           ("place", ("site/spots",))):
        groups = listed(station, Fields(EVERYTHING, LIBRARY))
        assert {g.gone.rsplit("/", 1)[0] for g in groups if g.gone} >= set(kinds)
        for group in groups:
            for field in group.fields:
                assert measure_at(EVERYTHING, field.path).label


def spoilt(tree):
    """Every list of sources and stores with each key made wrong in turn."""
    for kind in ("roofs", "drains", "taps", "wells", "stores", "joints", "wet_areas",
                 "rain_gardens"):
        for key in tree["garden"][kind][0]:
            for bad in (None, -1e9, "zz", [], True):
                other = json.loads(json.dumps(tree))
                other["garden"][kind][0][key] = bad
                yield other


def test_a_file_with_any_source_spoilt_is_opened_or_refused_in_words():
    from euhydra.core.editing.file import BadFile

    tree = json.loads(to_json(EVERYTHING))
    for text in map(json.dumps, spoilt(tree)):
        try:
            garden = from_json(text, LIBRARY)
        except BadFile:
            continue
        assert assess(garden, LIBRARY).station("store").verdict.show("us")


FIELDS = sorted({f.path for station in ("place", "catch", "store", "grow", "push", "time")
                 for g in listed(station, Fields(EVERYTHING, LIBRARY)) for f in g.fields})
FED = EVERYTHING
for _path, _value in (("taps/tap/tops_up", ""), ("plots/pots-1/fed_by", "tap"),
                      ("wells/well-1/tops_up", ""), ("plots/bed-2/fed_by", "well-1")):
    FED = SetValue(_path, _value).apply(FED, LIBRARY)
BEFORE = assess(FED, LIBRARY)
for _station in STATIONS:
    BEFORE.station(_station)


def other_value(path, share):
    """A value that a field may take: any number within its bounds, any choice, the other flag."""
    measure = with_choices(measure_at(FED, path), LIBRARY)
    if measure.kind == "flag":
        return not measure.value
    if measure.choices:
        return measure.choices[min(int(share * len(measure.choices)), len(measure.choices) - 1)]
    if measure.kind == "monthday":
        return f"{1 + int(share * 11):02d}-15"
    if measure.high <= measure.low:
        return measure.value
    value = measure.low + share * (measure.high - measure.low)
    return round(value) if measure.kind == "count" else value


def said_of(assessment):
    """All that its stations say, as a person reads it."""
    return {key: ([f.amount for f in report.figures],
                  [f.title.show("metric") for f in report.findings], report.verdict.show("us"))
            for key in STATIONS if (report := assessment.station(key))}


@settings(deadline=None, max_examples=40, suppress_health_check=list(HealthCheck))
@given(st.lists(st.tuples(st.sampled_from(FIELDS), st.floats(0, 1)), min_size=1, max_size=3))
def test_what_is_taken_over_after_edits_is_what_a_fresh_reckoning_gives(edits):
    garden, revised = FED, BEFORE
    for path, share in edits:
        garden = _set(garden, path, other_value(path, share))
        revised = revised.revised(garden)
        said_of(revised)
    assert said_of(revised) == said_of(assess(garden, LIBRARY))


@pytest.mark.parametrize("path", ["taps/tap/regulator_kpa", "taps/tap/static_kpa"])
def test_a_tap_s_pressure_is_felt_at_once_in_the_lines_it_feeds(path):
    zone = next(z.id for z in FED.zones if z.source == "tap")
    lower = BEFORE.revised(SetValue(path, 60.0).apply(FED, LIBRARY))
    assert lower.flows[zone]["full"].flow_l_h < BEFORE.flows[zone]["full"].flow_l_h
