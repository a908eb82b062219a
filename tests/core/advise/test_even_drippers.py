"""So many drippers to a pot that one run serves all alike: as few as do."""

import itertools
import math

from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.advise.even_drippers import WITHIN, Served, apart, fewest_even
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.stations.time import peak_month
from euhydra.core.stations.uneven_pots import pot_shares
from gardens import made, rules_of

BIG_AND_SMALL = ("+pots", ("plots/pots-3/count", 4), ("plots/pots-3/diameter_m", 0.3),
                 ("plots/pots-1/diameter_m", 0.2))
rows = st.dictionaries(st.sampled_from("abc"), st.builds(
    Served, st.integers(1, 12), st.integers(1, 3), st.floats(0.1, 3.0)), min_size=1)


def by_trying(rows, most):
    """Every number of drippers in every row; the fewest that are even."""
    found = math.inf
    for each in itertools.product(range(1, most + 1), repeat=len(rows)):
        shares = [row.at(n) for row, n in zip(rows.values(), each, strict=True)]
        if apart(shares) <= WITHIN:
            found = min(found, sum(r.pots * n for r, n in zip(rows.values(), each, strict=True)))
    return found


@given(rows, st.integers(1, 5))
def test_none_fewer_do(rows, most):
    each = fewest_even(rows, most)
    count = math.inf if each is None else sum(rows[k].pots * n for k, n in each.items())
    assert count == by_trying(rows, most)
    if each is not None:
        assert apart([rows[k].at(n) for k, n in each.items()]) <= WITHIN


def test_two_to_three():
    """One wants half as much again: two drippers and three."""
    assert fewest_even({"small": Served(4, 1, 1.5), "big": Served(2, 1, 1.0)}) == {
        "small": 2, "big": 3}
    assert fewest_even({"small": Served(4, 1, 1.05), "big": Served(2, 1, 1.0)}) == {
        "small": 1, "big": 1}
    assert fewest_even({"a": Served(1, 1, 100.0), "b": Served(1, 1, 1.0)}) is None


def test_big_and_small_pots_on_one_run_get_their_drippers_as_one_edit(library):
    garden = made(library, *BIG_AND_SMALL)
    a = assess(garden, library)
    zone = next(z for z in garden.zones if {"pots-1", "pots-3"} <= set(z.plots))
    before = pot_shares(a, zone, peak_month(a))
    assert apart(list(before.values())) > WITHIN
    found = rules_of(garden, library)["time.uneven-pots"]
    then = a.after(found.remedies[0].edit)
    home = next(z for z in then.garden.zones if "pots-1" in z.plots)
    assert apart(list(pot_shares(then, home, peak_month(then)).values())) < apart(
        list(before.values()))
    assert "time.uneven-pots" not in rules_of(then.garden, library)
    assert then.garden.plot("pots-3").each > then.garden.plot("pots-1").each


def test_pots_alike_say_nothing(library):
    assert "time.uneven-pots" not in rules_of(made(library, "+pots"), library)


def test_more_drippers_than_one_valve_carries_are_not_offered(library):
    """Two rows of sixty on a tap: three drippers in each large pot part them, two valves then."""
    garden = made(library, "+pots", *((f"plots/{row}/{key}", value) for row, wide in (
        ("pots-1", 0.2), ("pots-3", 0.34)) for key, value in (
            ("count", 60), ("diameter_m", wide), ("dripper", "plain-4"))), waters=("tap",))
    found = rules_of(garden, library)["time.uneven-pots"]
    assert list(found.remedies) == []
    parted = SetValue("plots/pots-3/each", 3).apply(garden, library)
    assert not any({"pots-1", "pots-3"} <= set(z.plots) for z in parted.zones)
