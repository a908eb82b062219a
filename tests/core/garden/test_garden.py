"""The model, its file, its edits, First pour, laying."""

import ast
import json
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

import euhydra
from euhydra.core.construction.parts import cut_list
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.editing.edits import Add, Remove, set_at
from euhydra.core.editing.fields import NoSuchValue, measure_at, parse_for, with_choices
from euhydra.core.editing.file import BadFile, from_json, schema, to_json
from euhydra.core.editing.quick_start import frost_dates
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.parsing import BadEntry
from euhydra.data import library as load_library
from gardens import climate_of, poured

SOURCE = Path(euhydra.__file__).parent


def test_imports_run_one_way():
    allowed = {"core": {"core"}, "data": {"core", "data"}, "store": {"core", "store"},
               "exports": {"core", "exports"}, "standins": {"core", "standins"},
               "web": {"core", "store", "exports", "standins", "web"}}
    for room, may in allowed.items():
        for path in (SOURCE / room).rglob("*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                names = ([a.name for a in node.names] if isinstance(node, ast.Import) else
                         [node.module or ""] if isinstance(node, ast.ImportFrom) else [])
                for name in names:
                    parts = name.split(".")
                    if parts[0] == "euhydra" and len(parts) > 1:
                        assert parts[1] in may, f"{path.name} imports {name}"


def test_a_garden_opens_again_exactly(kiln_yard, library):
    text = to_json(kiln_yard)
    assert from_json(text, library) == kiln_yard
    assert to_json(from_json(text, library)) == text


def test_the_file_keeps_to_its_published_schema(kiln_yard):
    rules = json.loads(json.dumps(schema()).replace("#/$defs/", "#/$defs/"))
    jsonschema.Draft202012Validator.check_schema(rules)
    jsonschema.validate(json.loads(to_json(kiln_yard)), rules)
    wrong = json.loads(to_json(kiln_yard))
    wrong["garden"]["stores"][0]["count"] = -1
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(wrong, rules)


def test_a_file_of_the_first_version_still_opens(library):
    text = (Path(__file__).parents[2] / "files" / "garden-version-1.json").read_text()
    spout = from_json(text, library).roofs[0].downspouts[0]
    assert (spout.to, spout.share) == ("barrels", 1.0)
    tree = json.loads(text)
    tree["garden"]["roofs"][0]["gutter_share"] = 0.5
    half = from_json(json.dumps(tree), library)
    assert half.roofs[0].downspouts[0].share == 0.5
    assert from_json(to_json(half), library) == half


def test_valves_of_an_older_file_get_their_numbers(kiln_yard, library):
    tree = json.loads(to_json(kiln_yard))
    named = [z["name"] for z in tree["garden"]["zones"]]
    tree["version"] = 3
    for zone in tree["garden"]["zones"]:
        zone["name"] = zone["name"].partition(" · ")[2]
    assert [z.name for z in from_json(json.dumps(tree), library).zones] == named
    assert named[1].startswith("2 · ")


def test_the_one_timer_of_an_older_file_becomes_a_thing(library):
    """As version 4 wrote it: pots and buckets over a gutter, a weekday timer in the evening."""
    text = (Path(__file__).parents[2] / "files" / "garden-version-4.json").read_text()
    garden = from_json(text, library)
    assert [(t.id, t.kind, t.opens, t.hoses) for t in garden.timers] == [
        ("timer", "weekday-ball", "evening", 0)]
    assert [(z.timed, z.timer) for z in garden.zones] == [(True, "timer"), (False, "")]
    assert from_json(to_json(garden), library) == garden
    tree = json.loads(text)
    tree["garden"]["timer"] = "hand"
    by_hand = from_json(json.dumps(tree), library)
    assert by_hand.timers == ()
    assert {by_hand.timer_kind(z) for z in by_hand.timed_zones} == {"hand"}


def test_the_drip_of_an_older_drum_becomes_a_bed_with_a_pump(library):
    """As version 5 wrote it: six square metres of drip, a float pump of 900 L/h."""
    text = (Path(__file__).parents[2] / "files" / "garden-version-5.json").read_text()
    garden = from_json(text, library)
    bed = next(p for p in garden.plots if p.fed_by == "drain-1")
    assert bed.length_m * bed.width_m == pytest.approx(6.0, abs=1e-3)
    assert (bed.main.crop, bed.main.planted) == ("bush-fruit", "04-14")
    assert [(x.draws_from, x.control) for x in garden.lifts] == [("drain-1", "float")]
    assert [(z.timed, z.filter) for z in garden.zones if z.source == "drain-1"] == [
        (False, "filter-lint")]
    assert from_json(to_json(garden), library) == garden


