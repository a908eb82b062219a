"""The year's calendar: cards that cover every run, dates with the frost, a file others read."""

import datetime as dt
from itertools import pairwise

import numpy as np
import pytest
from icalendar import Calendar

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.care import due
from euhydra.core.editing.edits import Remove
from euhydra.core.editing.file import from_json
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.values import SetValue
from euhydra.core.schedule.calendar import cards, clock
from euhydra.core.season.inputs import timer_runs
from euhydra.core.weather.frost import timer_days
from euhydra.data import garden_text
from euhydra.exports.ics import calendar_ics


def test_every_month_s_setting_stands_on_one_card(kiln):
    shown = cards(kiln.schedule)
    for zone in kiln.garden.timed_zones:
        for setting in kiln.schedule.settings[zone.id]:
            holding = [c for c in shown if c.first <= setting.month <= c.last]
            assert len(holding) == 1
            told = next(s for z, s, _ in holding[0].zones if z == zone.id)
            assert (told.every_h, told.weekdays, told.minutes) == (
                setting.every_h, setting.weekdays, setting.minutes)


def test_no_two_zones_of_a_source_start_while_another_runs(kiln):
    starts = kiln.schedule.first_hours
    for month in range(12):
        for source in {z.source for z in kiln.garden.timed_zones}:
            turns = sorted((starts[z.id, month], s.minutes / 60) for z in kiln.garden.timed_zones
                           for s in kiln.schedule.settings[z.id] if z.source == source
                           and s.month == month)
            for (at, hours), (after, _) in pairwise(turns):
                assert after >= at + hours - 1e-9
    assert clock(5.5) == "5:30"
    assert clock(29 + 2 / 3) == "5:40"


def test_the_file_is_read_back_with_the_right_dates(kiln):
    book = Calendar.from_ical(calendar_ics(kiln, dt.date(2026, 6, 10)))
    events = {str(e["uid"]).split("@")[0]: e for e in book.walk("VEVENT")}
    assert len(events) == len(due(kiln.garden, kiln.schedule))
    site = kiln.garden.site
    first = dt.date.fromisoformat(f"2026-{site.first_frost}")
    assert events["timer-in"].decoded("dtstart") == first - dt.timedelta(days=7)
    last = dt.date.fromisoformat(f"2027-{site.last_frost}")
    assert events["timer-out"].decoded("dtstart") == last + dt.timedelta(days=3)
    assert all(e["rrule"]["FREQ"] == ["YEARLY"] for e in events.values())
    for card in cards(kiln.schedule):
        event = events[f"timer-{card.first + 1:02d}"]
        when = event.decoded("dtstart")
        # Nothing stands on the timer before it is out again.
        assert (when.month, when.day) == ((last.month, last.day + 3) if card.first + 1 == last.month
                                          else (card.first + 1, 1))
        assert when >= dt.date(2026, 6, 10)
        for zone, setting, at in card.zones:
            name = next(z.name for z in kiln.garden.zones if z.id == zone)
            line = next(x for x in str(event["description"]).splitlines() if x.startswith(name))
            assert (f"{setting.minutes} min, from {clock(at)}" in line) if setting else (
                line.endswith("off"))


def test_nothing_is_set_while_the_timer_is_indoors_or_nothing_grows(kiln):
    dues = {d.key: d for d in due(kiln.garden, kiln.schedule)}
    out, into = dues["timer-out"].day, dues["timer-in"].day
    for key, one in dues.items():
        if key.startswith(("timer-", "filter-")):
            assert out <= one.day <= into, key
    minutes, runs = timer_runs(kiln.season_inputs, kiln.weather)
    grows = {z.id: np.any([kiln.demand.thirsts[p].kc > 0 for p in z.plots], axis=0)
             for z in kiln.garden.zones}
    stands = timer_days(kiln.garden.site)
    for zone, opened in zip(kiln.garden.zones, runs, strict=True):
        assert not opened[:, ~(grows[zone.id] & stands)].any()
    assert minutes.shape == runs.shape
    # The beds' harvest ends on 15 August: their card says so, and their runs end with it.
    assert "until 15 August" in dues["timer-08"].words.replace("\u00a0", " ")


def test_a_garden_without_frost_and_one_by_hand_have_a_calendar_too(kiln):
    garden = Remove("timers/timer").apply(kiln.garden, kiln.tables)
    for path in ("site/first_frost", "site/last_frost"):
        garden = SetValue(path, "").apply(garden, kiln.tables)
    a = assess(garden, kiln.tables)
    keys = {d.key for d in due(a.garden, a.schedule)}
    assert not keys & {"timer-in", "timer-out"}
    assert any(k.startswith("timer-") for k in keys)


def test_care_falls_due_for_what_the_garden_has_and_for_nothing_else(kiln, library):
    keys = {d.key for d in due(kiln.garden, kiln.schedule)}
    assert {"gutters-spring", "gutters-autumn", "tank-cleaning", "mulch"} <= keys
    assert not {k for k in keys if k.startswith(("pump-check", "lint-"))}
    drummed = SetValue("plots/border/fed_by", "laundry").apply(
        SetValue("drains/laundry/school", "drum").apply(kiln.garden, library), library)
    pumped = assess(FitPump("barrels", "barrel").apply(drummed, library), library)
    more = {d.key for d in due(pumped.garden, pumped.schedule)}
    assert "pump-check" in more
    # A lint filter is washed every two weeks; the season has 178 days without frost and begins 14
    # before: 13 times. Dripline behind it loses a quarter of its flow in 6 × 4 / 4 weeks: 4 times.
    assert sum(k.startswith("lint-") for k in more) == 13
    assert sum(k.startswith("rinse-") for k in more) == 4
    balcony = assess(from_json(garden_text("balcony"), library), library)
    keys = {d.key for d in due(balcony.garden, balcony.schedule)}
    assert not keys & {"gutters-spring", "tank-cleaning"}


@pytest.mark.parametrize(("last", "first"), [("01-03", "12-30"), ("", ""), ("04-24", "10-19")])
def test_every_day_is_one_whatever_the_frosts(kiln, library, last, first):
    site = kiln.garden.site.model_copy(update={"last_frost": last, "first_frost": first})
    a = assess(kiln.garden.model_copy(update={"site": site}), library)
    for each in due(a.garden, a.schedule):
        assert dt.date.fromisoformat(f"2001-{each.day}")
