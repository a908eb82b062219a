"""Zones and lines counted by hand on small gardens, and what holds for any bed."""

import itertools
import math
from collections import Counter

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.construction.joints import head_assembly
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.assemble import zone_network
from euhydra.core.hydraulics.refilling import pipe_litres
from euhydra.core.hydraulics.surfaces import water_levels
from euhydra.core.hydraulics.zone_flow import solve_zone
from euhydra.core.hydraulics.zone_pipes import pipes_of
from euhydra.core.layout.rows import row_spacing_m
from euhydra.core.layout.zoning import LEVEL_BAND_M, outlet_z_m
from euhydra.data import library as load_library
from gardens import poured

FRUIT = BedAnswer(length_m=2.4, width_m=1.2, group="fruiting")


def zones(garden):
    return [set(z.plots) for z in garden.zones]


def test_like_beds_on_one_level_share_a_zone(library):
    garden = poured(library, beds=(FRUIT, FRUIT, FRUIT), pots=0)
    assert zones(garden) == [{"bed-1", "bed-2", "bed-3"}]


def test_thirst_method_level_and_pots_part_zones(library):
    garden = poured(library, beds=(FRUIT, FRUIT), pots=3)
    assert zones(garden) == [{"bed-1", "bed-2"}, {"pots-1"}]
    leafy = SetValue("plots/bed-2/plantings/p1/crop", "lettuce").apply(garden, library)
    assert zones(leafy) == [{"bed-1"}, {"bed-2"}, {"pots-1"}]
    soaker = SetValue("plots/bed-2/method", "soaker").apply(garden, library)
    assert zones(soaker) == [{"bed-1"}, {"bed-2"}, {"pots-1"}]
    lower = SetValue("plots/bed-2/ground_m", -LEVEL_BAND_M - 0.01).apply(garden, library)
    assert zones(lower) == [{"bed-1"}, {"bed-2"}, {"pots-1"}]
    nearly = SetValue("plots/bed-2/ground_m", -LEVEL_BAND_M + 0.01).apply(garden, library)
    assert zones(nearly) == [{"bed-1", "bed-2"}, {"pots-1"}]


def test_a_zone_keeps_its_pipe_when_the_garden_is_laid_anew(library):
    garden = SetValue("zones/zone-bed-1/supply_tube", "poly-25").apply(poured(library), library)
    longer = SetValue("plots/bed-1/length_m", 5.0).apply(garden, library)
    assert longer.zones[0].supply_tube == "poly-25"
    assert {x.tube for x in longer.lines if x.role == "supply"} >= {"poly-25", "poly-16"}


def test_one_bed_counted_by_hand(library):
    """2.4 × 1.2 m of raised mix: three rows of eight off a header at the near end."""
    garden = poured(library, beds=(FRUIT,), pots=0, distance_m=4.0)
    roles = Counter(line.role for line in garden.lines)
    assert roles == {"supply": 1, "header": 3, "dripline": 3}
    lengths = {line.id: line.length_m for line in garden.lines}
    # Barrels at (5.5, 0), bed from (9.5, 0.3): level with the ways, 3.85 m east and 0.9 m north to
    # its gate 0.15 m west of the middle row; outlet 0.98 m over the bed's ground. From the gate
    # 0.2 m in and 0.2 m up to the rim. Rows 0.4 m apart, 5 cm from each end.
    assert lengths["bed-1-gate-pipe"] == pytest.approx(math.hypot(3.85 + 0.9, 0.98), abs=1e-3)
    assert lengths["bed-1-branch"] == pytest.approx(math.hypot(0.2, 0.2), abs=1e-3)
    assert lengths["bed-1-header1"] == lengths["bed-1-header3"] == pytest.approx(0.4)
    assert [lengths[f"bed-1-row{i}"] for i in (1, 2, 3)] == [pytest.approx(2.3)] * 3
    assert all(o.points == 8 for o in garden.outlets)
    kinds = Counter(f.kind for f in garden.fittings)
    # The branch parts into three: two tees. The supply turns north once and into the bed once.
    # The two outer rows leave the header's ends at a corner each.
    assert kinds["barb-tee"] == 2
    assert kinds["barb-elbow"] == 4
    assert kinds["flush-end"] == 3
    assert kinds["splitter"] == 0


