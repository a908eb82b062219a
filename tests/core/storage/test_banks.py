"""Stores of unlike shapes on unlike levels that share one level of water."""

import math
from typing import get_args

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core import storage
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Joint, Point, Store
from gardens import poured


def store(name: str, **sizes: object) -> Store:
    return Store.model_validate({"id": name, "name": name, "at": Point(x_m=0, y_m=0),
                                 "stand_m": 0.0, "outlet_m": 0.0} | sizes)


def joined(library, stores, *joints):
    garden = poured(library)
    spout = garden.roofs[0].downspouts[0].model_copy(update={"to": stores[0].id})
    roof = garden.roofs[0].model_copy(update={"downspouts": (spout,)})
    return garden.model_copy(update={
        "stores": tuple(stores), "roofs": (roof,), "zones": tuple(
            z.model_copy(update={"source": stores[0].id}) for z in garden.zones),
        "joints": tuple(Joint(id=f"j-{i}", name=f"j {i}", kind=kind, a=a, b=b, end_m=end)
                        for i, (kind, a, b, end) in enumerate(joints))})


# Three unlike barrels: 200 L and 1.0 m high (0.2 m²), a box of 300 L and 0.75 m (0.4 m²), both on
# the ground at 0; 100 L and 0.5 m (0.2 m²) on a step at 0.4 m. Siphons end 5 cm over each base.
THREE = (store("tall", volume_l=200, height_m=1.0),
         store("box", volume_l=300, height_m=0.75, shape="box"),
         store("step", volume_l=100, height_m=0.5, ground_m=0.4))
SIPHONS = (("siphon", "tall", "box", 0.05), ("siphon", "tall", "step", 0.05))


def test_three_unlike_barrels_on_two_levels_share_one_level(library):
    bank = storage.banks_of(joined(library, THREE, *SIPHONS)).banks[0]
    # The box's rim, at 0.75 m, is the lowest: tall 150 L, box 300 L, step 0.35 m × 0.2 m² = 70 L.
    assert bank.full_z_m == pytest.approx(0.75)
    assert bank.held_l(0.75) == pytest.approx((150, 300, 70))
    assert bank.idle_l == pytest.approx(200 + 100 - 150 - 70)
    # The lines draw from tall, whose outlet is at its base: the box keeps 5 cm (20 L), the step
    # 5 cm (10 L).
    assert bank.usable_l == pytest.approx(520 - 20 - 10)
    # 300 L of that left: at z the bank holds 0.2 z + 0.4 z over the ground, and 0.2 (z − 0.4) on
    # the step once z is past 0.45: 0.8 z − 0.08 = 0.330, so z = 0.5125 m.
    assert bank.level_z_m(300) == pytest.approx(0.5125, abs=1e-3)
    # 150 L left: under the step's siphon only two share: 0.6 z = 0.150 + 0.020, so z = 0.2833 m.
    assert bank.level_z_m(150) == pytest.approx((0.150 + 0.020) / 0.6, abs=1e-3)


def test_a_bank_s_curve_bends_where_a_joint_ends_and_where_a_store_is_full(library):
    """Its levels are exact at the step's siphon (0.45 m) and at the box's (0.05 m)."""
    bank = storage.banks_of(joined(library, THREE, *SIPHONS)).banks[0]
    levels, litres = bank.curve
    for z, held in ((0.05, 10.0), (0.45, 0.6 * 450 - 20)):
        assert litres[np.flatnonzero(np.isclose(levels, z, atol=1e-12))] == pytest.approx([held])


def test_a_store_that_stands_over_the_lowest_rim_never_fills(library):
    high = store("high", volume_l=200, height_m=1.0, ground_m=2.0)
    low = store("low", volume_l=200, height_m=1.0)
    bank = storage.banks_of(joined(library, (low, high), ("link", "low", "high", 0.0))).banks[0]
    assert bank.held_l(bank.full_z_m) == pytest.approx((200, 0))
    assert bank.idle_l == pytest.approx(200)


def test_the_sequent_peak_begins_full_and_counts_the_first_draw():
    """Full at first: 5 out, 3 in, 4 out, then 9 in: 5 − 3 + 4 = 6 are lacked at the most."""
    assert storage.sequent_peak_l([0, 3, 0, 9, 0], [5, 0, 4, 0, 5]) == 6
    assert storage.sequent_peak_l([9, 0], [0, 5]) == 5
    assert storage.sequent_peak_l([0], [7]) == 7


