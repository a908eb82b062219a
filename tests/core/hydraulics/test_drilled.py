"""Pipe drilled by hand: its holes, and what evens them."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.editing.edits import SetValue
from euhydra.core.hydraulics import zone_flow
from euhydra.core.hydraulics.drilled import DRILLS_MM, DrilledPipe, along_pipe, evened
from gardens import made

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


def test_larger_holes_in_a_drilled_bed_give_by_their_area(library):
    garden = made(library, ("plots/bed-1/method", "drilled"), fall_m=0.6, pots=0)
    wide = SetValue("plots/bed-1/hole_mm", 3.0).apply(garden, library)
    ks = [next(e.kind.k for e in zone_flow.solve_zone(g, library, g.zones[0], 3.0).network.emitters
               if e.id.startswith("bed-1")) for g in (garden, wide)]
    assert ks[1] == pytest.approx(4 * ks[0])
