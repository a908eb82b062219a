"""A list of beds as a gardener keeps one, pasted in."""

from contextlib import suppress

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from euhydra.core.editing.pasted_beds import AddBeds, PastedBed, beds_pasted
from euhydra.core.editing.trees import EditRefused
from euhydra.core.parsing import BadEntry
from euhydra.data import library as load_library
from gardens import poured

NINE = """Bed\tLength (ft)\tWidth (ft)\tCrop
North bed\t8\t4\tTomatoes
Salad corner\t6 ft 6 in\t3\tlettuce
Canes\t12\t30 in\traspberries
Spare\t8\t4
"""


def test_heads_units_plurals_and_a_bed_without_a_crop(library):
    assert beds_pasted(NINE, "metric", library) == (
        PastedBed("North bed", pytest.approx(8 * 0.3048), pytest.approx(4 * 0.3048), "tomato"),
        PastedBed("Salad corner", pytest.approx(6.5 * 0.3048), pytest.approx(0.9144), "lettuce"),
        PastedBed("Canes", pytest.approx(12 * 0.3048), pytest.approx(0.762), "raspberry"),
        PastedBed("Spare", pytest.approx(8 * 0.3048), pytest.approx(4 * 0.3048), "lettuce"))


@pytest.mark.parametrize(("line", "system", "length", "width"), [
    ("Herbs, 2.4, 1.2, basil", "metric", 2.4, 1.2), ("Herbs, 8, 4, basil", "us", 2.4384, 1.2192),
    ("Herbs; 2.4 x 1.2 m; basil", "us", 2.4, 1.2), ("Herbs | 8 × 4 ft | basil", "metric", 2.4384,
                                                    1.2192),
    ("Herbs  240 cm  120 cm  basil", "metric", 2.4, 1.2)])
def test_a_size_in_any_dress(library, line, system, length, width):
    assert beds_pasted(line, system, library) == (
        PastedBed("Herbs", pytest.approx(length), pytest.approx(width), "basil"),)


@pytest.mark.parametrize(("typed", "says"), [
    ("", "Nothing pasted"), ("Bed, length, width", "Nothing pasted"),
    ("Herbs, 2.4", "Line 1 has 2 cells"), ("A, 2, 1\nB, wide, 1", "Line 2: “wide”"),
    ("A, 2, 1, tomatoe vine", "is no crop known here"), ("A, 2, 1, aubergin", "Near it: Aubergine"),
    ("A, 900, 1", "Line 1: “900”"), ("\n".join(["A, 2, 1"] * 61), "61 lines are too many")])
def test_what_cannot_be_read_is_answered_by_its_line(library, typed, says):
    with pytest.raises(BadEntry) as refused:
        beds_pasted(typed, "metric", library)
    assert says in refused.value.why.replace("\u00a0", " ")


def test_they_stand_beside_what_is_there_and_are_watered_alike(library):
    garden = poured(library, method="soaker", stand_m=1.0)
    beds = beds_pasted("\n".join(f"Row {i}, 3, 0.9, peas" for i in range(8)), "metric", library)
    after = AddBeds(beds).apply(garden, library)
    new = after.plots[len(garden.plots):]
    assert [p.name for p in new] == [f"Row {i}" for i in range(8)]
    assert {(p.method, p.rim_m, p.ground_m) for p in new} == {
        (garden.plots[0].method, garden.plots[0].rim_m, garden.plots[0].ground_m)}
    assert len({(p.corner.x_m, p.corner.y_m) for p in new}) == 8
    assert min(p.corner.x_m for p in new) > max(p.corner.x_m + p.length_m for p in garden.plots)
    assert {z for p in new for z in after.zones if p.id in z.plots}
    assert new[0].plantings[0].planted != garden.plots[0].plantings[0].planted, "peas go in early"
    with pytest.raises(EditRefused, match="more than a garden"):
        AddBeds(beds * 13).apply(garden, library)


LIBRARY = load_library()


@settings(max_examples=60, suppress_health_check=list(HealthCheck))
@given(st.text(st.characters(codec="utf-8"), max_size=60) | st.lists(st.sampled_from(
    ["Herbs", "2.4", "½", "x", "8 x 4", "-3", "1e400", "m", ",", "\t", "\n", "tomato", ";", "0"]),
    max_size=14).map(" ".join))
def test_anything_pasted_is_beds_or_an_answer(typed):
    with suppress(BadEntry, EditRefused):
        beds = beds_pasted(typed, "metric", LIBRARY)
        assert len(AddBeds(beds).apply(poured(LIBRARY), LIBRARY).plots) == 3 + len(beds)