def test_banks_stand_in_the_order_water_runs(library):
    a, b, c = (store(n, volume_l=100, height_m=1.0) for n in "abc")
    garden = joined(library, (a, b, c), ("overflow", "c", "b", 0), ("overflow", "b", "a", 0),
                    ("float", "c", "a", 0))
    banks = storage.banks_of(garden)
    assert [bank.id for bank in banks.banks] == ["c", "b", "a"]
    assert banks.over_to == (1, 2, -1)
    assert banks.feeds == ((0, 2),)


@given(st.lists(st.tuples(st.floats(20, 2000), st.floats(0.3, 2), st.floats(-1, 1),
                          st.sampled_from(["upright", "box", "lying"])), min_size=2, max_size=5),
       st.floats(0, 1))
def test_a_shared_level_makes_and_loses_no_water(library_sizes, share):
    from euhydra.data import library

    stores = tuple(store(f"s-{i}", volume_l=v, height_m=h, ground_m=g, shape=shape)
                   for i, (v, h, g, shape) in enumerate(library_sizes))
    links = [("siphon", stores[0].id, s.id, 0.02) for s in stores[1:]]
    bank = storage.banks_of(joined(library(), stores, *links)).banks[0]
    usable = share * bank.usable_l
    held = sum(bank.held_l(bank.level_z_m(usable)))
    left_behind = sum(bank.held_l(min(bank.outlet_z_m, bank.full_z_m)))
    assert held - left_behind == pytest.approx(usable, abs=0.02 + 1e-3 * bank.usable_l)
    assert bank.capacity_l <= sum(storage.total_l(s) for s in stores) + 1e-6


def test_a_lying_tank_by_its_segment():
    tank = store("tank", volume_l=1000, height_m=0.8, shape="lying")
    # Half full at half its height; at a quarter of its height the segment's closed form,
    # (π/3 − √3/4) / π = 0.19550 (geometry).
    assert storage.volume_at(tank, 0.4) == pytest.approx(500)
    assert storage.volume_at(tank, 0.2) == pytest.approx(1000 * (math.pi / 3 - math.sqrt(3) / 4)
                                                         / math.pi)
    assert storage.length_m(tank) == pytest.approx(1.0 / (math.pi * 0.16))


@given(st.sampled_from(["upright", "box", "lying"]), st.floats(0, 1))
def test_dip_and_volume_are_each_other_s_inverse(shape, share):
    tank = store("t", volume_l=600, height_m=0.9, shape=shape)
    dip = share * 0.9
    assert storage.dip_at(tank, float(storage.volume_at(tank, dip))) == pytest.approx(dip, abs=2e-6)
    assert (np.diff(storage.volume_at(tank, np.linspace(0, 0.9, 50))) > 0).all()


def test_several_stores_close_their_books_and_each_gives_its_own_plots(library):
    stores = (store("main", volume_l=210, height_m=0.9, count=2, outlet_m=0.08, stand_m=2.0),
              store("tote", volume_l=600, height_m=1.0, shape="box", outlet_m=0.05, stand_m=1.0),
              store("spare", volume_l=210, height_m=0.9, stand_m=0.5))
    garden = joined(library, stores, ("overflow", "main", "tote", 0), ("float", "tote", "spare", 0))
    garden = SetValue("plots/bed-2/fed_by", "tote").apply(garden, library)
    garden = SetValue("plots/pots-1/fed_by", "spare").apply(garden, library)
    a = assess(garden, library)
    season = a.season
    assert [bank.name for bank in a.banks.banks] == ["main", "tote", "spare"]
    given_l = [season.given[season.world.bank == i].sum() for i in range(3)]
    assert min(given_l) > 0
    book = (season.start.sum() + season.world.inflow.sum() - season.rain.sum()
            - season.over.sum() - season.emptied.sum() - season.end.sum())
    assert abs(book) < 0.1 * a.years
    # Without the chain the tote has no roof, and its plots nothing.
    bare = a.revised(garden.model_copy(update={"joints": ()}))
    assert bare.season.given[season.world.bank > 0].sum() < 1e-6


def test_every_shape_a_store_may_have_is_a_record_and_fills_without_a_jump(library):
    """Its record, its list, and by property: as it fills from base to brim the dip follows."""
    shapes = get_args(Store.model_fields["shape"].annotation)
    assert set(shapes) == set(storage.SHAPES)
    barrel = poured(library).store
    for key in shapes:
        held = barrel.model_copy(update={"shape": key})
        filled = storage.volume_at(held, np.linspace(0, held.height_m, 101))
        assert filled[0] == 0
        assert filled[-1] == pytest.approx(held.volume_l)
        assert np.diff(filled).min() > 0
        dip = storage.dip_at(held, float(filled[37]))
        assert dip == pytest.approx(0.37 * held.height_m, rel=1e-6)
        assert storage.base_area_m2(held) >= storage.footprint_m2(held) > 0
