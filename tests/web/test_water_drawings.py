"""The drawings of Place, Catch and Store are true: heights, lengths, levels, letters, figures."""

import re

import numpy as np
import pytest
from test_drawings import sheet_of, tree, with_class, words

from euhydra.core import storage
from euhydra.core.assessment.assess import assess
from euhydra.core.construction.setting_out import marks
from euhydra.core.editing.edits import Add
from euhydra.core.editing.file import from_json
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics import drainage
from euhydra.core.storage import storm
from euhydra.data import garden_text
from euhydra.web import charts
from euhydra.web.drawings import catch, marking, overflow, place, store
from euhydra.web.drawings import storm as draw_storm
from euhydra.web.fields import Fields
from euhydra.web.panes import VIEWS
from euhydra.web.sheet import Sheet
from gardens import poured


@pytest.fixture(scope="module")
def plot_27(library):
    return from_json(garden_text("plot-27"), library)


def sheet_at(garden, library, **look):
    return Sheet(assess(garden, library), Fields(garden, library), **look)


def test_five_unlike_stores_stand_at_their_true_heights(plot_27, library):
    sheet = sheet_at(plot_27, library, level="full")
    drawing = store.elevation(sheet)
    shells = [(float(e.get("y")), float(e.get("height"))) for e in with_class(drawing, "d-barrel")]
    metre = shells[0][1] / plot_27.stores[0].height_m
    tops = [storage.base_z_m(s) + s.height_m for s in plot_27.stores]
    for (y, height), vessel, top in zip(shells, plot_27.stores, tops, strict=True):
        assert height == pytest.approx(vessel.height_m * metre, abs=0.2)
        assert y - shells[0][0] == pytest.approx((tops[0] - top) * metre, abs=0.3)
    level = float(re.search(r'M[\d.]+ ([\d.]+)H[\d.]+" class="d-still"', str(drawing)).group(1))
    full = sheet.assessment.banks.banks[0].full_z_m
    assert level - shells[0][0] == pytest.approx((tops[0] - full) * metre, abs=0.3)
    assert f"level {full:.2f}\u00a0m" in words(drawing)
    assert len(with_class(drawing, "d-hose")) == 4


def test_every_source_comes_in_under_its_letter_and_dash(kiln_yard, library):
    garden = Add("well").apply(kiln_yard, library)
    drawing = store.elevation(sheet_at(garden, library))
    said = words(drawing)
    assert [said.count(letter) for letter in "RTW"] == [2, 1, 1]
    for dash in ("d-pipe d-pipe-tap", "d-pipe d-pipe-well"):
        assert len(with_class(drawing, dash)) == 1


def test_the_marks_stand_at_their_heights_and_say_them(kiln_yard, library):
    sheet = sheet_at(kiln_yard, library)
    said = words(marking.marking_out(sheet))
    for mark in marks(kiln_yard, kiln_yard.store):
        assert any(f"{mark.over_ground_m:.2f}\u00a0m" in w for w in said), mark.what
        assert any(mark.what in w for w in said)
    us = kiln_yard.model_copy(update={"units": "us"})
    assert any("ft" in w for w in words(marking.marking_out(sheet_at(us, library))))


def test_the_strip_s_bars_are_as_long_as_the_rain_they_bear(plot_27, library):
    garden = SetValue("roofs/shed/downspouts/d1/diverter_mm", 15.0).apply(plot_27, library)
    sheet = sheet_at(garden, library)
    first = storm.limits(garden, library, storage.banks_of(garden))[0]
    bar = with_class(draw_storm.strip(sheet), "d-care")[0]
    wide = draw_storm.RIGHT - draw_storm.LEFT
    assert float(bar.get("width")) == pytest.approx(
        wide * first.gives_at_mm_h / draw_storm.MOST_MM_H, abs=0.2)


def test_a_roof_shows_each_downspout_and_where_it_leads(kiln_yard, library):
    garden = Add("roofs/workshop/downspouts").apply(kiln_yard, library)
    said = " ".join(words(catch.roofs(sheet_at(garden, library))))
    assert "100\u00a0% to Barrels" in said
    assert "to elsewhere" in said
    assert "to Tote" in said


def test_the_hollow_and_what_it_needs_are_to_one_scale(kiln_yard, library):
    sheet = sheet_at(kiln_yard, library)
    said = " ".join(words(overflow.courses(sheet)))
    hollow = kiln_yard.rain_gardens[0]
    assert f"{hollow.length_m * hollow.width_m:.1f}\u00a0m²" in said
    wet = Add("wet-area").apply(kiln_yard, library)
    plan = drainage.wet_plan(wet.wet_areas[0], library)
    said = " ".join(words(overflow.courses(sheet_at(wet, library))))
    assert plan.way == "pump"
    assert "sump of" in said
    fall = SetValue("wet_areas/wet-area-1/fall_m", 1.0).apply(wet, library)
    assert "perforated drain" in " ".join(words(overflow.courses(sheet_at(fall, library))))


