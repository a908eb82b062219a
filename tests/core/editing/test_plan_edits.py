"""What is done on the ground plan, edit by edit."""

from itertools import pairwise

import pytest
from shapely.geometry import LineString, Point

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.editing import placement
from euhydra.core.editing.file import from_json
from euhydra.core.editing.hand_laying import (
    AddDripper,
    AddRow,
    LayAnew,
    LeadThrough,
    Pin,
    PutFitting,
)
from euhydra.core.editing.plan_edits import (
    Align,
    Distribute,
    DrawAt,
    Duplicate,
    MoveBy,
    RemoveAll,
    SizeTo,
    TurnBy,
)
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.layout.laying import rows_of
from euhydra.core.terrain import geometry
from euhydra.data import garden_text
from gardens import poured

BEDS = ("plots/bed-1", "plots/bed-2", "plots/pots-1")


@pytest.fixture
def garden(library):
    return poured(library)


def boxes(garden):
    return {thing.path: thing.bounds for thing in placement.placed(garden)}


def test_a_drawn_bed_takes_the_rectangle_and_its_like_s_ways(garden, library):
    after = DrawAt("bed", 12.0, 3.0, 3.0, 0.9).apply(garden, library)
    new = after.plots[-1]
    assert (new.corner.x_m, new.corner.y_m, new.length_m, new.width_m) == (12.0, 3.0, 3.0, 0.9)
    assert new.soil == garden.plots[1].soil
    assert {line.plot for line in after.lines} >= {new.id}


def test_a_drum_takes_the_pump_that_stands_in_it_along(library):
    drum = from_json(garden_text("wringer-lane"), library)
    (drain,), (pump,) = drum.drains, drum.lifts
    after = MoveBy((f"drains/{drain.id}",), 1.5, -0.5).apply(drum, library)
    assert after.lifts[0].at == after.drains[0].at
    assert after.drains[0].at.x_m == drain.at.x_m + 1.5
    both = MoveBy((f"drains/{drain.id}", f"lifts/{pump.id}"), 1.5, -0.5).apply(drum, library)
    assert both == after
    away = MoveBy((f"lifts/{pump.id}",), 2.0, 0.0).apply(drum, library)
    alone = MoveBy((f"drains/{drain.id}",), 1.0, 0.0).apply(away, library)
    assert alone.lifts[0].at == away.lifts[0].at, "it stands elsewhere"


def test_a_spot_instead_of_a_rectangle_gives_the_usual_size(garden, library):
    after = DrawAt("border", 12.0, 3.0, 0.0, 0.0).apply(garden, library)
    assert (after.plots[-1].length_m, after.plots[-1].corner.x_m) == (4.0, 12.0)
    path = DrawAt("path", 1.0, -3.0, 0.0, 0.0).apply(garden, library).paths[-1]
    assert (path.course[0].x_m, path.course[0].y_m) == (1.0, -3.0)
    assert path.course[1].y_m == -3.0


@pytest.mark.parametrize(("what", "length", "width", "count"), [
    ("pots", 1.44, 0.34, 4), ("pots", 1.44, 0.70, 8), ("tower", 1.5, 0.3, 3)])
def test_as_many_vessels_as_fit_a_rectangle(library, what, length, width, count):
    bare = poured(library, pots=0)
    after = DrawAt(what, 12.0, 3.0, length, width).apply(bare, library)
    assert after.plots[-1].count == count


def test_a_rectangle_too_large_is_refused_in_words(garden, library):
    with pytest.raises(EditRefused, match="nothing that can be drawn"):
        DrawAt("moat", 0, 0, 1, 1).apply(garden, library)


def test_a_corner_drawn_out_leaves_the_corner_across(garden, library):
    turned = TurnBy(("plots/bed-1",), 30).apply(garden, library)
    bed = turned.plot("bed-1")
    fixed = geometry.corners(bed)[0]
    # What the handle at the far corner sends: the middle of the new box, unturned.
    (mx, my), (dx, dy) = geometry.middle(bed), (0.0, 0.0)
    after = SizeTo("plots/bed-1", mx - 1.5 + dx, my - 0.5 + dy, 3.0, 1.0).apply(turned, library)
    assert after.plot("bed-1").turn_deg == 30
    assert geometry.middle(after.plot("bed-1")) == (pytest.approx(mx), pytest.approx(my))
    assert geometry.outline(after.plot("bed-1")).area == pytest.approx(3.0)
    assert fixed != geometry.corners(after.plot("bed-1"))[0]
    with pytest.raises(EditRefused, match="not that of a rectangle"):
        SizeTo("plots/pots-1", 0, 0, 1, 1).apply(garden, library)


