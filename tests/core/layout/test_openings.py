"""Emitter lines as they are sold, rows as far apart as was typed, holes as they are drilled."""

from itertools import pairwise

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.holes import holes
from euhydra.core.layout.rows import rows_of, tube_of
from gardens import made, rules_of


@pytest.mark.parametrize(("asked", "laid"), [(0.0, 0.30), (0.15, 0.15), (0.1524, 0.15), (0.2, 0.2),
                                             (0.2286, 0.23), (0.3, 0.3), (0.46, 0.45), (2.0, 0.45)])
def test_openings_are_laid_as_they_are_sold(library, asked, laid):
    """15, 20, 23, 30, 45 cm; 6, 8, 9, 12, 18 in (common practice)."""
    garden = made(library, ("plots/bed-1/openings_m", asked))
    rows = [o for o in garden.outlets if o.plot == "bed-1"]
    assert {round(o.spacing_m, 4) for o in rows} == {laid}
    tubes = {x.tube for x in garden.lines if x.role == "dripline" and x.plot == "bed-1"}
    assert {library.tubes[t].outlet_spacing_m for t in tubes} == {laid}
    long = rows_of(garden.plot("bed-1"), library)[0]
    assert sum(o.points for o in rows) / len(rows) == pytest.approx(
        (long.to_m - long.from_m) / laid, abs=1)


def test_what_is_not_sold_is_said_and_offered_as_it_is_laid(library):
    garden = made(library, ("plots/bed-1/openings_m", 0.26))
    found = rules_of(garden, library)["lay.openings"]
    then = found.remedies[0].edit.apply(garden, library)
    assert then.plot("bed-1").openings_m == pytest.approx(0.23) or (
        then.plot("bed-1").openings_m == pytest.approx(0.30))
    assert then.outlets == garden.outlets
    assert "lay.openings" not in rules_of(then, library)
    inches = made(library, ("plots/bed-1/openings_m", 6 * 0.0254))
    assert "lay.openings" not in rules_of(inches, library)


def test_a_closer_line_is_another_part_and_may_not_run_so_far(library):
    usual, close = (made(library, ("plots/bed-1/openings_m", m)) for m in (0.0, 0.15))
    names = [{p.name for p in assess(g, library).parts if p.key == "tube"} for g in (usual, close)]
    assert any("every 15 cm (6 in)" in name for name in names[1] - names[0])
    a, b = (tube_of(g.plot("bed-1"), library) for g in (usual, close))
    assert b.longest_run_m < a.longest_run_m


def test_a_lawn_s_grid_is_typed(library):
    """A strip of 1.5 m in rows 30 cm apart has five of them; a finer one of 15 cm ten."""
    for apart, rows in ((0.3, 5), (0.15, 10)):
        garden = made(library, "+lawn", ("plots/lawn-3/apart_m", apart))
        laid = rows_of(garden.plot("lawn-3"), library)
        assert len(laid) == rows
        assert {round(b.across_m - a.across_m, 3) for a, b in pairwise(laid)} == {apart}


def test_drilled_pipe_is_drilled_as_it_was_typed_and_its_holes_are_on_the_list(library):
    garden = made(library, ("plots/bed-1/method", "drilled"), ("plots/bed-1/openings_m", 0.25),
                  ("plots/bed-1/hole_mm", 2.0))
    runs = [o for o in garden.outlets if o.plot == "bed-1"]
    assert {o.spacing_m for o in runs} == {0.25}
    (told,) = [h for h in holes(garden, library) if h.what == "holes of the rows"]
    assert (told.mm, told.times) == (2.0, sum(o.points for o in runs))
    assert any(p.name.replace("\u00a0", " ") == "Drill bit, 2 mm"
               for p in assess(garden, library).parts)


@pytest.mark.parametrize("method", ["soaker", "tape", "drippers"])
def test_what_has_no_openings_to_choose_says_nothing_of_them(library, method):
    garden = made(library, ("plots/bed-1/openings_m", 0.5), ("plots/bed-1/method", method))
    assert "lay.openings" not in rules_of(garden, library)
