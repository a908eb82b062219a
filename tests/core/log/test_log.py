"""Advice from the log: each rule where it should speak, and where it should hold its tongue."""

import datetime as dt
from dataclasses import replace

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from icalendar import Calendar

from euhydra.core import storage
from euhydra.core.advise.diagnosing.case import cases_of, signs_at
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.values import SetValue
from euhydra.core.log import KINDS, BadEntryOf, Entry
from euhydra.core.log.advice import (
    STEP,
    advice,
    votes,
)
from euhydra.core.log.coming import coming
from euhydra.core.log.entries import checked
from euhydra.core.log.levels import caught_l_mm, drawn_l_day
from euhydra.exports.ics import calendar_ics
from euhydra.exports.log_csv import BadTable, as_csv, as_zip, from_csv, from_zip
from gardens import poured

TODAY = dt.date(2026, 7, 20)


def ago(days):
    return TODAY - dt.timedelta(days=days)


def log(*rows):
    return tuple(Entry(f"entry-{i:04d}", ago(days), kind, about, **more)
                 for i, (days, kind, about, more) in enumerate(rows))


def felt(*days_and_words, about="bed-1"):
    return [(days, "soil", about, {"word": word}) for days, word in days_and_words]


@pytest.fixture(scope="module")
def garden(library):
    return assess(poured(library, barrels=2, fall_m=3.0), library)


def zone_of(r, plot="bed-1"):
    return next(z for z in r.garden.zones if plot in z.plots)


def rules(r, *rows):
    return {f.rule for f in advice(r, log(*rows), TODAY)}


def remedy(r, rule, *rows):
    return next(f for f in advice(r, log(*rows), TODAY) if f.rule == rule).remedies[0]


def test_two_muddy_readings_lower_the_run_and_one_does_not(garden):
    """A finger coated in mud: less. Common practice."""
    assert "keep.longer" not in rules(garden, *felt((2, "muddy")))
    edit = remedy(garden, "keep.longer", *felt((5, "muddy"), (2, "muddy"))).edit
    then = garden.after(edit)
    zone = zone_of(then)
    assert zone.longer == pytest.approx(-STEP)
    before, after = (r.schedule.needs[zone.id][6].minutes_a_day for r in (garden, then))
    assert after == pytest.approx(before * (1 - STEP))


def test_mud_after_heavy_rain_says_nothing_of_the_run(garden):
    rain = (3, "rain", "", {"value": 15.0})
    assert "keep.longer" not in rules(garden, rain, *felt((5, "muddy"), (2, "muddy")))
    drizzle = (3, "rain", "", {"value": 2.0})
    assert "keep.longer" in rules(garden, drizzle, *felt((5, "muddy"), (2, "muddy")))


def test_a_run_moves_once_a_week_and_only_on_what_was_felt_since(garden):
    zone = zone_of(garden).id
    muddy = felt((5, "muddy"), (2, "muddy"))
    assert "keep.longer" not in rules(garden, (1, "changed", zone, {}), *muddy)
    assert "keep.longer" not in rules(garden, (8, "changed", zone, {}),
                                      *felt((10, "muddy"), (9, "muddy"), (2, "muddy")))
    assert "keep.longer" in rules(garden, (8, "changed", zone, {}), *muddy)


def test_signs_that_part_move_nothing(garden):
    assert "keep.longer" not in rules(garden, *felt((5, "muddy"), (2, "dry")))
    assert "keep.longer" not in rules(garden, *felt((5, "muddy"), (2, "right")))
    assert "keep.longer" not in rules(garden, *felt((40, "muddy"), (2, "muddy")))


def test_drooping_leaves_alone_are_no_vote_and_yellow_ones_are(garden):
    """Drooping or crisp leaves: check for dry. Yellowing ones: too wet. Common practice."""
    zone = zone_of(garden)
    leaf = log((4, "leaf", "bed-1", {"word": "drooping"}), (3, "leaf", "bed-1", {"word": "yellow"}),
               (2, "leaf", "bed-1", {"word": "crisp"}))
    assert votes(zone, leaf, TODAY) == [-1, 1]


