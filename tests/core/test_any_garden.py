"""Whatever a file or a form may hold: an answer or a refusal in words, never a crash."""

import json
import math

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from euhydra import report
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.editing.answers import Answers, BedAnswer
from euhydra.core.editing.edits import set_at
from euhydra.core.editing.fields import measure_at, parse_for, with_choices
from euhydra.core.editing.file import BadFile, from_json, to_json
from euhydra.core.editing.quick_start import pour
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.model import Climate
from euhydra.core.layout.laying import lay
from euhydra.core.parsing import BadEntry
from euhydra.data import library as load_library
from euhydra.web.fields import Fields, stepped
from euhydra.web.measures import listed
from euhydra.web.panes import VIEWS
from euhydra.web.sheet import Sheet
from gardens import climate_of, poured

LIBRARY = load_library()


def speaks(garden) -> None:
    """Every station has its say, and every view can be shown."""
    a = assess(garden, LIBRARY)
    json.dumps(report.as_data(a, "us"), allow_nan=True)
    for key in STATIONS:
        for figure in a.station(key).figures:
            assert not math.isnan(figure.amount.value), figure.key
        for view in VIEWS[key]:
            assert view.panes(Sheet(a, Fields(garden, LIBRARY)))


@st.composite
def climates(draw):
    """Twelve months of any kind that hold together: deserts, floods, months without a spread."""
    wet = draw(st.lists(st.floats(0, 28), min_size=12, max_size=12))
    rain = [min(draw(st.floats(0, 600)), 199 * days) for days in wet]
    low = draw(st.lists(st.floats(-50, 40), min_size=12, max_size=12))
    high = [x + draw(st.sampled_from([0.0, 4.0, 18.0])) for x in low]
    return Climate(rain_mm=tuple(rain), wet_days=tuple(wet), tmin_c=tuple(low),
                   tmax_c=tuple(high))


BEDS = st.lists(st.builds(
    BedAnswer, length_m=st.floats(0.3, 20), width_m=st.floats(0.2, 6),
    group=st.sampled_from(["leafy", "fruiting", "roots", "legumes", "berries"])), max_size=6)
ANSWERS = st.fixed_dictionaries({
    "roof_width_m": st.floats(0.3, 60), "roof_depth_m": st.floats(0.3, 60),
    "roof_material": st.sampled_from(sorted(LIBRARY.roof_materials)),
    "barrel_l": st.floats(10, 20000), "barrels": st.integers(1, 24), "stand_m": st.floats(0, 3),
    "fall_m": st.floats(-10, 20), "distance_m": st.floats(0.5, 80),
    "method": st.sampled_from(["soaker", "dripline", "drippers"]), "pots": st.integers(1, 60),
    "pot_diameter_m": st.floats(0.08, 1.5), "beds": BEDS,
    "waters": st.sets(st.sampled_from(["roof", "tap", "laundry", "well", "tank"]), min_size=1).map(
        lambda some: tuple(sorted({*some, *(["roof"] if some == {"laundry"} else [])}))),
    "tap_feeds": st.sampled_from(["stores", "pots", "lines"]), "trees": st.integers(0, 6),
    "canopy_m": st.floats(0.2, 15), "towers": st.integers(0, 5), "gutters": st.integers(0, 2),
    "chain": st.integers(0, 40), "float_pots": st.sampled_from([0, 1, 100]),
    "well_l_h": st.floats(1, 20000), "tank_l": st.floats(10, 20000),
    "washes": st.integers(1, 14), "basins": st.integers(1, 8),
    "latitude_deg": st.floats(-72, 72), "climate": climates(),
    "units": st.sampled_from(["metric", "us"])})


@settings(deadline=None, max_examples=5, suppress_health_check=list(HealthCheck))
@given(ANSWERS)
def test_any_answers_make_a_whole_garden(answers):
    garden = pour(Answers.model_validate({"name": "x", **answers}), LIBRARY, "x")
    assert lay(garden, LIBRARY) == garden
    assert from_json(to_json(garden), LIBRARY) == garden
    speaks(garden)


