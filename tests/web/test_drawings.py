"""The drawings are to scale and say what the core says."""

import json
import re
import xml.etree.ElementTree as ET

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.profile import lost_by
from euhydra.web import charts
from euhydra.web.drawings import (
    build,
    catch,
    first_pour,
    grow,
    marking,
    overflow,
    place,
    plan,
    push,
    store,
    storm,
    time,
)
from euhydra.web.fields import Fields, Rejected
from euhydra.web.forms import read
from euhydra.web.panes import VIEWS
from euhydra.web.panes.base import Folds
from euhydra.web.panes.push import lost_table
from euhydra.web.sheet import Sheet
from euhydra.web.svg import el
from gardens import poured

DRAWINGS = [place.levels, catch.roofs, storm.strip, store.elevation, marking.marking_out,
            overflow.courses, grow.plots, plan.lay, push.draw, time.week, build.heads]


def sheet_of(garden, library, **look):
    return Sheet(assess(garden, library), Fields(garden, library), **look)


def tree(drawing):
    """Parsed, with the HTML of its fields left out."""
    text = re.sub(r"<foreignObject.*?</foreignObject>", "", str(drawing), flags=re.S)
    return ET.fromstring(text)


def words(drawing):
    return [t.text for t in tree(drawing).iter("text") if t.text]


def with_class(drawing, class_):
    return [e for e in tree(drawing).iter() if e.get("class") == class_]


@pytest.mark.parametrize("draw", DRAWINGS, ids=lambda d: d.__module__.rsplit(".", 1)[-1])
@pytest.mark.parametrize("units", ["metric", "us"])
def test_each_drawing_is_whole_and_titled(kiln_yard, library, draw, units):
    garden = kiln_yard.model_copy(update={"units": units})
    drawing = draw(sheet_of(garden, library))
    root = tree(drawing)
    assert root.find("title").text
    assert "nan" not in str(drawing)
    assert "inf" not in re.sub(r"info|inform|first", "", str(drawing))
    wide, tall = (float(x) for x in root.get("viewBox").split()[2:])
    for element in root.iter("text"):
        assert -5 <= float(element.get("x")) <= wide + 5
        assert 0 <= float(element.get("y")) <= tall + 5


@pytest.mark.parametrize("draw", DRAWINGS, ids=lambda d: d.__module__.rsplit(".", 1)[-1])
def test_the_smallest_and_the_largest_garden_can_be_drawn(library, draw):
    small = poured(library, beds=(), pots=1, barrels=1, stand_m=0.0, fall_m=0.0,
                   roof_width_m=0.3, roof_depth_m=0.3)
    large = poured(library, barrels=24, stand_m=3.0, fall_m=-10.0, pots=60, roof_width_m=60.0,
                   roof_depth_m=60.0, distance_m=80.0)
    for garden in (small, large):
        assert tree(draw(sheet_of(garden, library))) is not None


def test_a_bed_twice_as_long_is_drawn_twice_as_long(library):
    garden = SetValue("plots/bed-2/length_m", 4.8).apply(poured(library, pots=0), library)
    drawing = tree(plan.lay(sheet_of(garden, library)))
    wide = {}
    for bed in ("bed-1", "bed-2"):
        thing = next(e for e in drawing.iter() if e.get("data-thing") == f"plots/{bed}")
        xs = [float(x) for x in re.findall(r"[ML]([\d.]+) ", thing[0].get("d"))]
        wide[bed] = max(xs) - min(xs)
    assert wide["bed-2"] == pytest.approx(2 * wide["bed-1"], rel=0.02)


def test_roof_keeps_its_proportions(kiln_yard, library):
    roof = with_class(catch.roofs(sheet_of(kiln_yard, library)), "d-wall")[0]
    assert float(roof.get("width")) / float(roof.get("height")) == pytest.approx(6.2 / 4.1,
                                                                                 rel=0.01)


def heights(drawing):
    """Sheet y of a level: from the scale's marks at the left edge."""
    text = str(drawing)
    ticks = dict(re.findall(r'<text x="46.0" y="([\d.]+)" class="d-mute" text-anchor="end">'
                            r"(-?[\d.]+)<", text))
    (y0, z0), (y1, z1) = [(float(y) - 4, float(z)) for y, z in list(ticks.items())[:2]]
    return lambda z: y0 + (z - z0) * (y1 - y0) / (z1 - z0)