def test_two_dry_readings_lengthen_the_run_unless_the_roots_hold_no_more(garden, library):
    dry = felt((5, "dry"), (2, "dry"), about="bed-2")
    assert rules(garden, *dry) & {"keep.longer", "keep.oftener"} == {"keep.longer"}
    weekday = SetValue("timers/timer/kind", "weekday-ball").apply(garden.garden, library)
    rare = assess(SetValue("every_days", 7.0).apply(weekday, library), library)
    assert rules(rare, *dry) & {"keep.longer", "keep.oftener"} == {"keep.oftener"}
    oftener = rare.after(remedy(rare, "keep.oftener", *dry).edit)
    zone = zone_of(rare, "bed-2").id
    for r, rule in ((rare, "keep.oftener"), (garden, "keep.longer")):
        assert remedy(r, rule, *dry).moves == zone
    weekly = [a.schedule.settings[zone][3].runs_a_week for a in (rare, oftener)]
    assert weekly[1] > weekly[0]


def test_a_run_moves_no_further_than_its_bounds(garden, library):
    zone = zone_of(garden).id
    least = assess(SetValue(f"zones/{zone}/longer", -0.5).apply(garden.garden, library), library)
    assert "keep.no-further" in rules(least, *felt((5, "muddy"), (2, "muddy")))


def read(zone, *days_and_flows):
    return [(days, "flow", zone, {"value": flow}) for days, flow in days_and_flows]


def test_a_falling_flow_names_a_day_and_a_steady_one_none(garden):
    zone = zone_of(garden).id
    falling = read(zone, (40, 100.0), (20, 90.0), (0, 80.0))
    told = next(f for f in advice(garden, log(*falling), TODAY) if f.rule == "keep.blockage")
    assert "9 August" in told.why.show("metric")  # 10 L/h more, half a litre an hour a day
    assert "keep.blockage" not in rules(garden, *read(zone, (40, 100.0), (0, 95.0)))
    assert "keep.blockage" not in rules(garden, *read(zone, (40, 80.0), (0, 100.0)))
    assert "keep.blockage" not in rules(garden, *falling, (1, "filter", zone, {}))


def two_dips(r, first_l, then_l, days=10):
    store = r.garden.store
    levels = [r.banks.holding(store.id).level_z_m(v) - storage.base_z_m(store)
              for v in (first_l, then_l)]
    return ((days, "dip", store.id, {"value": levels[0]}), (0, "dip", store.id,
                                                            {"value": levels[1]}))


def dips(r, first_l, then_l, days=10, more=()):
    return rules(r, *two_dips(r, first_l, then_l, days), *more)


def test_a_dip_far_below_the_reckoning_is_a_leak_and_one_that_agrees_is_none(garden):
    usable = garden.usable_l
    taken = drawn_l_day(garden, garden.garden.store, 6) * 3
    assert 0 < taken < usable
    assert not dips(garden, usable, usable - taken, 3) & {"keep.leak", "keep.gutter"}
    assert "keep.leak" in dips(garden, usable, max(usable - taken - 0.3 * usable, 0.0), 3)
    assert "keep.not-drawn" in dips(garden, usable, usable, 3) or taken < 0.1 * usable


@pytest.mark.parametrize(("then", "rule", "of"), [(1.0, "keep.not-drawn", "zone-"),
                                                  (0.0, "keep.leak", "barrels")])
def test_what_a_dip_doubts_leads_to_a_sign_that_this_garden_knows(garden, then, rule, of):
    usable = garden.usable_l
    said = advice(garden, log(*two_dips(garden, usable, usable * then, 3)), TODAY)
    (where, sign), = (f.seen.split("~") for f in said if f.rule == rule)
    assert where.startswith(of)
    assert where in cases_of(garden)
    assert not sign or sign in {s.key for s in signs_at(garden, where)}


def test_rain_that_does_not_reach_the_barrel_points_to_the_gutter(garden):
    store = garden.garden.store
    taken = drawn_l_day(garden, store, 6)
    start = taken + 0.05 * garden.usable_l
    mm = 0.5 * garden.usable_l / caught_l_mm(garden, store)
    rain = [(0, "rain", "", {"value": mm})]
    assert "keep.gutter" in dips(garden, start, start - taken, 1, rain)
    full = min(start - taken + mm * caught_l_mm(garden, store), garden.usable_l)
    assert not dips(garden, start, full, 1, rain) & {"keep.gutter", "keep.leak"}


