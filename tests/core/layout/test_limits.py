"""What pipe and source carry, and zones parted so that neither is asked for more."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.values import SetValue
from euhydra.core.layout import capacity
from euhydra.core.layout.zoning import parted_by
from gardens import poured
from plans import sixty_beds


def asked(garden, library, zone):
    most = capacity.carries_l_h(garden, library, zone.source, zone.supply_tube)
    return sum(capacity.asked_l_h(garden, library, zone, most).values()), most


def test_sixty_beds_are_parted_to_what_half_inch_pipe_carries(library):
    garden = sixty_beds(library)
    assert sorted(len(z.plots) for z in garden.zones) == [15, 15, 15, 15]
    for zone in garden.zones:
        flow, most = asked(garden, library, zone)
        assert flow <= most == capacity.HALF_INCH_L_H
    one, other = (garden.plot(garden.zones[i].plots[0]) for i in (0, 1))
    assert parted_by(garden, library, one, other) == ("flow",)


def test_a_wider_pipe_puts_them_together_again(library):
    garden = sixty_beds(library)
    first = garden.zones[0].id
    wide = SetValue(f"zones/{first}/supply_tube", "poly-25").apply(garden, library)
    assert len(next(z for z in wide.zones if z.id == first).plots) == 30


def test_what_a_hand_put_together_stays_so(library):
    garden = sixty_beds(library)
    apart = next(z for z in garden.zones if z.id != garden.zones[0].id and parted_by(
        garden, library, garden.plot("bed-1"), garden.plot(z.plots[0])) == ("flow",))
    joined = SetValue(f"plots/{apart.plots[0]}/opens_with", "bed-1").apply(garden, library)
    assert len(next(z for z in joined.zones if "bed-1" in z.plots).plots) == 30


def test_no_loss_on_the_way_is_the_most_that_a_barrel_s_outlets_give(kiln):
    for zone in kiln.garden.timed_zones:
        flow, _ = asked(kiln.garden, kiln.library, zone)
        assert kiln.flows[zone.id]["full"].flow_l_h <= flow * 1.001


def test_a_slow_tap_parts_what_a_fast_one_carries(library):
    """Four fifths of a bucket test is planned with: common practice."""
    beds = tuple(BedAnswer(length_m=3.0, width_m=1.2, group="leafy") for _ in range(4))
    garden = poured(library, tap=True, pots=0, beds=beds)
    for path, value in (("taps/tap/tops_up", ""), ("taps/tap/bucket_s", 60.0),
                        *((f"plots/{p.id}/fed_by", "tap") for p in garden.plots)):
        garden = SetValue(path, value).apply(garden, library)
    tap = garden.tap_of("tap")
    assert capacity.carries_l_h(garden, library, "tap", "poly-16") == pytest.approx(
        0.8 * tap.bucket_l / 60 * 3600)
    assert len(garden.zones) == 1
    slow = SetValue("taps/tap/bucket_s", 200.0).apply(garden, library)
    assert [len(zone.plots) for zone in slow.zones] == [2, 2]


@given(st.lists(st.floats(0, 900), min_size=1, max_size=30))
def test_parts_hold_every_plot_in_order_within_the_flow(flows):
    plots = [f"p{i}" for i in range(len(flows))]
    parts = capacity.parted(plots, dict(zip(plots, flows, strict=True)), 750.0)
    assert [p for part in parts for p in part] == plots
    of = dict(zip(plots, flows, strict=True))
    assert all(len(part) == 1 or sum(of[p] for p in part) <= 750.0 + 1e-3 for part in parts)
    assert all(parts)