def test_the_head_stands_in_order_and_splits_only_for_several(library):
    single = poured(library, beds=(FRUIT,), pots=0)
    roles = [p.role for p in head_assembly(single, library, single.zones[0])]
    assert roles == ["inlet", "thread", "timer", "filter", "adapter"]
    several = poured(library)
    roles = [p.role for p in head_assembly(several, library, several.zones[0])]
    assert roles == ["inlet", "thread", "splitter", "timer", "filter", "adapter"]


def test_pipe_holds_its_bore_times_its_length(library):
    garden = poured(library, beds=(), pots=1)
    zone = garden.zones[0]
    by_hand = sum(math.pi / 4 * (library.tubes[x.tube].bore_mm / 1000) ** 2 * x.length_m * 1000
                  for x in garden.lines)
    assert pipe_litres(pipes_of(garden, zone), library) == pytest.approx(by_hand, rel=1e-3)


def test_the_network_has_every_fitting_in_order(library):
    garden = poured(library)
    zone = garden.zones[0]
    network = zone_network(pipes_of(garden, zone), library, 5.0)
    kinds = {f.id: f.kind for f in garden.fittings}
    assert [kinds[x.id] for x in network.losses] == ["barrel-outlet", "splitter", "timer",
                                                     "filter-screen"]
    assert [n.id for n in network.nodes if n.fixed_head_m is not None] == ["zone-bed-1-source"]
    points = sum(o.points for o in garden.outlets if o.plot in zone.plots)
    assert len(network.emitters) == points
    pipes = sum(p.length_m for p in network.pipes)
    assert pipes == pytest.approx(sum(x.length_m for x in garden.lines if x.zone == zone.id),
                                  rel=1e-3)


BED = st.builds(BedAnswer, length_m=st.floats(0.3, 30), width_m=st.floats(0.2, 6),
                group=st.sampled_from(["leafy", "fruiting", "roots", "legumes", "berries"]))


@settings(deadline=None, max_examples=25)
@given(st.lists(BED, min_size=1, max_size=5), st.sampled_from(["soaker", "dripline", "drippers"]))
def test_rows_of_any_bed_stay_inside_it_and_evenly_apart(beds, method):
    library = load_library()
    garden = poured(library, beds=tuple(beds), method=method, pots=0)
    for bed in garden.plots:
        across = [p.y_m for line in garden.lines if line.plot == bed.id
                  and line.role in ("soaker", "dripline", "lateral") for p in line.course]
        if bed.width_m > bed.length_m:  # rows run along the longer side
            return
        rows = sorted(set(across))
        assert rows
        assert rows[0] > bed.corner.y_m
        assert rows[-1] < bed.corner.y_m + bed.width_m
        gaps = [b - a for a, b in itertools.pairwise(rows)]
        apart = row_spacing_m(bed, library) if method == "drippers" else bed.width_m / len(rows)
        assert all(g == pytest.approx(apart, abs=2e-3) for g in gaps)
        assert rows[0] - bed.corner.y_m == pytest.approx(
            bed.corner.y_m + bed.width_m - rows[-1], abs=2e-3)
        for run in (o for o in garden.outlets if o.plot == bed.id):
            line = next(x for x in garden.lines if x.id == run.line)
            assert run.first_m >= 0
            assert run.first_m + (run.points - 1) * run.spacing_m <= line.length_m + 1e-6


@settings(deadline=None, max_examples=10)
@given(st.floats(0, 1.5), st.floats(0.05, 1.0))
def test_a_higher_stand_never_lowers_any_flow(stand_m, more_m):
    library = load_library()
    low, high = (poured(library, stand_m=s, pots=6) for s in (stand_m, stand_m + more_m))
    for below, above in zip(low.zones, high.zones, strict=True):
        before = solve_zone(low, library, below, water_levels(low)["half"])
        after = solve_zone(high, library, above, water_levels(high)["half"])
        for a, b in zip(before.outlets, after.outlets, strict=True):
            assert b.flow_l_h >= a.flow_l_h - 1e-3


def test_levels_of_outlets(library):
    garden = poured(library, pots=2, pot_diameter_m=0.4)
    assert outlet_z_m(garden.plot("bed-1")) == pytest.approx(0.2)
    assert outlet_z_m(garden.plot("pots-1")) == pytest.approx(0.4)
