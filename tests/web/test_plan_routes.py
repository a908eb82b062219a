"""The ground plan over HTTP: deeds kept, followed and refused; open formats read back."""

import csv
import html
import io
import json
import re
import xml.etree.ElementTree as ET

import ezdxf
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from euhydra.core.editing.file import from_json
from euhydra.exports.tables import TABLES
from euhydra.web.routes.plan import DEEDS

KILN = "/g/kiln-yard"
FRAGMENT = {"X-Fragment": "1"}


def done(client, do, of="", look="", **more):
    return client.post(f"{KILN}/plan{look}", headers=FRAGMENT, data={"do": do, "of": of} | more)


def plot(gardens, key):
    return gardens.load("kiln-yard").garden.plot(key)


def test_a_bed_is_moved_and_undone(client, gardens):
    before = plot(gardens, "bed-1").corner
    said = done(client, "move", "plots/bed-1", east=0.5, north=-0.25)
    assert said.status_code == 200
    after = plot(gardens, "bed-1").corner
    assert (after.x_m, after.y_m) == pytest.approx((before.x_m + 0.5, before.y_m - 0.25))
    assert "was" in said.text
    client.post(f"{KILN}/undo")
    assert plot(gardens, "bed-1").corner == before


def test_what_is_drawn_comes_back_picked_with_its_measures_on_the_plan(client, gardens):
    said = done(client, "draw:bed", east=15, north=-2, length=2, width=1)
    new = gardens.load("kiln-yard").garden.plots[-1].id
    assert f'data-picked="plots/{new}"' in said.text
    assert f'id="f-plots-{new}-length_m"' in said.text


def test_following_keeps_nothing(client, gardens):
    change = gardens.load("kiln-yard").change
    far = client.get(f"{KILN}/plan/live", params={"do": "move", "of": "plots/bed-1", "east": 2,
                                                  "north": 0}).json()
    here = client.get(f"{KILN}/plan/live", params={"do": "move", "of": "plots/bed-1",
                                                   "east": 0, "north": 0}).json()
    assert far["figures"]["line"] != here["figures"]["line"]
    assert far["lines"].startswith("<g")
    assert gardens.load("kiln-yard").change == change
    sized = client.get(f"{KILN}/plan/live", params={
        "do": "size", "of": "plots/bed-1", "east": 11, "north": 0.4, "length": 4.8,
        "width": 1.2}).json()
    assert sized["figures"]["need"] != here["figures"]["need"]
    assert "plots/bed-1" in sized["things"]
    refused = client.get(f"{KILN}/plan/live", params={
        "do": "size", "of": "plots/bed-1", "length": 999, "width": 1}).json()["refused"]
    assert refused == "Bed 1, length in m: must be 60.0 or less (it says '999.0')"


@pytest.mark.parametrize(("do", "of", "more", "says"), [
    ("fly", "plots/bed-1", {}, "nothing that can be done"),
    ("move", "plots/moon", {"east": 1}, "is not in this garden"),
    ("move", "", {"east": 1}, "Nothing is picked"),
    ("move", "plots/bed-1", {"east": 99999}, "is off the plan"),
    ("move", "line:bed-1-header1", {"east": 1}, "goes with its bed"),
    ("turn:often", "plots/bed-1", {}, "is no turn"),
    ("turn:10", "roofs/workshop", {}, "cannot be turned"),
    ("size", "plots/bed-1", {"length": 500, "width": 1}, "must be 60"),
    ("draw:bed", "", {"length": 0.1, "width": 0.1}, "does not suit"),
    ("draw:moat", "", {}, "nothing that can be drawn"),
    ("dripper", "", {"east": -5, "north": -5}, "stands in a plot"),
    ("row", "plots/pots-1", {}, "no rows"), ("row", "stores/barrels", {}, "Pick a bed first"),
    ("fitting:fountain", "line:bed-1-row1", {}, "is none of"),
    ("align:west", "plots/bed-1", {}, "two things or more"),
    ("remove", ",".join(f"plots/{p}" for p in (
        "bed-1", "bed-2", "bed-3", "bed-4", "border", "pots-1", "pears", "towers", "wicking")),
     {}, "keeps at least one")])
def test_what_cannot_be_done_is_said_and_nothing_is_lost(client, gardens, do, of, more, says):
    change = gardens.load("kiln-yard").change
    said = done(client, do, of, **more)
    assert said.status_code == 422
    assert says in html.unescape(said.text)
    assert gardens.load("kiln-yard").change == change
    assert client.get(f"{KILN}/plan/live", params={"do": do, "of": of} | more).status_code == 200


