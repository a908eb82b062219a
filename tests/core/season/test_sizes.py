"""The sizing curve: each of its points is the season of the garden that has that many barrels."""

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.season.sizing import BARRELS_SHOWN, MOST_SHOWN, Sized
from gardens import poured


def edited(garden, library, *values):
    for path, value in values:
        garden = SetValue(path, value).apply(garden, library)
    return garden


@pytest.fixture(scope="module")
def linked(library):
    """Two barrels, and a larger one beside them that shares their level; a timer that opens."""
    garden = poured(library)
    for edit in (Add("store"), Add("joint"), SetValue("site/years", 6),
                 SetValue("timers/timer/kind", "dial-ball")):
        garden = edit.apply(garden, library)
    return assess(edited(
        garden, library, (f"stores/{garden.stores[1].id}/volume_l", 400.0),
        (f"joints/{garden.joints[0].id}/kind", "link")), library)


def same(one, other):
    for name in Sized.__dataclass_fields__:
        assert getattr(one, name) == pytest.approx(getattr(other, name), rel=1e-6), name


@pytest.mark.parametrize("count", [1, 3, 5])
def test_a_point_of_the_curve_is_the_season_of_that_garden(linked, library, count):
    path = f"stores/{linked.garden.stores[0].id}/count"
    other = assess(edited(linked.garden, library, (path, count)), library)
    assert other.usable_l != linked.usable_l or count == linked.garden.stores[0].count
    same(linked.sizes.with_barrels(count), Sized.of(other.season, other.reached))


def test_a_tank_filled_by_hand_keeps_its_mark_at_any_size(linked, library):
    store = f"stores/{linked.garden.stores[0].id}"
    garden = edited(linked.garden, library, (f"{store}/hand_filled", True),
                    (f"{store}/refill_at", 0.4))
    other = assess(edited(garden, library, (f"{store}/count", 4)), library)
    assert Sized.of(other.season, other.reached).fills > 0
    same(assess(garden, library).sizes.with_barrels(4), Sized.of(other.season, other.reached))


def test_the_curve_shows_some_more_than_stand_there_and_the_dry_spell_s(linked, library):
    sizes = linked.sizes
    assert sizes.counts[0] == 1
    ruled = next(rule for rule in sizes.rules if rule.key == "dry-spell").barrels
    own = linked.garden.store.count
    assert sizes.counts[-1] == max(BARRELS_SHOWN, own + 3, min(MOST_SHOWN, np.ceil(ruled) + 1))
    many = assess(SetValue(f"stores/{linked.garden.stores[0].id}/count", 20).apply(
        linked.garden, library), library)
    assert many.sizes.counts[-1] == 23
    assert many.sizes.counts[many.sizes.own] == 20


def test_five_in_a_hundred_of_a_year_s_yield_or_demand(linked):
    sizes = linked.sizes
    a_year = [float(x.sum()) / linked.years for x in (sizes.inflow_l, sizes.asked_l)]
    assert sizes.rule_sizes_l["five-percent"] == pytest.approx(0.05 * min(a_year))


def test_litres_in_all_part_among_banks_that_do_not_share_a_level(library):
    garden = Add("store").apply(poured(library), library)
    apart = assess(garden, library).sizes
    whole = apart._sizes(1)
    assert len(whole) == 2
    mine = apart.banks.of_store[garden.stores[0].id]
    rest = sum(whole) - whole[mine]
    for litres in (rest / 4, rest, rest + 300.0):
        parted = apart._in_all(litres)
        assert sum(parted) == pytest.approx(litres)
        assert parted[mine] == pytest.approx(max(litres - rest, 0))


def test_barrels_for_so_many_litres_beside_a_store_that_stays(linked):
    sizes = linked.sizes
    beside = 2 * sum(sizes._sizes(1)) - sum(sizes._sizes(2))
    assert beside > 100, "the larger one beside them"
    assert [sizes._barrels(sum(sizes._sizes(n))) for n in (1, 2, 5)] == pytest.approx([1, 2, 5])
    assert sizes._barrels(beside / 2) == 0


def test_the_curve_goes_one_past_the_dry_spell_s_barrels(linked, library):
    store = f"stores/{linked.garden.stores[0].id}"
    small = assess(edited(linked.garden, library, (f"{store}/volume_l", 60.0),
                          (f"{store}/count", 1)), library).sizes
    ruled = next(rule for rule in small.rules if rule.key == "dry-spell").barrels
    assert BARRELS_SHOWN < np.ceil(ruled) + 1 < MOST_SHOWN
    assert small.counts[-1] == np.ceil(ruled) + 1
