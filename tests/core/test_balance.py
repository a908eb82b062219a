"""The balance by day: worked by hand, against a plain loop, and what must hold for any water."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from euhydra.core.storage import balance

DAILY = arrays(float, st.integers(5, 60), elements=st.floats(0, 400))
LITRES = st.floats(0, 300)


def plain_run(inflow, demand, sizes, over_to, feeds, start_share=0.5):
    """Yield after spillage for banks (banks, days) of one size each, one scalar at a time."""
    banks, days = inflow.shape
    level = [size * start_share for size in sizes]
    used, out, levels = np.zeros((banks, days)), 0.0, np.zeros((banks, days))
    for day in range(days):
        before = list(level)
        drawn = [min(demand[b, day], before[b]) for b in range(banks)]
        used[:, day] = drawn
        for a, b in feeds:
            fed = min(demand[b, day] - used[b, day], before[a] - drawn[a])
            used[b, day] += fed
            drawn[a] += fed
        spilt = [0.0] * banks
        for b in range(banks):
            there = before[b] - drawn[b] + inflow[b, day] + spilt[b]
            level[b] = min(there, sizes[b] - drawn[b])
            if over_to[b] >= 0:
                spilt[over_to[b]] += there - level[b]
            else:
                out += there - level[b]
        levels[:, day] = level
    return used, levels, out


def test_yield_after_spillage_by_hand():
    # Size 100, half full; five days worked by hand with Y = min(D, V₋), V = min(V₋+Q−Y, S−Y).
    kept = balance([0, 80, 60, 0, 0], [30, 30, 30, 30, 60], [100.0])
    assert kept.used_l.ravel().tolist() == [30, 20, 30, 30, 40]
    assert kept.level_l.ravel().tolist() == [20, 80, 70, 40, 0]
    assert kept.spilled_l.ravel().tolist() == [0, 0, 40, 0, 0]
    assert kept.reliability[0] == pytest.approx(150 / 180)
    assert kept.longest_dry_run[0] == 1


def test_an_overflow_chain_and_a_float_valve_by_hand():
    # A of 50 L spills into B of 40 L; B's plots draw on A through a float valve when B is empty.
    kept = balance([[60, 0, 0], [0, 0, 0]], [[10, 0, 0], [0, 30, 40]], [[50.0], [40.0]],
                   start_share=0.0, over_to=(1, -1), feeds=((0, 1),))
    # Day 1: nothing stands; 60 comes to A, 10 spills to B. Day 2: B gives 10, A 20. Day 3: A 30.
    assert kept.used_l[:, 0, :, 0].tolist() == [[0, 0, 0], [0, 30, 30]]
    assert kept.level_l[:, 0, :, 0].tolist() == [[50, 30, 0], [10, 0, 0]]
    assert kept.spilled_l.sum() == 0


def test_a_dry_run_lasts_through_days_without_a_need():
    kept = balance([0, 0, 0, 0, 50, 0], [10, 0, 10, 0, 10, 10], [10.0], start_share=1.0)
    assert kept.used_l.ravel().tolist() == [10, 0, 0, 0, 0, 10]
    assert kept.longest_dry_run[0] == 3


SYSTEMS = [((-1,), ()), ((-1, -1), ((0, 1),)), ((1, 2, -1), ()), ((2, 2, -1), ((2, 0), (2, 1)))]


@settings(deadline=None, max_examples=80)
@given(st.sampled_from(SYSTEMS), st.integers(1, 4), st.integers(1, 25), st.data())
def test_years_side_by_side_give_what_one_long_run_gives(system, years, days, data):
    over_to, feeds = system
    banks = len(over_to)
    flow, want = (data.draw(arrays(float, (banks, years, days), elements=LITRES))
                  for _ in range(2))
    sizes = data.draw(arrays(float, (banks, 3), elements=st.floats(0, 900)))
    kept = balance(flow, want, sizes, over_to=over_to, feeds=feeds)
    for i in range(3):
        used, levels, out = plain_run(flow.reshape(banks, -1), want.reshape(banks, -1),
                                      sizes[:, i], over_to, feeds)
        assert np.allclose(kept.used_l[..., i].reshape(banks, -1), used, atol=1e-5)
        assert np.allclose(kept.level_l[..., i].reshape(banks, -1), levels, atol=1e-5)
        assert kept.spilled_l[..., i].sum() == pytest.approx(out, abs=1e-4)


@given(DAILY, st.data(), st.sampled_from(["spillage", "before"]))
def test_a_store_holds_no_more_than_its_size_and_gives_no_more_than_asked(inflow, data, rule):
    demand = data.draw(arrays(float, len(inflow), elements=LITRES))
    sizes = np.array([50.0, 210.0, 1000.0])
    kept = balance(inflow, demand, sizes, rule=rule)
    level, used = kept.level_l[0, 0], kept.used_l[0, 0]
    assert (level >= -1e-9).all()
    assert (level <= sizes + 1e-9).all()
    assert (used <= demand[:, None] + 1e-9).all()
    assert (kept.spilled_l >= -1e-9).all()
    # It spills only on a day on which it was full at the brim, before or after drawing.
    brim = level + (used if rule == "spillage" else 0)
    assert (brim[kept.spilled_l[0] > 1e-6] >= np.broadcast_to(
        sizes, brim.shape)[kept.spilled_l[0] > 1e-6] - 1e-6).all()


@given(DAILY, st.data())
def test_a_bigger_tank_never_gives_less(inflow, data):
    demand = data.draw(arrays(float, len(inflow), elements=LITRES))
    kept = balance(inflow, demand, np.array([50.0, 60.0, 210.0, 1000.0]))
    assert (np.diff(kept.reliability) >= -1e-9).all()
    assert (np.diff(kept.overflow_share) * inflow.sum() <= 1e-9).all()