@pytest.mark.parametrize(("side", "edge"), [("west", 0), ("south", 1), ("east", 2), ("north", 3)])
def test_things_are_lined_up_with_the_outermost(garden, library, side, edge):
    now, after = boxes(garden), boxes(Align(BEDS, side).apply(garden, library))
    best = min if edge < 2 else max
    for path in BEDS:
        assert after[path][edge] == pytest.approx(best(now[p][edge] for p in BEDS), abs=1e-3)


def test_equal_gaps_and_the_ends_stay(garden, library):
    after = boxes(Distribute(BEDS, "north").apply(garden, library))
    order = sorted(BEDS, key=lambda p: after[p][1])
    gaps = [after[b][1] - after[a][3] for a, b in pairwise(order)]
    assert gaps[0] == pytest.approx(gaps[1], abs=1e-3)
    now = boxes(garden)
    assert after[order[0]] == pytest.approx(now[order[0]], abs=1e-3)
    assert after[order[-1]] == pytest.approx(now[order[-1]], abs=1e-3)
    with pytest.raises(EditRefused, match="three things or more"):
        Distribute(BEDS[:2], "north").apply(garden, library)
    with pytest.raises(EditRefused, match="two things or more"):
        Align(BEDS[:1], "west").apply(garden, library)


def test_a_copy_stands_beside_with_a_name_and_lines_of_its_own(garden, library):
    after = Duplicate(("plots/bed-1",)).apply(garden, library)
    new = after.plots[-1]
    assert new.name == "Bed 1 copy"
    assert new.corner.x_m == pytest.approx(garden.plot("bed-1").corner.x_m + 2.4 + 0.5)
    assert any(line.plot == new.id for line in after.lines)
    with pytest.raises(EditRefused, match="not a thing of the plan"):
        Duplicate(("zones/zone-bed-1",)).apply(garden, library)


def test_a_row_moves_across_its_bed_only_and_what_hangs_on_it_follows(garden, library):
    row = rows_of(garden.plot("bed-1"), library)[0]
    path = f"plots/bed-1/rows/{row.id}"
    after = MoveBy((path,), 5.0, 0.1).apply(garden, library)
    moved = next(r for r in after.plot("bed-1").rows if r.id == row.id)
    assert moved.across_m == pytest.approx(row.across_m + 0.1)
    assert (moved.from_m, moved.to_m) == (row.from_m, row.to_m)
    lengths = {x.id: x.length_m for x in after.lines}
    assert lengths["bed-1-header1"] == pytest.approx(0.4 - 0.1)
    before, now = assess(garden, library), assess(after, library)
    assert now.flows["zone-bed-1"]["half"].solution.converged
    assert now.wetted["bed-1"].dry_share != before.wetted["bed-1"].dry_share


def test_what_is_taken_away_goes_with_what_hangs_on_it(garden, library):
    after = RemoveAll(("plots/bed-2", "plots/pots-1")).apply(garden, library)
    assert [p.id for p in after.plots] == ["bed-1"]
    assert {x.plot for x in after.lines} == {None, "bed-1"}
    with pytest.raises(EditRefused, match="keeps at least one"):
        RemoveAll(tuple(BEDS)).apply(garden, library)
    rows = tuple(f"plots/bed-1/rows/row{i}" for i in (1, 2))
    fewer = RemoveAll(rows).apply(garden, library)
    assert [r.id for r in rows_of(fewer.plot("bed-1"), library)] == ["row3"]