def broken(kiln_yard, change):
    tree = json.loads(to_json(kiln_yard))
    change(tree)
    return json.dumps(tree)


@pytest.mark.parametrize(("change", "says"), [
    (lambda t: t.update(version=9), "version “9”"),
    (lambda t: t.update(format="other"), "not a garden of Euhydra"),
    (lambda t: t["garden"]["stores"][0].update(stand_m=-1), "stand_m"),
    (lambda t: t["garden"]["plots"][0]["plantings"][0].update(crop="moss"), "crop “moss”"),
    (lambda t: t["garden"]["roofs"][0]["downspouts"][0].update(to="x"), "“x” is named but not in"),
    (lambda t: t["garden"]["plots"].append(t["garden"]["plots"][0]), "two plots have the id"),
    (lambda t: t["garden"].update(surprise=1), "surprise"),
    (lambda t: t["garden"].update(name="a\ud800"), "name"),
    (lambda t: t["garden"]["site"]["climate"]["tmax_c"].__setitem__(0, -50), "is under low"),
    (lambda t: t.update(garden=[]), "does not hold together"),
    (lambda t: t.update(also=1), "stands beside"),
])
def test_a_file_that_does_not_hold_together_says_where(kiln_yard, library, change, says):
    with pytest.raises(BadFile, match=says):
        from_json(broken(kiln_yard, change), library)


@pytest.mark.parametrize("text", ["", "{", "[]", "NaN", '{"a": NaN}', "[" * 100_000, "1" * 6000,
                                  '{"format": "euhydra-garden", "version": 1}', "\x00"])
def test_text_that_is_no_garden_is_refused(library, text):
    with pytest.raises(BadFile):
        from_json(text, library)


KEYS = st.sampled_from(["id", "name", "plots", "stores", "site"])


@given(st.recursive(st.none() | st.booleans() | st.floats() | st.text(max_size=8),
                    lambda x: st.lists(x, max_size=3) | st.dictionaries(KEYS, x), max_leaves=8))
def test_any_json_in_a_garden_is_answered(tree):
    text = json.dumps({"format": "euhydra-garden", "version": 1, "garden": tree})
    with pytest.raises(BadFile):
        from_json(text, load_library())


def test_an_edit_lays_the_lines_anew(library):
    garden = poured(library)
    longer = SetValue("plots/bed-1/length_m", 4.8).apply(garden, library)
    rows = {x.id: x.length_m for x in longer.lines if x.plot == "bed-1" and x.role == "dripline"}
    assert rows
    assert all(length == pytest.approx(4.7) for length in rows.values())
    assert SetValue("plots/bed-1/length_m", 2.4).apply(longer, library) == garden


def test_a_month_typed_is_no_archetype_any_more(library):
    garden = set_at("site/climate/rain_mm/6", 99.0).apply(poured(library), library)
    assert garden.site.climate.rain_mm[6] == 99
    assert garden.site.climate.archetype == ""


def test_plots_come_and_go(library):
    garden = poured(library)
    more = Add("bed").apply(garden, library)
    assert len(more.plots) == len(garden.plots) + 1
    assert {z for zone in more.zones for z in zone.plots} == {p.id for p in more.plots}
    fewer = Remove("plots/bed-1").apply(more, library)
    assert "bed-1" not in {p.id for p in fewer.plots}
    assert not any(line.plot == "bed-1" for line in fewer.lines)


def test_a_new_bed_stands_on_its_like_s_terrace(kiln_yard, library):
    new = Add("bed").apply(kiln_yard, library).plots[-1]
    border = kiln_yard.plot("border")
    assert (new.ground_m, new.corner.x_m) == (border.ground_m, border.corner.x_m)
    assert new.corner.y_m > border.corner.y_m + border.width_m


def test_the_last_plot_stays(library):
    garden = poured(library, beds=(), pots=3)
    with pytest.raises(EditRefused, match="keeps at least one"):
        Remove("plots/pots-1").apply(garden, library)


