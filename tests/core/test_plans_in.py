"""Plans drawn elsewhere, read: our own DXF back, blocks and curves, GeoJSON in degrees."""

import contextlib
import io
import json
import math

import ezdxf
import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.editing import placement
from euhydra.data import library as load_library
from euhydra.exports.geojson_in import geojson
from euhydra.exports.outlines_in import bounds, outlines_in
from euhydra.exports.plan_dxf import plan_dxf
from euhydra.exports.plan_read import BadPlan
from gardens import poured

LIBRARY = load_library()


def dxf_of(draw, units=4):
    drawing = ezdxf.new("R2010", units=units)
    draw(drawing, drawing.modelspace())
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode()


def test_our_own_plan_comes_back_where_it_stood():
    garden = poured(LIBRARY)
    read = outlines_in(plan_dxf(garden).encode(), "a.dxf")
    assert (read.unit, read.stays) == ("m", True)
    shapes = {o.name: o.shape for o in read.outlines}
    roof = next(t for t in placement.placed(garden) if t.kind == "roof")
    assert shapes["ROOFS-ROOF"].equals_exact(roof.shape.normalize(), 0.01) or (
        shapes["ROOFS-ROOF"].symmetric_difference(roof.shape).area < 0.01)


def test_blocks_curves_loose_lines_and_millimetres():
    def draw(drawing, space):
        block = drawing.blocks.new("HOUSE")
        block.add_lwpolyline([(0, 0), (6000, 0), (6000, 4000), (0, 4000)], close=True)
        space.add_blockref("HOUSE", (1000, 2000), dxfattribs={"rotation": 90, "layer": "HOUSE"})
        space.add_circle((20_000, 0), 1500, dxfattribs={"layer": "POND"})
        for a, b in (((0, 0), (0, 9000)), ((0, 9000), (9000, 9000)), ((30_000, 0), (31_000, 0))):
            space.add_line(a, b, dxfattribs={"layer": "WALL"})
        space.add_text("not a line")

    read = outlines_in(dxf_of(draw), "a.dxf")
    found = {o.name: o for o in read.outlines if o.name != "WALL"}
    assert (read.unit, read.stays) == ("mm", True)
    assert found["POND"].shape.area == pytest.approx(math.pi * 1.5 ** 2, rel=0.01)
    house = next(o for o in read.outlines if o.closed and o is not found["POND"])
    assert house.shape.area == pytest.approx(24)
    assert house.shape.bounds == pytest.approx((-3, 2, 1, 8))
    walls = sorted(o.shape.length for o in read.outlines if o.name == "WALL")
    assert walls == [pytest.approx(1), pytest.approx(18)]
    again = outlines_in(dxf_of(draw), "a.dxf", "in")
    assert again.size_m[0] == pytest.approx(read.size_m[0] * 25.4, rel=1e-3)


def test_degrees_become_metres_by_the_ellipsoid():
    # A degree of latitude and of longitude at 45 degrees: 111.132 and 78.847 km (tables of WGS 84,
    # recalled).
    ring = [[7.0, 45.0], [7.001, 45.0], [7.001, 45.001], [7.0, 45.001], [7.0, 45.0]]
    tree = {"type": "FeatureCollection", "features": [
        {"type": "Feature", "properties": {"name": "House"},
         "geometry": {"type": "Polygon", "coordinates": [ring]}},
        {"type": "Feature", "properties": None, "geometry": None},
        {"type": "Feature", "geometry": {"type": "Point", "coordinates": [7, 45]}}]}
    read = outlines_in(json.dumps(tree).encode(), "a.geojson")
    assert (read.unit, read.stays, len(read.outlines)) == ("degrees", False, 1)
    assert read.size_m == pytest.approx((78.847, 111.132), rel=1e-4)
    assert bounds(read.outlines)[:2] == pytest.approx((0, 0), abs=1e-3)
    metres = {"type": "LineString", "coordinates": [[0, 0], [12, 0], [12, 8]]}
    read = outlines_in(json.dumps(metres).encode(), "a.json")
    assert (read.unit, read.stays, read.size_m) == ("m", True, (12, 8))


@pytest.mark.parametrize(("data", "says"), [
    (b"", "no lines or outlines"), (b"{}", "0 places"), (b"[1]", "not whole GeoJSON"),
    (b'{"type": "LineString", "coordinates": [[0, 0], ["x", 1]]}', "not whole GeoJSON"),
    (b'{"type": "LineString", "coordinates": [[0, 0], [NaN, 1]]}', "all of them numbers"),
    (b'{"type": "LineString", "coordinates": [[0, 0], [1e-7, 0]]}', "no lines or outlines"),
    (b'{"type": "LineString", "coordinates": [[0, 0], [900000, 0]]}', "Choose the unit"),
    (b'{"type": "Polygon", "coordinates": []}', "not whole GeoJSON"),
    (b'{"a":' * 5000 + b"1" + b"}" * 5000, "not whole GeoJSON"), (b"0\nSECTION\n", "DXF")])
def test_what_holds_no_plan_is_refused_in_words(data, says):
    with pytest.raises(BadPlan, match=says):
        outlines_in(data, "a file")


@given(st.recursive(st.none() | st.booleans() | st.floats() | st.text(max_size=6) | st.sampled_from(
    ["Polygon", "Feature", "LineString"]), lambda inner: st.lists(inner, max_size=4)
    | st.dictionaries(st.sampled_from(["type", "coordinates", "features", "geometry",
                                       "properties", "geometries"]), inner), max_leaves=12))
def test_any_json_is_read_or_refused(tree):
    with contextlib.suppress(BadPlan):
        geojson(json.dumps(tree).encode(), "")


@given(st.binary(max_size=300))
def test_any_bytes_are_read_or_refused(data):
    with pytest.raises(BadPlan):
        outlines_in(data, "a file")
