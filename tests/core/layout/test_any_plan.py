"""What holds for any laying: inside the plots, round the buildings, added up, the same again."""

import math
from collections import Counter

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.file import from_json, to_json
from euhydra.core.editing.hand_laying import AddDripper, AddRow, LayAnew, Pin
from euhydra.core.editing.plan_edits import Duplicate, MoveBy, TurnBy
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.model import Bed, Garden
from euhydra.core.layout.laying import lay, rows_of
from euhydra.core.layout.rows import RowFrame, joined_as
from euhydra.core.layout.wetted import places
from euhydra.core.stations.lay import tube_lengths
from euhydra.core.terrain import geometry
from euhydra.data import library as load_library
from plans import plans

LIBRARY = load_library()
ANY = settings(deadline=None, max_examples=25, suppress_health_check=list(HealthCheck))


@ANY
@given(plans(LIBRARY))
def test_laying_again_changes_nothing_and_the_file_opens_as_it_was(garden):
    assert lay(garden, LIBRARY) == garden
    assert from_json(to_json(garden), LIBRARY) == garden


@ANY
@given(plans(LIBRARY))
def test_rows_and_outlets_stay_inside_their_bed(garden):
    lines = {x.id: x for x in garden.lines}
    for bed in (p for p in garden.plots if isinstance(p, Bed)):
        shape = geometry.outline(bed).buffer(1e-3)
        for row in rows_of(bed, LIBRARY):
            ends = RowFrame(bed).to_site([(row.from_m, row.across_m), (row.to_m, row.across_m)])
            assert shape.covers(LineString(ends)), row
        for run in (o for o in garden.outlets if o.plot == bed.id):
            line = lines[run.line]
            last = run.first_m + (run.points - 1) * run.spacing_m
            assert -1e-6 <= run.first_m <= last <= line.length_m + 1e-3
            if line.role != "soaker" and bed.layout != "s-curve":
                for place in places(line, run):
                    assert shape.covers(Point(place))


@ANY
@given(plans(LIBRARY))
def test_no_line_crosses_a_building_that_leaves_a_way_round(garden):
    solid = geometry.building_shape(garden.buildings[0]).buffer(-0.02)
    near = solid.buffer(0.8)
    if any(geometry.outline(p).intersects(near) for p in garden.plots):
        return  # it stands at a plot's gate
    for line in garden.lines:
        assert not LineString(geometry.points_xy(line.course)).intersects(solid), line.id


@ANY
@given(plans(LIBRARY))
def test_lengths_add_up_and_every_plot_hangs_on_its_source(garden):
    a = assess(garden, LIBRARY)
    assert sum(tube_lengths(a).values()) == pytest.approx(sum(x.length_m for x in garden.lines))
    levels = {n.id: n.z_m for n in garden.nodes}
    for line in garden.lines:
        plan_m = geometry.course_m(geometry.points_xy(line.course))
        slope_m = math.hypot(plan_m, levels[line.end] - levels[line.start])
        assert line.length_m >= slope_m - 1e-3
        assert line.length_m <= slope_m + 0.6  # a pot's tube rises into it
    assert {o.plot for o in garden.outlets} == {p.id for p in garden.plots}
    roots = {x.start for x in garden.lines} - {x.end for x in garden.lines}
    assert len(roots) == len(garden.zones)
    # Lines close into as many loops as there are rows joined at both ends, less one a bed.
    beds = [(p, rows_of(p, LIBRARY)) for p in garden.plots if isinstance(p, Bed)]
    looped = sum(len(rows) - 1 for bed, rows in beds if joined_as(bed, rows, LIBRARY) == "loop")
    assert len(garden.lines) - len(garden.nodes) + len(garden.zones) == looped


@ANY
@given(plans(LIBRARY))
def test_every_corner_has_its_fitting(garden):
    """A joint where n pipes part needs n - 2 tees (small tubes are punched in)."""
    degree = Counter(n for x in garden.lines if x.role != "quarter-inch"
                     for n in (x.start, x.end))
    tees = sum(max(0, d - 2) for d in degree.values())
    counted = sum(f.kind == "barb-tee" for f in garden.fittings)
    assert counted == tees


@ANY
@given(plans(LIBRARY, most=3), st.data())
def test_a_pinned_row_stays_through_any_laying_anew(garden, data):
    beds = [p for p in garden.plots if isinstance(p, Bed)]
    if not beds:
        return
    bed = data.draw(st.sampled_from(beds))
    held = AddRow(bed.id).apply(garden, LIBRARY)
    rows = held.plot(bed.id).rows
    row = data.draw(st.sampled_from(rows))
    path = f"plots/{bed.id}/rows/{row.id}"
    pinned = Pin((path,), True).apply(held, LIBRARY)
    place = next(r for r in pinned.plot(bed.id).rows if r.id == row.id)
    for edit in (LayAnew(bed.id), LayAnew(), MoveBy((f"plots/{bed.id}",), 0.4, -0.3)):
        after = edit.apply(pinned, LIBRARY)
        assert place in after.plot(bed.id).rows
    freed = LayAnew().apply(Pin((path,), False).apply(pinned, LIBRARY), LIBRARY)
    assert freed.plot(bed.id) == bed


@ANY
@given(plans(LIBRARY, most=3), st.floats(-3, 3), st.floats(-3, 3), st.floats(-180, 180))
def test_what_is_moved_or_turned_there_and_back_stands_as_before(garden, east, north, turn):
    paths = tuple(f"plots/{p.id}" for p in garden.plots)

    def same(one: Garden, other: Garden) -> None:
        for a, b in zip(one.plots, other.plots, strict=True):
            assert geometry.outline(a).symmetric_difference(geometry.outline(b)).area < 1e-2
            assert a.length_m == b.length_m

    there = MoveBy(paths, east, north).apply(garden, LIBRARY)
    same(MoveBy(paths, -east, -north).apply(there, LIBRARY), garden)
    same(TurnBy(paths, -turn).apply(TurnBy(paths, turn).apply(garden, LIBRARY), LIBRARY), garden)
    twice = Duplicate(paths).apply(garden, LIBRARY)
    assert len(twice.plots) == 2 * len(garden.plots)
    assert relaid(twice, LIBRARY) == twice


@ANY
@given(plans(LIBRARY, most=2), st.data())
def test_a_dripper_put_anywhere_in_a_plot_gets_its_tube(garden, data):
    plot = data.draw(st.sampled_from(garden.plots))
    along = data.draw(st.floats(0, plot.length_m))
    try:
        after = AddDripper(plot.id, along, plot.breadth_m / 2).apply(garden, LIBRARY)
    except EditRefused:
        return
    lines = {x.id: x for x in after.lines}
    new = next(o for o in after.outlets if o.line not in {x.id for x in garden.lines})
    assert lines[new.line].role == "quarter-inch"
    assert new.plot == plot.id
    end = lines[new.line].course[-1]
    at = geometry.to_plot(plot, (end.x_m, end.y_m))
    assert at == (pytest.approx(along, abs=1e-3), pytest.approx(plot.breadth_m / 2, abs=1e-3))
