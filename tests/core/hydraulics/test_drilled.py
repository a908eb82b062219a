"""Pipe drilled by hand: its holes, and what evens them."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.advise.drilled_rows import drilled_row
from euhydra.core.assessment.assess import assess
from euhydra.core.construction.steps import steps
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics import zone_flow
from euhydra.core.hydraulics.assemble import past_holes
from euhydra.core.hydraulics.drilled import (
    DRILLS_MM,
    DrilledPipe,
    along_pipe,
    by_thirds,
    evened,
)
from euhydra.core.hydraulics.emitter_demand import every_wish
from euhydra.core.layout.rows import counted
from gardens import made, rules_of

pipes = st.builds(
    lambda bore, hole, n, apart: DrilledPipe(bore, (hole,) * n, apart, apart),
    st.floats(10, 32), st.floats(1, 4), st.integers(2, 30), st.floats(0.1, 1.0))


@settings(max_examples=30, deadline=None)
@given(pipes, st.floats(0.1, 3.0))
def test_a_drilled_pipe_spends_its_head_and_no_hole_gives_more_than_in_still_water(pipe, head_m):
    flow = along_pipe(pipe, head_m)
    still = 0.63 * math.pi / 4 * (pipe.bores_mm[0] / 1000) ** 2 * 3.6e6
    assert all(0 <= q <= still * math.sqrt(2 * 9.80665 * h) * (1 + 1e-6) + 1e-9
               for q, h in zip(flow.holes_l_h, flow.heads_m, strict=True))
    assert list(flow.heads_m) == sorted(flow.heads_m, reverse=True)
    assert flow.heads_m[0] <= head_m + 1e-9
    assert along_pipe(pipe, head_m * 1.5).total_l_h > flow.total_l_h


def test_sizes_even_the_holes_to_the_nearest_drill():
    narrow = DrilledPipe(13.6, (3.0,) * 20, 0.4, 0.4)
    sized = evened(narrow, 0.6)
    assert set(sized.bores_mm) <= set(DRILLS_MM)
    assert along_pipe(narrow, 0.6).evenness < 0.9 < 0.95 < along_pipe(sized, 0.6).evenness
    thirds = by_thirds(sized)
    assert len(set(thirds.bores_mm)) <= 3
    assert thirds.bores_mm[:7] == thirds.bores_mm[:1] * 7
    assert along_pipe(narrow, 0.6).evenness < along_pipe(thirds, 0.6).evenness


def test_a_pipe_with_an_open_end_is_evened_as_it_is():
    opened = DrilledPipe(20.0, (3.0,) * 12, 0.4, 0.4, open_end=True)
    sized = evened(opened, 1.0)
    before, after = along_pipe(opened, 1.0), along_pipe(sized, 1.0)
    assert sized.open_end
    assert after.end_l_h > 0
    weakest = min(range(12), key=lambda i: before.holes_l_h[i])
    assert sized.bores_mm[weakest] == max(sized.bores_mm)
    assert before.evenness + 0.1 < after.evenness


def test_larger_holes_in_a_drilled_bed_give_by_their_area(library):
    garden = made(library, ("plots/bed-1/method", "drilled"), fall_m=0.6, pots=0)
    wide = SetValue("plots/bed-1/hole_mm", 3.0).apply(garden, library)
    # by the last hole, past which nothing runs
    ks = [[e.kind.k for e in zone_flow.solve_zone(g, library, g.zones[0], 3.0).network.emitters
           if e.id.startswith("bed-1-row1")][-1] for g in (garden, wide)]
    assert ks[1] == pytest.approx(4 * ks[0], rel=0.01)


@pytest.mark.parametrize("end", ["shut", "open"])
def test_a_row_in_the_network_gives_what_the_pipe_alone_does(library, end):
    garden = made(library, ("plots/bed-1/method", "drilled"), ("plots/bed-1/hole_mm", 3.0),
                  ("plots/bed-1/end", end), fall_m=0.8, pots=0)
    flow = zone_flow.solve_zone(garden, library, garden.zones[0], 3.0)
    run = next(o for o in garden.outlets if o.plot == "bed-1" and o.kind == "hole")
    line = next(x for x in garden.lines if x.id == run.line)
    first = next(o for o in flow.outlets if o.emitter == f"{run.id}:0")
    alone = along_pipe(DrilledPipe(library.tubes[line.tube].bore_mm, (3.0,) * run.points,
                                   run.spacing_m, 0.0, end == "open"), first.head_m)
    given = {o.emitter: o.flow_l_h for o in flow.outlets}
    assert [given[f"{run.id}:{i}"] for i in range(run.points)] == pytest.approx(
        alone.holes_l_h, rel=0.03, abs=0.2)
    assert given.get(f"{line.id}-open:0", 0.0) == pytest.approx(alone.end_l_h, rel=0.03)


def test_an_open_end_takes_the_water_is_no_outlet_and_is_shut_by_a_remedy(library):
    shut = made(library, ("plots/bed-1/method", "drilled"), fall_m=0.8, pots=0)
    opened = SetValue("plots/bed-1/end", "open").apply(shut, library)
    a, b = assess(shut, library), assess(opened, library)
    zone = opened.zones[0].id
    assert counted(opened.outlets, library) == counted(shut.outlets, library)
    assert not any("open" in key for key in every_wish(b.demand, b.flows, 0.5))
    assert sum(f.kind == "flush-end" for f in opened.fittings) < sum(
        f.kind == "flush-end" for f in shut.fittings)
    least = [min(o.flow_l_h for o in x.flows[zone]["half"].outlets) for x in (a, b)]
    assert least[1] < 0.7 * least[0]
    # What runs out there is drawn from the store and does the plants no good.
    assert b.flows[zone]["half"].low_quarter < 0.6 * a.flows[zone]["half"].low_quarter
    assert "push.open-end" not in rules_of(shut, library)
    told = next(f for f in b.station("push").findings if f.rule == "push.open-end")
    (remedy,) = told.remedies
    assert remedy.edit.apply(opened, library) == shut


@pytest.mark.parametrize("opened", [False, True])
@pytest.mark.parametrize("head_m", [0.2, 1.0, 5.0])
def test_what_speed_takes_of_a_hole_hardly_changes_with_the_head(library, opened, head_m):
    pipe = DrilledPipe(13.6, (1.5,) * 40, 0.2, 0.2, opened)
    kinds = past_holes(library.outlets["hole"], pipe)
    exact = along_pipe(pipe, head_m).coefficients
    assert [k.k / library.outlets["hole"].k * 0.63 for k in kinds] == pytest.approx(
        exact, abs=0.02)


@pytest.mark.parametrize(("end", "layout"), [("shut", "comb"), ("open", "comb"), ("open", "loop")])
def test_a_row_hole_by_hole_is_the_network_s_and_otherwise_the_pipe_s_alone(library, end, layout):
    garden = made(library, ("plots/bed-1/method", "drilled"), ("plots/bed-1/end", end),
                  ("plots/bed-1/layout", layout), fall_m=0.8, pots=0)
    a = assess(garden, library)
    row = drilled_row(a, garden.plot("bed-1"))
    half = a.flows[garden.zones[0].id]["half"]
    given = [o.flow_l_h for o in half.outlets if o.plot == "bed-1" and not o.open_end]
    assert set(row.now.holes_l_h) <= set(given)
    opens = end == "open" and layout == "comb"  # joined, the rows have no ends of their own
    assert row.each.open_end == opens
    assert (row.now.end_l_h > 0, row.otherwise.end_l_h > 0) == (opens, not opens)
    told = [s.own.show("metric") for s in steps(a.season_inputs) if s.id.startswith("flush-")]
    assert ("stay open" in told[0]) == (end == "open")
    assert drilled_row(a, garden.plot("bed-2")) is None


def test_a_pipe_whose_water_is_spent_on_the_way_gives_by_its_near_holes(library):
    wide = DrilledPipe(4.0, (6.0,) * 900, 0.05, 0.05, open_end=True)
    flow = along_pipe(wide, 5.0)
    assert len(flow.holes_l_h) == 900
    assert flow.heads_m[0] == pytest.approx(5.0, rel=0.5)
    assert flow.total_l_h > 10
    assert flow.holes_l_h[-1] < 1e-9 > flow.end_l_h
    assert along_pipe(wide, 0.0).total_l_h == 0


def test_a_row_of_many_holes_is_told_by_some_of_them(library):
    """Some 200 holes: each that is told stands for four, and gives what it does in the row."""
    garden = made(library, ("plots/bed-1/method", "drilled"), ("plots/bed-1/openings_m", 0.06),
                  ("plots/bed-1/length_m", 12.0), ("plots/bed-1/hole_mm", 0.8), fall_m=0.8, pots=0)
    a = assess(garden, library)
    row = drilled_row(a, garden.plot("bed-1"))
    run = next(o for o in garden.outlets if o.kind == "hole")
    assert row.every == 4
    assert len(row.now.holes_l_h) == len(row.each.bores_mm) == -(-run.points // 4) <= 60
    assert {round(mm, 6) for mm in row.each.bores_mm} <= set(DRILLS_MM)
    alone = along_pipe(DrilledPipe(13.6, (0.8,) * run.points, run.spacing_m, 0.0), row.head_m)
    shut = row.now.holes_l_h
    assert shut == pytest.approx(alone.holes_l_h[::4], rel=0.03)
    evens = row.each_gives.holes_l_h
    assert min(evens) / max(evens) > min(shut) / max(shut) - 0.01
