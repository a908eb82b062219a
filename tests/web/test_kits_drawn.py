"""The kits' drawings: to scale, whole on their sheet; beside them what is bought and drilled."""

import re
from itertools import pairwise

import pytest
from test_drawings import tree

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.things import things
from euhydra.core.editing.values import SetValue
from euhydra.web.drawings.scene import _apart
from euhydra.web.fields import Fields
from euhydra.web.panes.kits import whole_kits
from euhydra.web.sheet import Sheet
from gardens import all_sorts, made

LETTER_PX = 6.6  # a letter of 13 px text, on the wide side


def sheet_of(garden, library, units="metric", asked=""):
    garden = garden.model_copy(update={"units": units})
    return Sheet(assess(garden, library), Fields(garden, library), asked=asked)


def kits_of(garden, library, units="metric"):
    """By its id each thing that is drawn, with its panes."""
    first = whole_kits(sheet_of(garden, library, units))
    asked = [address.rpartition("=")[2] for address, _, _ in first[0].links.items]
    return {key: whole_kits(sheet_of(garden, library, units, key)) for key in asked}


@pytest.mark.parametrize("units", ["metric", "us"])
def test_every_kit_is_drawn_whole_with_its_parts_and_its_holes(library, units):
    garden = SetValue("stores/barrels/merged_mm", 80.0).apply(all_sorts(library), library)
    found = kits_of(garden, library, units)
    for kind in ("link", "overflow", "float"):
        joined = SetValue(f"joints/{garden.joints[0].id}/kind", kind).apply(garden, library)
        found[kind] = whole_kits(sheet_of(joined, library, units, f"joint:{garden.joints[0].id}"))
    kinds = {t.kind or t.sort for t in things(garden, library) if f"{t.sort}:{t.id}" in found}
    assert {"transfer", "siphon", "merged", "gutter", "chain", "float-pots", "tower",
            "pots", "bags", "upright", "drum",
            "rain-garden", "pump"} <= kinds
    for key, panes in found.items():
        drawn = tree(panes[1].drawing)
        _, _, wide, high = map(float, drawn.get("viewBox").split())
        up = float(re.search(r"translate\(0 (-?[\d.]+)\)", drawn.find("g").get("transform"))[1])
        for text in drawn.iter("text"):
            x, y = float(text.get("x")), float(text.get("y")) + up
            assert 10 < y < high, (key, text.text)
            if text.get("text-anchor") is None:
                assert x + LETTER_PX * len(text.text) <= wide + 12, (key, text.text)
        assert panes[2].table.rows, key


def test_a_bucket_its_gutter_and_the_ruler_are_on_one_scale(library):
    garden = made(library, "+gutter")
    row = garden.plots[-1]
    drawn = tree(kits_of(garden, library)[f"plot:{row.id}"][1].drawing)
    bucket = next(e for e in drawn.iter("rect") if e.get("class") == "d-barrel")
    scale = float(bucket.get("height")) / row.height_m
    assert float(bucket.get("width")) == pytest.approx(row.diameter_m * scale, abs=0.2)
    water = next(e for e in drawn.iter("rect") if e.get("class") == "d-water")
    assert float(water.get("width")) == pytest.approx(row.gutter_mm / 1000 * scale, abs=0.2)
    assert float(water.get("height")) == pytest.approx(row.water_m * scale, abs=0.2)
    said = next(t.text for t in drawn.iter("text") if t.text.endswith("to scale"))
    ruler = [e for e in drawn.iter("path") if e.get("class") == "d-thin"][-1].get("d")
    x0, x1 = map(float, re.match(r"M([\d.]+) [\d.]+H([\d.]+)", ruler).groups())
    assert (x1 - x0) / scale == pytest.approx(float(re.match(r"[\d.]+", said)[0]) / 100, abs=0.002)


def test_holes_are_told_with_the_country_s_own_saws(library):
    garden = made(library, "+gutter")
    kit = f"plot:{garden.plots[-1].id}"
    holes = {units: {row[0]: row[3].replace("\u00a0", " ")
                     for row in kits_of(garden, library, units)[kit][-1].table.rows}
             for units in ("metric", "us")}
    assert holes["metric"]["net pot"] == "saw of 76 mm"
    assert holes["us"]["net pot"] == "saw of 3 in"
    assert holes["us"]["air holes"] == "drill of 1/4 in"


def test_notes_keep_apart_and_near_what_they_are_about():
    places = _apart([100.0, 101.0, 102.0, 300.0])
    assert all(b - a >= 34 for a, b in pairwise(places))
    assert sum(places) == pytest.approx(603.0)


def test_a_garden_of_beds_on_a_tap_has_no_kit(library):
    garden = made(library, waters=("tap",), pots=0)
    assert whole_kits(sheet_of(garden, library))[0].words.startswith("Nothing in this garden")