def test_every_height_on_the_section_is_true(kiln_yard, library):
    drawing = push.draw(sheet_of(kiln_yard, library, zone="zone-bed-3", level="full"))
    y, text = heights(drawing), str(drawing)
    # Upper yard 2.30 m, stand 0.45 m, water to 0.84 m in barrels of 0.88 m; lower yard at 0 m.
    still = float(re.search(r'd="M[\d.]+ ([\d.]+)H[\d.]+" class="d-still"', text).group(1))
    assert still == pytest.approx(y(2.30 + 0.45 + 0.84), abs=0.6)
    barrel = with_class(drawing, "d-barrel")[0]
    assert float(barrel.get("y")) == pytest.approx(y(2.30 + 0.45 + 0.88), abs=0.6)
    edge = next(e for e in tree(drawing).iter("path") if e.get("class") == "d-ground"
                and "L" in e.get("d"))
    levels = [float(v) for v in re.findall(r"L[\d.]+ ([\d.]+)", edge.get("d"))]
    assert levels[0] == pytest.approx(y(2.30), abs=0.6)
    assert levels[-1] == pytest.approx(y(0.0), abs=0.6)


@pytest.mark.parametrize("plot", ["bed-3", "bed-4"])
def test_the_running_line_falls_and_ends_at_the_outlet_s_head(kiln_yard, library, plot):
    sheet = sheet_of(kiln_yard, library, zone="zone-bed-3", level="half", plot=plot)
    drawing = push.draw(sheet)
    run = next(e for e in tree(drawing).iter("polyline") if e.get("class") == "d-run")
    ys = [float(p.split(",")[1]) for p in run.get("points").split()]
    assert ys == sorted(ys)
    worst = min((o for o in sheet.assessment.flows["zone-bed-3"]["half"].outlets
                 if o.plot == plot), key=lambda o: o.head_m)
    assert ys[-1] == pytest.approx(heights(drawing)(worst.z_m + worst.head_m), abs=0.8)
    assert any(f"{worst.head_m:.2f}\u00a0m" in w for w in words(drawing))


def test_the_losses_on_the_way_add_up(kiln_yard, library):
    sheet = sheet_of(kiln_yard, library, zone="zone-bed-1", level="full")
    _, flow, way = sheet.chosen_way
    lost = sum(amount for _, amount in lost_by(way))
    assert flow.water_z_m - lost == pytest.approx(flow.worst.head_m + flow.worst.z_m, abs=1e-6)
    assert len(lost_table(sheet)) == len(lost_by(way)) + 1


def test_water_in_hundredths_lies_between_its_named_levels(kiln_yard, library):
    flows = [sheet_of(kiln_yard, library, level=level).assessment.flows.with_share(
        kiln_yard.zones[0], sheet_of(kiln_yard, library, level=level).water_share).flow_l_h
        for level in ("low", "25", "half", "75", "full")]
    assert flows == sorted(flows)
    assert len(set(flows)) == 5


def test_what_was_before_stands_as_a_ghost(kiln_yard, library):
    now = assess(SetValue("stores/barrels/stand_m", 1.0).apply(kiln_yard, library), library)
    sheet = Sheet(now, Fields(now.garden, library), assess(kiln_yard, library), zone="zone-bed-1")
    assert with_class(push.draw(sheet), "d-ghost")
    assert not with_class(push.draw(sheet_of(kiln_yard, library)), "d-ghost")


def test_the_dial_points_at_the_setting(kiln_yard, library):
    sheet = sheet_of(kiln_yard, library, month=6)
    said = words(time.week(sheet))
    for zone in sheet.assessment.garden.timed_zones:
        setting = next(s for s in sheet.assessment.schedule.settings[zone.id] if s.month == 6)
        assert f"every {setting.every_h} h" in said
        assert f"for {setting.minutes} min" in said


