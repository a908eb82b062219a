"""Timers as things: which zones each opens, by valves or moved hoses, and what follows from it."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.joints import head_assembly
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Remove
from euhydra.core.editing.file import from_json, to_json
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.settings import Allowed
from gardens import made, rules_of

JULY = 6
TIMER = "timers/timer"
POTS = "pots-1"
HOSE = {"waters": ("tap",), "pots": 6}


def of_timers(library, *steps, **changes):
    """A garden 3 m under its barrels: two beds, a row of pots, and what was done to it."""
    return made(library, *steps, **{"fall_m": 3.0} | changes)


def bought(a):
    return {key: sum(part.quantity for part in a.parts if part.key == key)
            for key in ("timer", "battery", "splitter", "filter", "adapter", "backflow")}


def zone_of(garden, plot):
    return next(z for z in garden.zones if plot in z.plots)


def test_a_new_garden_has_one_kind_of_timer_and_buys_as_many_as_it_has_valves(library):
    garden = of_timers(library)
    assert [t.id for t in garden.timers] == ["timer"]
    assert {z.timer for z in garden.zones} == {"timer"}
    assert bought(assess(garden, library)) == {
        "timer": 3, "battery": 3, "splitter": 2, "filter": 3, "adapter": 3, "backflow": 0}


def test_a_store_that_nothing_hangs_on_buys_no_splitter(library):
    garden = of_timers(library, "+store", pots=0, beds=(BedAnswer(
        length_m=2.4, width_m=1.2, group="leafy"),))
    assert len(garden.zones) == 1
    assert not [p for p in assess(garden, library).parts if p.key == "splitter"]


def test_a_timer_of_two_valves_opens_two_zones_and_one_more_the_third(library):
    garden = of_timers(library, (f"{TIMER}/kind", "weekday-ball-2"))
    a = assess(garden, library)
    assert bought(a) == {"timer": 2, "battery": 2, "splitter": 1, "filter": 3, "adapter": 3,
                         "backflow": 0}
    roles = [[p.role for p in head_assembly(garden, library, z)] for z in garden.zones]
    assert all("splitter" in mine for mine in roles)
    assert garden.timer_kind(garden.zones[0]) == "weekday-ball-2"
    one = of_timers(library, (f"{TIMER}/kind", "weekday-ball-2"), pots=0)
    assert bought(assess(one, library))["splitter"] == 0
    assert "splitter" not in [p.role for p in head_assembly(one, library, one.zones[0])]


def test_four_valves_at_a_tap_want_four_backflow_preventers_behind_them(library):
    """Only the timer bears constant pressure, so each valve has its own."""
    garden = made(library, (f"{TIMER}/kind", "weekday-pilot-4"), **HOSE)
    parts = bought(assess(garden, library))
    assert (parts["timer"], parts["splitter"]) == (1, 0)
    assert parts["backflow"] == parts["filter"] == len(garden.zones) == 3


def test_hoses_that_are_moved_share_one_head(library):
    garden = made(library, (f"{TIMER}/hoses", 1), **HOSE)
    assert bought(assess(garden, library)) == {
        "timer": 1, "battery": 1, "splitter": 0, "filter": 1, "adapter": 3, "backflow": 1}
    two = made(library, (f"{TIMER}/hoses", 2), **HOSE)
    assert bought(assess(two, library))["splitter"] == 1


def test_each_moved_hose_runs_on_its_own_days_for_the_week_s_need(library):
    garden = of_timers(library, (f"{TIMER}/hoses", 1), (f"{TIMER}/kind", "weekday-ball"), pots=0)
    a = assess(garden, library)
    for zone in garden.zones:
        setting, need = a.schedule.setting_in(zone.id, JULY), a.schedule.needs[zone.id][JULY]
        assert setting.starts_a_day == 1
        assert setting.exact_min == pytest.approx(need.run_min(7 / len(setting.weekdays)))
        # What runs through the season is what is set: as many runs as July has of those days.
        stands = a.schedule.timer_days[zone.id][181:212].sum()
        runs = a.season.world.runs[[z.id for z in garden.zones].index(zone.id)]
        july = runs[:, 181:212].sum(axis=(1, 2))
        assert july.mean() == pytest.approx(
            stands * len(setting.weekdays) / 7, abs=0.6)


def test_two_hoses_at_once_open_together_and_as_long_as_the_thirstier_wants(library):
    garden = of_timers(library, (f"{TIMER}/hoses", 2), (f"{TIMER}/kind", "weekday-ball"), pots=0)
    a = assess(garden, library)
    one, other = (a.schedule.setting_in(z.id, JULY) for z in garden.zones)
    assert one.weekdays == other.weekdays
    wants = [a.schedule.needs[z.id][JULY].run_min(7 / len(one.weekdays)) for z in garden.zones]
    assert one.exact_min == other.exact_min == pytest.approx(max(wants))
    hours = [a.schedule.first_hours[z.id, JULY] for z in garden.zones]
    assert hours == [5.0, 5.0]


def test_days_of_one_s_own_are_kept_and_a_wait_too_long_is_told(library):
    moved = [(f"{TIMER}/hoses", 1), (f"{TIMER}/kind", "weekday-ball")]
    garden = of_timers(library, *moved, ("zones/zone-bed-1/days", ("Tue", "Fri")), pots=0)
    a = assess(garden, library)
    assert rhythm(a.schedule.setting_in("zone-bed-1", JULY)) == "Tue Fri"
    found = rules_of(garden, library)["time.hose-waits"]
    assert "Bed 1" in found.title.show("metric")
    healed = found.remedies[0].edit.apply(garden, library)
    assert "time.hose-waits" not in rules_of(healed, library)
    short = of_timers(library, *moved, pots=0)
    assert "time.hose-waits" not in rules_of(short, library) or any(
        n.longest_gap_h < 24 for needs in assess(short, library).schedule.needs.values()
        for n in needs)


def test_two_hoses_that_ask_more_than_the_tap_gives_are_told(library):
    weak = ("taps/tap/bucket_s", 1200.0)
    garden = made(library, (f"{TIMER}/hoses", 2), weak, **HOSE)
    found = rules_of(garden, library)["time.two-hoses"]
    healed = found.remedies[0].edit.apply(garden, library)
    assert "time.two-hoses" not in rules_of(healed, library)


def test_more_hoses_than_a_timer_has_programs_are_told(library):
    beds = made(library, *(["+bed"] * 6), *((f"plots/bed-{n}/own_valve", True)
                                             for n in range(1, 9)),
                (f"{TIMER}/kind", "weekday-ball"), (f"{TIMER}/hoses", 1), **HOSE)
    assert len(beds.zones) > library.timers["weekday-ball"].most_starts
    assert "time.programs" in rules_of(beds, library)
    assert "time.programs" not in rules_of(
        SetValue(f"{TIMER}/kind", "multi-ball").apply(beds, library), library)


def test_a_second_timer_opens_what_is_given_to_it_and_is_idle_until_then(library):
    garden = of_timers(library, "+timer")
    assert "time.idle-timer" in rules_of(garden, library)
    assert bought(assess(garden, library))["timer"] == 3
    pots = zone_of(garden, POTS).id
    garden = SetValue(f"zones/{pots}/timer", "timer-2").apply(garden, library)
    garden = SetValue("timers/timer-2/kind", "multi-ball").apply(garden, library)
    a = assess(garden, library)
    assert "time.idle-timer" not in rules_of(garden, library)
    names = {p.name for p in a.parts if p.key == "timer"}
    assert names == {library.timers[k].name for k in ("dial-ball", "multi-ball")}
    assert a.schedule.setting_in(pots, JULY).weekdays
    assert not a.schedule.setting_in("zone-bed-1", JULY).weekdays
    # A timer that goes leaves its zones to the one that stays, the last one to the hand.
    garden = Remove("timers/timer-2").apply(garden, library)
    assert {z.timer for z in garden.zones} == {"timer"}
    garden = Remove("timers/timer").apply(garden, library)
    assert {z.timer for z in garden.zones} == {""}
    assert {garden.timer_kind(z) for z in garden.zones} == {"hand"}
    assert bought(assess(garden, library))["timer"] == 0


def test_zones_keep_their_timer_when_plots_come_go_and_move(library):
    garden = of_timers(library, "+timer", ("zones/zone-bed-2/timer", "timer-2"))
    garden = SetValue("plots/bed-2/own_valve", True).apply(
        garden, library)
    assert zone_of(garden, "bed-2").timer == "timer-2"
    for step in (SetValue("plots/bed-1/length_m", 4.0), Remove("plots/bed-1")):
        garden = step.apply(garden, library)
        assert zone_of(garden, "bed-2").timer == "timer-2"
    by_hand = SetValue("zones/zone-bed-2/timer", "").apply(garden, library)
    assert zone_of(by_hand, "bed-2").timer == ""


def test_what_is_on_one_s_own_dial_is_what_is_set(library):
    garden = of_timers(library, (f"{TIMER}/marks_min", (7, 14, 28)), (f"{TIMER}/marks_h", (12, 24)))
    a = assess(garden, library)
    for settings in a.schedule.settings.values():
        assert {s.minutes for s in settings} <= {7, 14, 28}
        assert {s.every_h for s in settings} <= {12, 24}


@pytest.mark.parametrize(("from_h", "until_h"), [(8.0, 20.0), (6.0, 9.0), (0.0, 24.0)])
@pytest.mark.parametrize("kind", ["dial-ball", "multi-ball"])
def test_nothing_opens_outside_the_hours_that_are_allowed(library, from_h, until_h, kind):
    garden = of_timers(library, (f"{TIMER}/kind", kind), (f"{TIMER}/until_h", until_h),
                       (f"{TIMER}/from_h", from_h), (f"plots/{POTS}/soil", "sand"))
    schedule = assess(garden, library).schedule
    for starts in schedule.starts:
        for start in starts:
            setting, at = start.opening.setting, start.at_h % 24
            if start.late:
                continue
            times = [at + i * setting.period_h for i in range(setting.starts_a_day)] if (
                setting.weekdays) else [at] if setting.every_h >= 24 else [
                    (at + i * setting.every_h) % 24 for i in range(24 // setting.every_h)]
            if until_h - from_h < 24:
                assert all(from_h <= t and t + setting.minutes / 60 <= until_h + 1e-6
                           for t in times)


def test_hours_allowed_hold_a_rhythm_or_not():
    assert Allowed(8.0, 8.0, 20.0).holds(24)
    assert not Allowed(8.0, 8.0, 20.0).holds(12)
    assert Allowed(6.0, 6.0, 19.0).holds(12)
    assert Allowed().holds(4)
    assert Allowed(8.0, 8.0, 20.0).span_h == 12


@pytest.mark.parametrize(("path", "value", "says"), [
    ("from_h", 23.5, "before the second"), ("marks_min", (0, 5), "from 1 to 720"),
    ("kind", "hand", "no timer")])
def test_a_timer_that_cannot_be_is_refused_in_words(library, path, value, says):
    garden = of_timers(library, (f"{TIMER}/until_h", 20.0))
    with pytest.raises(EditRefused, match=says):
        SetValue(f"{TIMER}/{path}", value).apply(garden, library)


def test_a_mixed_garden_says_which_valve_stays_shut(library):
    """A pilot valve on a barrel beside a ball valve: one zone is shut, not the garden."""
    garden = of_timers(library, "+timer", ("timers/timer-2/kind", "dial-pilot"),
                       ("zones/zone-bed-2/timer", "timer-2"))
    a = assess(garden, library)
    assert a.flows.shut == {"zone-bed-2"}
    assert a.flows.opens
    given = dict(zip(a.season.world.plots, a.season.given.sum(axis=(1, 2)), strict=True))
    assert given["bed-1"] > 0 == given["bed-2"]
    found = rules_of(garden, library)["prove.never-opens"]
    assert "Bed 2" in found.title.show("metric")
    healed = found.remedies[0].edit.apply(garden, library)
    assert [t.kind for t in healed.timers] == ["dial-ball", "dial-ball"]


def test_timers_are_kept_in_the_file(library):
    garden = of_timers(library, "+timer", (f"{TIMER}/marks_min", (7, 14)), (f"{TIMER}/hoses", 2),
                       ("zones/zone-bed-1/days", ("Mon", "Sat")))
    again = from_json(to_json(garden), library)
    assert again == garden