def test_rain_of_the_last_two_days_holds_the_timer(garden):
    assert "keep.hold" in rules(garden, (1, "rain", "", {"value": 25.0}))
    assert "keep.hold" not in rules(garden, (1, "rain", "", {"value": 1.0}))
    assert "keep.hold" not in rules(garden, (5, "rain", "", {"value": 25.0}))


@pytest.mark.parametrize("wrong", [
    {"kind": "moon"}, {"kind": "soil", "word": "wet"}, {"kind": "rain"},
    {"kind": "rain", "value": 900.0}, {"kind": "note", "day": dt.date(2026, 7, 21)},
    {"kind": "note", "note": "x" * 401}, {"kind": "note", "day": dt.date(1980, 1, 1)}])
def test_an_entry_that_cannot_be_is_refused(wrong):
    with pytest.raises(BadEntryOf):
        checked(Entry(**{"id": "entry-0001", "day": TODAY} | wrong), TODAY)


@st.composite
def entries(draw):
    key = draw(st.sampled_from(sorted(KINDS)))
    kind = KINDS[key]
    return Entry(draw(st.from_regex(r"[a-z0-9]{8,20}", fullmatch=True)),
                 TODAY - dt.timedelta(days=draw(st.integers(0, 4000))), key,
                 "bed-1" if kind.about else "",
                 draw(st.floats(0, kind.most)) if kind.unit else None,
                 draw(st.sampled_from(tuple(kind.words))) if kind.words else "",
                 draw(st.text(st.characters(min_codepoint=32, exclude_categories=["Cs"]),
                              max_size=60)))


@settings(max_examples=60)
@given(st.lists(entries(), max_size=12))
def test_a_log_goes_out_and_comes_in_without_loss(kiln, found):
    back = from_csv(as_csv(kiln.garden, found), TODAY, lambda: "fresh-id")
    assert [replace(entry, named="") for entry in back] == found
    assert {entry.named for entry in back} <= {"", "Bed 1"}


@pytest.mark.parametrize(("text", "says"), [
    ("", "names the columns"), ("a,b\n1,2\n", "names the columns"),
    ("day,kind\n31/07/2026,note\n", "Line 2: “31/07/2026” is no day"),
    ("day,kind,value\n2026-07-01,rain,lots\n", "“lots” is no number"),
    ("day,kind,value,unit\n2026-07-01,rain,1,in\n", "kept in mm"),
    ("day,kind\n2026-07-01,note\n2026-07-02,moon\n", "Line 3"),
    ("day,kind\n2027-07-01,note\n", "still to come")])
def test_a_table_that_cannot_be_read_says_where(text, says):
    with pytest.raises(BadTable, match=says.replace("(", r"\(")):
        from_csv(text, TODAY, lambda: "fresh-id")


def test_a_filter_falls_due_by_its_decline_once_and_in_the_calendar(library):
    a = assess(poured(library, barrels=2, fall_m=3.0), library)
    zone = zone_of(a).id
    for flows, due in (((100.0, 90.0, 80.0), True), ((100.0, 99.0, 98.0), False)):
        a.read_log(log(*read(zone, *zip((40, 20, 0), flows, strict=True))), TODAY)
        later = dt.date(2026, 7, 30)
        assert any(d.key == f"rinse-{zone}" for _, d in coming(a, a.log, later)) == due
        book = Calendar.from_ical(calendar_ics(a, TODAY))
        once = [e for e in book.walk("vevent") if "rrule" not in e]
        assert [e["dtstart"].dt for e in once] == ([dt.date(2026, 8, 9)] if due else [])


PACKED = as_zip(None, (), {"abcdefgh": b"a picture" * 40})  # without entries no garden is asked


@settings(max_examples=200)
@given(st.lists(st.tuples(st.integers(-60, len(PACKED) - 1), st.integers(0, 255)), max_size=6),
       st.sampled_from([len(PACKED)] * 5 + list(range(0, len(PACKED), 9))))
@example([(-3, 255)], len(PACKED))
def test_a_zip_spoilt_anywhere_is_read_or_refused(spoilt, cut):
    data = bytearray(PACKED)
    for at, value in spoilt:
        data[at] = value
    try:
        text, photos = from_zip(bytes(data[:cut]))
    except (BadTable, UnicodeDecodeError):
        return
    assert isinstance(text, str)
    assert all(isinstance(photo, bytes) for photo in photos.values())
