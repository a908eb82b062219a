"""The log followed through a year: its barrels by rain and dips, a change's two sides, the end."""

import datetime as dt

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.log import Entry
from euhydra.core.log.compare import before_and_after
from euhydra.core.log.levels import caught_l_mm, drawn_l_day, followed
from euhydra.core.log.year_end import year_end, years_of
from gardens import poured

FIRST, LAST = dt.date(2026, 6, 1), dt.date(2026, 8, 31)


def entry(day, kind, about="", value=None, word="", note="", i=[0]):  # noqa: B006
    i[0] += 1
    return Entry(f"entry-{i[0]:06d}", day, kind, about, value, word, note)


@pytest.fixture(scope="module")
def garden(library):
    return assess(poured(library, barrels=2, fall_m=3.0), library)


def day(n):
    return FIRST + dt.timedelta(days=n)


def follow(r, *entries):
    (bank,) = r.banks.banks
    return followed(r, bank, entries, FIRST, LAST)


rains = st.lists(st.tuples(st.integers(0, 90), st.floats(0, 80)), max_size=25)
dips = st.lists(st.tuples(st.integers(0, 90), st.floats(0, 0.9)), min_size=1, max_size=8)


@settings(max_examples=60)
@given(rains, dips, st.sampled_from([0.0, 9.0]))
def test_water_is_conserved_whatever_was_logged(garden, fell, dipped, leak):
    garden = garden.revised(SetValue(
        f"stores/{garden.garden.store.id}/leak_l_day", leak).apply(garden.garden, garden.tables))
    store = garden.garden.store.id
    f = follow(garden, *(entry(day(n), "rain", value=mm) for n, mm in fell),
               *(entry(day(n), "dip", store, m) for n, m in dipped))
    came = f.level_l[0] + f.caught_l.sum() + f.put_right_l
    went = f.given_l.sum() + f.spilled_l.sum() + f.leaked_l.sum()
    assert came == pytest.approx(f.level_l[-1] + went, abs=1e-6)
    assert (f.leaked_l.sum() > 0) <= (leak > 0)
    (bank,) = garden.banks.banks
    assert (f.level_l >= -1e-9).all()
    assert (f.level_l <= bank.usable_l + 1e-6).all()
    for at, litres in f.dips:
        assert f.level_l[at] == pytest.approx(litres)


def test_a_dry_week_takes_what_the_timer_draws_and_rain_gives_it_back(garden):
    store = garden.garden.store.id
    f = follow(garden, entry(FIRST, "dip", store, 0.85), entry(day(3), "rain", value=1.0))
    drawn, caught = drawn_l_day(garden, garden.garden.store, 5), caught_l_mm(
        garden, garden.garden.store)
    fall = np.diff(f.level_l[:6])
    assert fall == pytest.approx([-drawn, -drawn, caught - drawn, -drawn, -drawn])


def with_a_well(library, share, recovery_l_h=500.0):
    garden = Add("well").apply(poured(library, barrels=2, fall_m=3.0), library)
    for key, value in (("share", share), ("recovery_l_h", recovery_l_h)):
        garden = SetValue(f"wells/well-1/{key}", value).apply(garden, library)
    return assess(garden, library)


@pytest.mark.parametrize(("recovery_l_h", "of"), [(500.0, 0.5), (0.1, 0.0)])
def test_a_well_s_share_does_not_lower_the_barrels_and_stands_in_the_year(
        library, recovery_l_h, of):
    """Half of each draw where the well has it; 0.1 L/h are 2.4 L a day, all of them given."""
    whole, half = (with_a_well(library, share, recovery_l_h) for share in (0.0, 0.5))
    store = whole.garden.store
    asked = drawn_l_day(whole, store, 5)
    gives = asked * of or 2.4
    assert drawn_l_day(half, store, 5) == pytest.approx(asked - gives)
    f = follow(half, entry(FIRST, "dip", store.id, 0.7))
    assert np.diff(f.level_l[:4]) == pytest.approx([gives - asked] * 3)
    assert f.backups.well_l[1:4] == pytest.approx([gives] * 3)
    ended = year_end(half, [entry(FIRST, "dip", store.id, 0.7)], 2026, FIRST + dt.timedelta(3))
    assert {s.name: s.litres for s in ended.sources}["Wells"] == pytest.approx(3 * gives)