def test_the_ground_is_darker_where_it_lies_lower(plot_27, library):
    drawing = place.levels(sheet_at(plot_27, library))
    cells = [(float(e.get("x")), float(e.get("y")), float(e.get("opacity")))
             for e in with_class(drawing, "d-soil")]
    west, east = min(cells), max(cells)
    assert west[2] < east[2]
    assert "1.25\u00a0m" in words(drawing)


@pytest.mark.parametrize("key", ["ostermere", "desert", "wet-tropics"])
def test_a_small_climate_has_twelve_bars_on_the_common_scale(library, key):
    row = library.climates[key]
    bars = with_class(place.small_climate(row), "d-rain")
    assert len(bars) == 12
    for bar, rain in zip(bars, row.rain_mm, strict=True):
        assert float(bar.get("height")) == pytest.approx(min(rain, 350) * 0.2, abs=0.06)


def test_the_years_chart_names_a_dry_a_typical_and_a_wet_year(kiln_yard, library):
    sheet = sheet_of(kiln_yard, library)
    spec = charts.years_apart(sheet)
    ends = {line["name"]: line["values"][-1] for line in spec["named"]}
    assert ends["dry"] < ends["typical"] < ends["wet"]
    assert len(spec["all"]) == sheet.assessment.years
    # Water years: the days before the first of December of the first year end the last.
    days = np.roll(sheet.assessment.weather.rain_mm.ravel(), -334)
    totals = sorted(days.reshape(-1, 365).sum(axis=1))
    assert ends["dry"] == pytest.approx(totals[3], rel=0.02)


def test_a_supply_curve_falls_from_the_shut_tap_to_nothing(kiln_yard, library):
    spec = charts.supply_curve(sheet_of(kiln_yard, library), kiln_yard.taps[0])
    left = [p["left"] for p in spec["points"]]
    assert left == sorted(left, reverse=True)
    assert (left[0], left[-1]) == (320, 0)
    assert spec["plan"] == pytest.approx(800)


def table_of(garden, library, station, view, start):
    sheet = sheet_at(garden, library)
    panes = next(v for v in VIEWS[station] if v.key == view).panes(sheet)
    return next(p.table for p in panes if p.table and p.table.caption.startswith(start))


def test_the_dip_table_ends_at_the_brim_and_a_lying_tank_bulges(plot_27, library):
    sheet = Sheet(assess(plot_27, library), Fields(plot_27, library), store="oil")
    panes = VIEWS["store"][0].panes(sheet)
    dips = next(p.table for p in panes if p.table and p.table.caption.startswith("What the dip"))
    holds = [float(re.sub(r"\D", "", row[1])) for row in dips.rows]
    assert holds[-1] == round(storage.total_l(plot_27.store_of("oil")))
    steps = [b - a for a, b in zip([0, *holds[:-2]], holds[:-1], strict=True)]
    assert steps[0] < max(steps) > steps[-1]


def test_who_gives_adds_up_to_what_is_opened_for(kiln_yard, library):
    given = table_of(kiln_yard, library, "catch", "supply", "Who gives")
    litres = [float(row[1].split("\u00a0")[0]) for row in given.rows]
    season = assess(kiln_yard, library).season
    assert sum(litres) == pytest.approx(season.a_year(season.asked) / 1000, abs=0.25)


def test_an_empty_station_says_what_to_add(library):
    balcony = from_json(garden_text("balcony"), library)
    sheet = sheet_at(balcony, library)
    assert "No roof yet" in " ".join(words(catch.roofs(sheet)))
    assert "No store: the tap feeds" in " ".join(words(store.elevation(sheet)))
    for view in VIEWS["catch"]:
        assert any(p.add for p in view.panes(sheet))
    assert tree(place.levels(sheet)) is not None


def test_every_rule_of_thumb_stands_on_the_sizing_axis_or_points_off_it(library):
    sheet = sheet_of(SetValue("stores/barrels/indoors", True).apply(poured(library), library),
                     library)
    spec = charts.sizing_curve(sheet)
    most = len(spec["points"])
    assert len(spec["rules"]) == 3
    for said, rule in zip(spec["rules"], sheet.assessment.sizes.rules, strict=True):
        assert 0.7 < said["at"] < most + 0.3
        assert said["name"].startswith("←") == (rule.barrels < 0.75)
        assert said["name"].endswith("→") == (rule.barrels > most + 0.25)