def places(tree, way=()):
    """Every place in a JSON tree."""
    yield way
    items = tree.items() if isinstance(tree, dict) else enumerate(tree) if isinstance(
        tree, list) else ()
    for key, value in items:
        yield from places(value, (*way, key))


TREE = json.loads(to_json(poured(LIBRARY, pots=3)))
PLACES = [p for p in places(TREE) if len(p) > 1]
VALUES = st.sampled_from([None, "", "x", "bed-2", "z1-c1", "zone-bed-2", -1, 0, 0.001, 3, 59, 1e6,
                          True, [], {}, "DELETE", "TWICE"])


@settings(deadline=None, max_examples=25, suppress_health_check=list(HealthCheck))
@given(st.sampled_from(PLACES), VALUES)
def test_a_file_with_anything_changed_is_opened_or_refused(place, value):
    tree = json.loads(json.dumps(TREE))
    at = tree
    for key in place[:-1]:
        at = at[key]
    if value == "DELETE":
        del at[place[-1]]
    elif value == "TWICE" and isinstance(at, list):
        at.append(at[place[-1]])
    else:
        at[place[-1]] = value
    try:
        garden = from_json(json.dumps(tree), LIBRARY)
    except BadFile:
        return
    speaks(garden)


@pytest.mark.parametrize(("change", "says"), [
    (lambda g: g["lines"].pop(), "not joined|starting joints|not in the garden|no outlet"),
    (lambda g: g["lines"][1].update(end=g["lines"][0]["end"]), "2 starting joints"),
    (lambda g: g["lines"][0].update(start=g["lines"][2]["end"]), "starting joints"),
    (lambda g: g.update(outlets=[o for o in g["outlets"] if o["plot"] != "bed-1"]),
     "no outlet waters Bed 1"),
    (lambda g: g["zones"][0]["plots"].append(g["zones"][1]["plots"][0]), "stands in 2 zones"),
    (lambda g: g["outlets"][0].update(plot="pots-1"), "not its own|no outlet waters"),
    (lambda g: [o.update(points=5000) for o in g["outlets"]], "the most that can be reckoned")])
def test_lines_that_cannot_be_reckoned_are_refused_in_words(change, says):
    tree = json.loads(json.dumps(TREE))
    change(tree["garden"])
    with pytest.raises(BadFile, match=says):
        from_json(json.dumps(tree), LIBRARY)


GARDEN = poured(LIBRARY, pots=3, tap=True)
FIELDS = sorted({field.path for station in STATIONS
                 for group in listed(station, Fields(GARDEN, LIBRARY)) for field in group.fields})


@settings(deadline=None, max_examples=40)
@given(st.sampled_from(FIELDS), st.data())
def test_any_field_takes_its_bounds_and_steps_and_refuses_in_words(path, data):
    measure = with_choices(measure_at(GARDEN, path), LIBRARY)
    if measure.choices:
        typed = data.draw(st.sampled_from(measure.choices))
    elif measure.high > measure.low and measure.kind != "monthday":
        value = data.draw(st.floats(measure.low, measure.high))
        steps = stepped(measure, "us", data.draw(st.sampled_from([-1, 1])))
        assert measure.low <= steps <= measure.high
        typed = f"{value:.0f}" if measure.kind == "count" else f"{value:.6f}"
    else:
        typed = data.draw(st.sampled_from(["24 April", "A name", "yes", ""]))
    try:
        after = set_at(path, parse_for(measure, typed, "metric")).apply(GARDEN, LIBRARY)
    except (BadEntry, EditRefused):
        return
    a = assess(after, LIBRARY)
    for key in ("store", "grow", "push", "time", "build"):
        assert a.station(key).verdict.show("metric")


def test_frost_free_and_rainless_places_speak(library):
    rainless = Climate(rain_mm=(0.0,) * 12, wet_days=(0.0,) * 12, tmin_c=(12.0,) * 12,
                       tmax_c=(26.0,) * 12)
    speaks(poured(library, climate=rainless))
    speaks(poured(library, climate=climate_of(library, "wet-tropics"), latitude_deg=1.5))