def test_the_week_shows_each_run_once(kiln_yard, library):
    garden = SetValue("timers/timer/kind", "weekday-ball").apply(kiln_yard, library)
    sheet = sheet_of(garden, library, month=6)
    runs = sum(s.runs_a_week for z in sheet.assessment.garden.timed_zones
               for s in sheet.assessment.schedule.settings[z.id] if s.month == 6)
    days = sum(len(s.weekdays) for z in sheet.assessment.garden.timed_zones
               for s in sheet.assessment.schedule.settings[z.id] if s.month == 6)
    assert len(with_class(time.week(sheet), "d-rain")) == runs + days


def test_winter_says_so(kiln_yard, library):
    assert words(time.week(sheet_of(kiln_yard, library, month=0))).count(
        "no water this month") == sum(zone.timed for zone in kiln_yard.zones)


def test_heads_that_are_alike_share_a_drawing(kiln_yard, library):
    # Six zones hang on barrels or tote through splitters; the float valve's is always open.
    said = words(build.heads(sheet_of(kiln_yard, library)))
    assert sum("Head assembly" in w for w in said) == 2
    assert any("6 of these" in w for w in said)
    garden = SetValue("zones/zone-bed-1/supply_tube", "poly-20").apply(kiln_yard, library)
    assert sum("Head assembly" in w for w in words(build.heads(sheet_of(garden, library)))) == 3


def test_charts_carry_the_numbers_of_the_core_in_the_units_shown(kiln_yard, library):
    metric, us = (sheet_of(kiln_yard.model_copy(update={"units": u}), library)
                  for u in ("metric", "us"))
    assert [m["rain"] for m in charts.rain_and_thirst(metric)["months"]] == list(
        kiln_yard.site.climate.rain_mm)
    assert charts.rain_and_thirst(us)["months"][0]["rain"] == pytest.approx(74 / 25.4)
    points = charts.sizing_curve(metric)["points"]
    assert points[2]["given"] == metric.assessment.sizes.curve[2].given
    assert charts.sizing_curve(metric)["own"] == 3
    tank = charts.tank_year(metric)
    assert len(tank["low"]) == 365
    season = metric.assessment.season
    filled_in = season.in_year(season.tap > 1e-9, season.typical_year)
    assert len(tank["short"]) == filled_in.sum() > 0
    july = sum(r["need"] for r in charts.thirst_by_month(metric)["rows"] if r["month"] == "Jul")
    assert july == pytest.approx(metric.assessment.station("grow").figure(
        "need_peak").amount.value)
    for spec in (charts.rain_and_thirst, charts.sizing_curve, charts.tank_year,
                 charts.thirst_by_month):
        json.dumps(spec(us), allow_nan=False)


def test_every_chart_and_drawing_has_a_table_beside_it(kiln_yard, library):
    sheet = sheet_of(kiln_yard, library)
    for station, views in VIEWS.items():
        for view in views:
            panes = view.panes(sheet)
            folds = [x for p in panes if isinstance(p.form, Folds) for x in p.form.items]
            if any(p.chart or p.drawing for p in panes):
                assert any(p.table or p.grid for p in panes) or any(
                    x.table for x in folds), f"{station} {view.key}"


def test_a_bad_entry_stands_in_its_field_with_its_reason(kiln_yard, library):
    path = "stores/barrels/stand_m"
    fields = Fields(kiln_yard, library, Rejected(path, 'te"n', "why <b>not</b>"))
    drawing = str(store.elevation(Sheet(assess(kiln_yard, library), fields)))
    assert 'value="te&#34;n"' in drawing
    assert "why &lt;b&gt;not&lt;/b&gt;" in drawing
    assert drawing.count('aria-invalid="true"') == 1


def test_elements_are_escaped():
    assert str(el("text", "<a>&", title='"x"')) == (
        '<text title="&#34;x&#34;">&lt;a&gt;&amp;</text>')


@pytest.mark.parametrize("units", ["metric", "us"])
def test_first_pour_s_drawings_say_the_figures_of_the_garden_to_come(library, units):
    said = read({"units": units, "has_roof": "on", "w_beds": "on"}, library)
    assert not said.errors
    garden = poured(library).model_copy(update={"units": units})
    assessment = assess(garden, library)
    answers = first_pour.answers(assessment, said.answers)
    caught = assessment.station("catch").figure("caught_year").amount.show(units)
    assert caught.replace("\u00a0", " ") in answers["roof"].say
    for answer in answers.values():
        assert tree(answer.drawing) is not None
        assert answer.say