def test_an_edit_that_cannot_be_is_refused_in_words(library):
    with pytest.raises(EditRefused, match="not below the overflow"):
        SetValue("stores/barrels/height_m", 0.4).apply(
            SetValue("stores/barrels/outlet_m", 0.5).apply(poured(library), library), library)


@pytest.mark.parametrize("path", ["", "id", "stores", "stores/x/count", "site/climate/rain_mm/12",
                                  "site/climate/rain_mm", "plots/0/length_m", "__class__",
                                  "lines/z1-supply1/length_m/x", "stores/barrels/id", "nodes"])
def test_what_may_not_be_typed_has_no_measure(library, path):
    with pytest.raises(NoSuchValue):
        measure_at(poured(library), path)


@pytest.mark.parametrize(("path", "typed", "says"), [
    ("stores/barrels/stand_m", "40 ft", "goes from 0.00 m to 3.00 m"),
    ("stores/barrels/count", "2.5", "is not whole"), ("stores/barrels/count", "-1", "goes from"),
    ("plots/bed-1/plantings/p1/crop", "moss", "is not one of"),
    ("stores/barrels/lid_locked", "maybe", "neither yes nor no"),
    ("zones/zone-bed-1/supply_tube", "soaker", "is not one of")])
def test_a_typed_value_out_of_bounds_says_the_bounds(library, path, typed, says):
    measure = with_choices(measure_at(poured(library), path), library)
    with pytest.raises(BadEntry) as refused:
        parse_for(measure, typed, "metric")
    assert says in refused.value.why.replace("\u00a0", " ")


def test_rows_stay_inside_their_beds(kiln_yard):
    for line in kiln_yard.lines:
        if line.role != "dripline":
            continue
        bed = kiln_yard.plot(line.plot)
        for point in line.course:
            assert bed.corner.x_m <= point.x_m <= bed.corner.x_m + bed.length_m
            assert bed.corner.y_m <= point.y_m <= bed.corner.y_m + bed.width_m


def test_every_plot_is_watered_by_outlets_of_its_own(kiln_yard):
    assert {o.plot for o in kiln_yard.outlets} == {p.id for p in kiln_yard.plots}
    lines = {x.id: x for x in kiln_yard.lines}
    for run in kiln_yard.outlets:
        end = run.first_m + (run.points - 1) * run.spacing_m
        assert end <= lines[run.line].length_m + 1e-6


def test_parts_are_counted_from_the_lines(library):
    garden = poured(library, pots=0)
    parts = {(p.key, p.name): p for p in parts_list(garden, library)}
    rows = sum(x.role == "dripline" for x in garden.lines)
    assert parts["flush-end", "End with flush plug"].quantity == rows == 6
    drip = parts["tube", library.tubes["dripline"].name]
    assert drip.quantity == 15  # 6 × 2.3 m, a twentieth more, up to whole metres
    assert parts["timer", library.timers["dial-ball"].name].quantity == len(garden.zones)
    assert not any(key == "backflow" for key, _ in parts)
    tapped = {p.key for p in parts_list(Add("tap").apply(garden, library), library)}
    assert {"backflow", "air-gap"} <= tapped
    assert all(p.reason for p in parts.values())


def test_the_cut_list_adds_up_to_the_lines(kiln_yard, library):
    cut = sum(c.length_m * c.pieces for c in cut_list(kiln_yard, library))
    assert cut == pytest.approx(sum(x.length_m for x in kiln_yard.lines), abs=0.3)


def test_frost_dates_from_typed_months(library):
    last, first = frost_dates(climate_of(library, "continental"))
    assert "03-15" < last < "05-01"
    assert "10-01" < first < "11-30"
    assert frost_dates(climate_of(library, "wet-tropics")) == ("", "")


def test_a_climate_picked_later_brings_its_months_and_frosts(library):
    garden = set_at("site/climate/archetype", "desert").apply(poured(library), library)
    desert = library.climates["desert"]
    assert garden.site.climate.rain_mm == desert.rain_mm
    assert garden.site.latitude_deg == desert.latitude_deg
    assert garden.site.last_frost == desert.last_frost
    own = set_at("site/climate/rain_mm/0", 1.0).apply(garden, library)
    assert set_at("site/climate/archetype", "").apply(own, library) == own
    measure = with_choices(measure_at(own, "site/climate/archetype"), library)
    assert measure.choices[0] == ""
    with pytest.raises(BadEntry):
        parse_for(measure, "moon", "metric")