def test_nobody_dipped_so_nothing_is_followed(garden):
    assert follow(garden, entry(FIRST, "rain", value=5.0)) is None
    assert follow(garden, entry(FIRST - dt.timedelta(days=1), "dip", garden.garden.store.id, 0.5)
                  ) is None


def test_two_sides_of_a_change_hold_what_was_read_there(garden):
    zone = next(z for z in garden.garden.zones if "bed-1" in z.plots)
    change = entry(day(40), "changed", zone.id)
    entries = [change, *(entry(day(n), "soil", "bed-1", word=w) for n, w in (
        (10, "dry"), (20, "dry"), (39, "right"), (40, "muddy"), (45, "right"), (60, "right"))),
        entry(day(38), "flow", zone.id, 40.0), entry(day(50), "flow", zone.id, 30.0),
        entry(day(52), "flow", zone.id, 20.0), entry(day(50), "soil", "bed-none", word="dry"),
        entry(day(41), "rain", value=7.0)]
    rows = {row.label: row for row in before_and_after(garden.garden, entries, change, LAST)}
    assert rows["Felt or seen too dry"].before.value == 2
    assert rows["Felt or seen too dry"].after.value == 0
    assert rows["Felt right"].after.value == 2
    assert (rows["Flow read, mean"].before.value, rows["Flow read, mean"].after.value) == (40, 25)
    assert rows["Rain"].before is None
    assert rows["Rain"].after.value == 7
    again = entry(day(55), "changed", zone.id)
    rows = {row.label: row for row in before_and_after(garden.garden, [*entries, again], change,
                                                       LAST)}
    assert rows["Felt right"].after.value == 1  # the other is after the next change
    assert rows["Days looked at"].after.value == 15


def test_a_year_in_all(library):
    a = assess(poured(library, barrels=1, barrel_l=100.0, fall_m=3.0, tap=True), library)
    zone = a.garden.zones[0]
    a = a.after(SetValue(f"zones/{zone.id}/longer", -0.1))
    store = a.garden.store.id
    entries = [entry(FIRST, "dip", store, 0.3), entry(day(9), "changed", zone.id),
               entry(day(5), "leaf", "bed-1", word="crisp"), entry(day(8), "leaf", "bed-1",
                                                                    word="well"),
               entry(day(7), "lesson", note="Mulch {before} May"),
               entry(day(12), "harvest", "bed-1", 2.5), entry(dt.date(2025, 6, 1), "note")]
    assert years_of(entries) == [2026, 2025]
    told = year_end(a, entries, 2026, LAST)
    rain, topped = (next(s for s in told.sources if s.name == name)
                    for name in (a.banks.banks[0].name, "Taps, topping up"))
    drawn = sum(drawn_l_day(a, a.garden.store, day(n).month - 1) for n in range(1, 92))
    assert rain.litres + topped.litres == pytest.approx(drawn)
    assert topped.litres > 0  # it never rained
    assert not topped.spares_tap
    figures = {f.key: f.amount.value for f in told.figures}
    assert figures["year_picked"] == 2.5
    assert figures["year_hours"] == pytest.approx(drawn / 10 * 2.5 / 60)
    said = " ".join(p.show("metric") for p in told.failed)
    assert "crisp, seen once" in said
    assert "more than there was" not in said  # the tap filled in
    assert "well" not in said
    first, second = (p.show("metric") for p in told.lessons)
    assert first == "Mulch {before} May"
    assert "shorter than reckoned" in second
    assert year_end(a, entries, 2024, LAST) is None
    assert year_end(a, entries, 2025, LAST).sources == ()


def test_what_the_stores_had_not_is_told_by_who_filled_in_or_as_lacking(library):
    dry = assess(poured(library, barrels=1, barrel_l=100.0, fall_m=3.0), library)
    well = assess(Add("well").apply(dry.garden, library), library)
    entries = [entry(FIRST, "dip", dry.garden.store.id, 0.3)]
    ends = [year_end(r, entries, 2026, LAST) for r in (dry, well)]
    given = [{s.name: s.litres for s in told.sources} for told in ends]
    lacked = [f.amounts["v"].value for told in ends for f in told.failed]
    assert "Wells" not in given[0]
    assert given[1]["Wells"] > 0
    assert sum(given[1].values()) + sum(lacked[1:]) == pytest.approx(
        sum(given[0].values()) + lacked[0])
    assert ends[0].undipped == ()
    assert year_end(dry, [entry(FIRST, "note")], 2026, LAST).undipped == (
        dry.banks.banks[0].name,)