def test_pipe_is_led_through_a_place_and_back_when_laid_anew(garden, library):
    zone = garden.zones[0]
    after = LeadThrough(zone.id, 7.0, 6.0).apply(garden, library)
    pipe = [LineString(geometry.points_xy(x.course)) for x in after.lines if x.zone == zone.id]
    assert min(line.distance(Point(7.0, 6.0)) for line in pipe) < 0.05
    assert LayAnew().apply(after, library) == garden
    pinned = Pin((f"zones/{zone.id}/vias/via1",), True).apply(after, library)
    assert LayAnew().apply(pinned, library).zones[0].vias == pinned.zones[0].vias


def test_a_valve_put_on_a_row_costs_head_there_and_is_counted(garden, library):
    after = PutFitting("bed-1-row1", "valve").apply(garden, library)
    assert sum(f.kind == "valve" for f in after.fittings) == 1
    flow = {name: assess(g, library).flows["zone-bed-1"]["half"] for name, g in (
        ("before", garden), ("after", after))}
    first = "bed-1-row1-out:0"
    q = {name: next(o.flow_l_h for o in f.outlets if o.emitter == first)
         for name, f in flow.items()}
    assert q["after"] < q["before"]
    longer = SetValue("plots/bed-1/length_m", 3.0).apply(after, library)
    assert any(f.hand for f in longer.fittings), "an edit elsewhere must not drop it"
    assert not any(f.hand for f in LayAnew().apply(after, library).fittings)
    kept = Pin(("fittings/hand-1",), True).apply(after, library)
    assert any(f.hand for f in LayAnew().apply(kept, library).fittings)
    with pytest.raises(EditRefused, match="is none of"):
        PutFitting("bed-1-row1", "fountain").apply(garden, library)


def test_a_plugged_end_where_more_will_come(garden, library):
    after = SetValue("zones/zone-bed-1/more_to_come", True).apply(garden, library)
    ends = [f for f in after.fittings if f.kind == "plugged-tee"]
    assert [f.line for f in ends] == ["bed-1-gate-pipe"]
    assert any(p.key == "plugged-tee" for p in parts_list(after, library))


def test_a_dripper_by_hand_waters_its_own_plot(garden, library):
    after = AddDripper("bed-1", 1.2, 0.6).apply(garden, library)
    before, now = (assess(g, library).flows["zone-bed-1"]["half"].plot_flow_l_h("bed-1")
                   for g in (garden, after))
    assert now > before
    freed = LayAnew("bed-1").apply(after, library)
    assert freed == garden


def test_more_drippers_on_that_tube_are_a_sub_line(garden, library):
    """Four, 20 cm apart: 0.6 m more of tube, a tee to each but the last; none past the end."""
    one = AddDripper("bed-1", 1.2, 0.6).apply(garden, library)
    path = f"plots/bed-1/drippers/{one.plot('bed-1').drippers[0].id}"
    four = SetValue(f"{path}/apart_m", 0.2).apply(
        SetValue(f"{path}/count", 4).apply(one, library), library)
    name = "bed-1-drip1"
    a, b = (next(x for x in g.lines if x.id == name) for g in (one, four))
    assert b.length_m == pytest.approx(a.length_m + 0.6, abs=0.01)
    run = next(o for o in four.outlets if o.line == name)
    assert (run.points, run.spacing_m) == (4, 0.2)
    assert run.first_m == pytest.approx(a.length_m, abs=0.01)
    tees = [sum(p.quantity for p in parts_list(g, library) if p.key == "small-tee")
            for g in (one, four)]
    assert tees[1] == tees[0] + 3
    twenty = SetValue(f"{path}/count", 20).apply(four, library)
    assert next(o for o in twenty.outlets if o.line == name).points == 7  # 1.2 m to the end


@pytest.mark.parametrize(("edit", "says"), [
    (MoveBy(("plots/moon",), 1, 1), "is not in this garden"),
    (MoveBy((), 1, 1), "Nothing is picked"), (TurnBy(("roofs/roof",), 5), "cannot be turned"),
    (Pin(("plots/bed-1",), True), "not a piece of the laying"),
    (AddRow("pots-1"), "has no rows"), (LayAnew("moon"), "not in this garden"),
    (PutFitting("moon", "valve"), "not a line"), (Align(BEDS, "up"), "is none of")])
def test_what_cannot_be_done_is_said(garden, library, edit, says):
    with pytest.raises(EditRefused, match=says):
        edit.apply(garden, library)