NUMBERS = st.one_of(st.floats(-3000, 3000), st.sampled_from([0.0, 0.01, 1.0, -1.0]))
PATHS = st.sampled_from([
    "plots/bed-1", "plots/pears", "plots/wicking", "roofs/workshop", "stores/barrels", "taps/tap",
    "paths/cross", "buildings/north-wall", "drains/laundry", "drains/laundry/basins/fig",
    "plots/bed-1/rows/row2", "line:bed-1-gate-pipe", "site/spots/upper", "rain_gardens/hollow",
    "plots/bed-1/plantings/p1", "zones/zone-bed-1", "plots", "", "//", "site", "line:x"])


@settings(deadline=None, max_examples=25, suppress_health_check=list(HealthCheck))
@given(st.sampled_from([*sorted(DEEDS), "draw:tree", "draw:gutter", "draw:spot", "draw:well",
                        "draw:joint", "draw:crop", "turn:30", "anew:all", "align:east",
                        "spread:east", "fitting:valve", "fitting:flush-end"]),
       st.lists(PATHS, max_size=3), NUMBERS, NUMBERS, NUMBERS, NUMBERS)
def test_no_deed_ends_in_500(client, do, of, east, north, length, width):
    more = {"east": east, "north": north, "length": length, "width": width}
    said = done(client, do, ",".join(of), **more)
    assert said.status_code in (200, 422)
    if said.status_code == 200:
        client.post(f"{KILN}/undo")


@pytest.mark.parametrize("look", [
    "?view=plan&sel=plots/bed-1", "?sel=plots/bed-1,plots/bed-2,roofs/workshop",
    "?sel=plots/bed-1/rows/row2", "?sel=line:bed-1-gate-pipe", "?sel=plots/pears&hide=wet",
    "?sel=stores/barrels", "?sel=moon,,%00&hide=x&plot=x", "?view=layings&plot=border",
    "?view=pieces", "?view=files", "?sel=site/spots/upper", "?sel=paths/cross"])
@pytest.mark.parametrize("system", ["metric", "us"])
def test_every_way_of_picking_shows_a_page(client, look, system):
    if system == "us":
        client.post(f"{KILN}/units")
    page = client.get(f"{KILN}/lay{look}")
    assert page.status_code == 200
    assert page.text.count('class="find') >= 1


def test_the_plan_as_dxf_reads_back_in_metres(client, gardens):
    text = client.get(f"{KILN}/export/plan.dxf").text
    drawing = ezdxf.read(io.StringIO(text))
    assert not drawing.audit().errors
    assert drawing.units == 6  # metres
    garden = gardens.load("kiln-yard").garden
    bed = next(e for e in drawing.modelspace().query("LWPOLYLINE")
               if e.dxf.layer == "PLOTS-BED")
    xs, ys = zip(*[(x, y) for x, y, *_ in bed], strict=True)
    assert (min(xs), min(ys), max(xs), max(ys)) == pytest.approx((11.0, 0.4, 13.4, 1.6))
    lines = [e for e in drawing.modelspace().query("LWPOLYLINE")
             if e.dxf.layer.startswith("LINE-")]
    assert len(lines) == len(garden.lines)
    assert len(drawing.modelspace().query("CIRCLE")) == sum(o.points for o in garden.outlets)
    assert {e.dxf.text for e in drawing.modelspace().query("TEXT")} >= {p.name for p in
                                                                         garden.plots}


def test_the_plan_as_svg_stands_alone(client):
    said = client.get(f"{KILN}/export/plan.svg")
    root = ET.fromstring(said.text)
    assert root.tag == "{http://www.w3.org/2000/svg}svg"
    assert "var(" not in said.text
    assert "foreignObject" not in said.text
    style = re.search("<style>(.*?)</style>", said.text)[1]
    for class_ in ("d-bed", "d-row", "d-wet", "d-wall", "d-halo"):
        assert f".{class_}{{" in style or f".{class_}," in style
    assert "data-" not in said.text


@pytest.mark.parametrize("table", sorted(TABLES))
def test_tables_as_csv_have_a_unit_in_every_head_and_add_up(client, gardens, table):
    said = client.get(f"{KILN}/export/{table}.csv")
    rows = list(csv.DictReader(io.StringIO(said.text, newline="")))
    garden = gardens.load("kiln-yard").garden
    count = {"plots": garden.plots, "lines": garden.lines, "outlets": garden.outlets,
             "fittings": garden.fittings, "thirst": garden.plots}.get(table)
    assert count is None or len(rows) == len(count)
    if table == "lines":
        assert sum(float(r["length_m"]) for r in rows) == pytest.approx(
            sum(x.length_m for x in garden.lines))
    assert client.get(f"{KILN}/export/moon.csv").status_code == 404


def test_the_garden_as_json_opens_again_exactly(client, gardens, library):
    done(client, "row", "plots/bed-1")
    done(client, "pin", "plots/bed-1/rows/row4")
    done(client, "turn:20", "plots/bed-2")
    done(client, "fitting:valve", "line:bed-1-row1")
    text = client.get(f"{KILN}/export/garden.json").text
    assert from_json(text, library) == gardens.load("kiln-yard").garden
    assert json.loads(text)["version"] == 6
