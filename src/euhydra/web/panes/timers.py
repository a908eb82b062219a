"""Panes of Time on the timers: what hangs where, the cards of each, and how a dial works."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.construction.care import due
from euhydra.core.garden.base import WEEK
from euhydra.core.garden.model import Timer, Zone
from euhydra.core.layout.heads import nothing_waits
from euhydra.core.schedule import controller_asks, rotation
from euhydra.core.schedule.calendar import Card, cards, clock, how_much
from euhydra.core.schedule.rhythm import rhythm
from euhydra.core.schedule.settings import Setting
from euhydra.core.stations.place import MONTHS
from euhydra.web.drawings import timers as draw_timers
from euhydra.web.panes.base import Form, Pane, Table, bar, kinds_of_timers
from euhydra.web.sheet import Sheet

STAND_THERE = {
    "dial": "The dial has no clock: it opens in the moment it is set. Stand there at each zone's "
            "first start and turn both knobs then. It goes on by itself; a delay after rain ends "
            "by itself too.",
    "weekday": "Set the clock first, then one program for each start. Set it on any day; check "
               "it on the next morning.",
    "multi": "Set it by phone from where the timer can be reached; write the starts down here.",
    "weather": "Set these as the full run; it takes off or adds by the weather of the last days. "
               "Look at it weekly in a hot spell.",
    "hand": "Open the tap at the hour, set a kitchen timer, shut it again. Nobody does it while "
            "you are away."}
BLINKS = (("once in a while", "set, and waiting for its hour"),
          ("once a second", "open: water runs"),
          ("twice, then a pause", "held by a delay after rain; it goes on by itself"),
          ("fast and red", "the battery is low: change it, or the valve stays as it stands"),
          ("not at all", "no battery, or the knob stands on off"))


@dataclass(frozen=True)
class TimerCard:
    """A stretch of months: a timer's face and its settings; ``now`` where it holds.

    ``first`` is its first month, ``zones`` whose rows its table has.
    """

    whose: str
    months: str
    face: Markup
    table: Table
    now: bool
    first: int
    zones: tuple[str, ...]


@dataclass(frozen=True)
class TimerCards(Form):
    """The year's cards, how to stand before the timers, and what falls due."""

    template = "_cards.html"
    cards: Sequence[TimerCard]
    stand: str
    due: Sequence[tuple[str, str, str]]


def hung(sheet: Sheet) -> list[Pane]:
    """What hangs on each source, the picked timer's measures, and which zone it opens."""
    garden = sheet.garden
    if not garden.timed_zones:
        return [Pane(words=nothing_waits(garden)),
                *_by_hand(sheet)]
    chosen = next((t for t in garden.timers if t.id == sheet.chosen("timers")), None)
    panes = [Pane(add=(("timer", "Add a timer"),)), *_measures(sheet, chosen),
             Pane(drawing=draw_timers.hung(sheet)), _opened_by(sheet), *_by_hand(sheet),
             *_turns(sheet)]
    if chosen:
        panes.append(Pane(remove=((f"timers/{chosen.id}", f"Take {chosen.name} away"),)))
    styles = {sheet.assessment.schedule.row(z).style for z in garden.timed_zones}
    return [*panes, *([_dial(sheet)] if "dial" in styles else ()),
            *([_weather_asks(sheet)] if "weather" in styles else ())]


def _measures(sheet: Sheet, timer: Timer | None) -> list[Pane]:
    if timer is None:
        return [Pane(words="Every zone is opened by hand. Add a timer, and it opens them.")]
    marks = ("marks_h", "marks_min") if sheet.assessment.library.timers[
        timer.kind].style == "dial" else ()
    return [bar(sheet, *((f"timers/{timer.id}/{key}", timer.name) for key in (
        "kind", "opens", "hoses", "from_h", "until_h", *marks, "name")))]


def _opened_by(sheet: Sheet) -> Pane:
    """Which timer opens each zone; of hoses that are moved, on which days."""
    garden = sheet.garden
    moved = any(t.moved for t in garden.timers)
    grid = tuple((zone.name, tuple(sheet.fields.at(f"zones/{zone.id}/{key}", zone.name)
                                   for key in ("timer", *(("days",) if moved else ()))))
                 for zone in garden.timed_zones)
    idle = any(not garden.zones_of(t) for t in garden.timers)
    return Pane(grid=grid, stays=moved or idle, heads=(
        "Each zone’s timer", "Opened by", *(("Its hose hangs on",) if moved else ())))


def _by_hand(sheet: Sheet) -> list[Pane]:
    """The plots left to cans or a hose in the month shown, with the work that they are."""
    garden, month, rows = sheet.garden, sheet.shown_month, []
    by_hand = sheet.assessment.schedule.by_hand.values()
    for each in by_hand:
        s = each.setting_in(month)
        if s is None:
            rows.append((each.plot.name, "no water this month", *"–" * 4))
            continue
        source = garden.tap_of(each.source) or garden.store_of(each.source)
        rows.append((each.plot.name, rhythm(s), how_much(each, s),
                     sheet.show(each.litres(s), "volume"), source.name,
                     sheet.show(each.a_week_min(month), "minutes")))
    if not rows:
        return []
    rows.append(("All of them", *[""] * 4, sheet.show(
        sum(each.a_week_min(month) for each in by_hand), "minutes")))
    return [Pane(stays=True, table=Table(
        f"Watered by hand, {MONTHS[month]}", ("Plot", "When", "How much", "A time", "Out of",
                                              "Work a week"), tuple(rows), frozenset({3, 5})))]


def _turns(sheet: Sheet, *, moved_alone: bool = False) -> list[Pane]:
    """The week's plan of each timer whose hoses are moved, or as it would be if they were."""
    garden, month = sheet.garden, sheet.shown_month
    return [_turns_of(sheet, timer, source, plan) for timer in garden.timers
            if timer.moved or not moved_alone
            for source, plan in sheet.assessment.schedule.plans(timer, month).items()
            if len(plan) > 1]


def _turns_of(sheet: Sheet, timer: Timer, source: str, plan: Sequence[rotation.Turn]) -> Pane:
    names = {zone.id: zone.name for zone in sheet.garden.zones}
    where = (sheet.garden.tap_of(source) or sheet.garden.store_of(source)).name
    rows = [(" and ".join(names[z] for z in t.zones),
             *("●" if d in t.days else "" for d in range(7)),
             sheet.show(t.minutes, "minutes"), "" if t.waits else "cannot wait so long")
            for t in plan]
    rows.append(("Hoses to hang", *(str(n) for n in rotation.moves_on(tuple(plan))), "", ""))
    whose = timer.name if timer.moved else "With one such timer"
    return Pane(table=Table(
        f"{whose} on {where}, its hoses moved in turn, {MONTHS[sheet.shown_month]}",
        ("Zone", *WEEK, "A run", "Note"), tuple(rows), frozenset(range(1, 9))))


@dataclass(frozen=True)
class HowADialWorks(Form):
    """A splitter's lever and a dial's face, what they do, and what each blink means."""

    template = "_dial.html"
    drawing: Markup
    words: str
    blinks: Table


def _dial(sheet: Sheet) -> Pane:
    """What the lever, the lamp and the button of a dial say and do."""
    tapped = any(sheet.garden.tap_of(z.source) for z in sheet.garden.timed_zones)
    return Pane(form=HowADialWorks(
        draw_timers.how_a_dial_works(sheet),
        f"{'The tap itself' if tapped else 'What it hangs on'} stays open. "
        "The splitter’s lever in line with the pipe is open, across it "
        "is shut. Press the button for a run by hand of as many minutes as are set; press again to "
        "end it. What the lamp of your own dial says stands in its leaflet; ours blinks so:",
        Table("What each blink means", ("It blinks", "It means"), BLINKS)))


def _weather_asks(sheet: Sheet) -> Pane:
    """What a weather-adjusting controller asks for each valve."""
    a, garden = sheet.assessment, sheet.garden
    rows = []
    for zone in garden.timed_zones:
        if a.schedule.row(zone).style == "weather":
            told = controller_asks.asked(garden, a.library, a.flows, a.demand, zone)
            rows.append((zone.name, told.plants, told.soil, told.sun,
                         sheet.show(told.slope, "share") if told.slope >= 0.005 else "level",
                         f"{sheet.show(told.rate_mm_h, 'depth')} an hour"))
    return Pane(table=Table("What the controller asks, valve by valve", (
        "Zone", "Plants", "Soil", "Sun", "Slope", "Outlets give"), tuple(rows), frozenset({4, 5})))


def timer_cards(sheet: Sheet) -> list[Pane]:
    """Each timer's card to print for every stretch of months, and the calendar."""
    garden, schedule = sheet.garden, sheet.assessment.schedule
    several = len({z.timer for z in garden.timed_zones}) > 1
    shown = [
        _card(sheet, timer.name if timer else "By hand", each, several=several)
        for timer, zones in openers(sheet) for each in cards(schedule, zones)]
    styles = dict.fromkeys(schedule.row(z).style for z in garden.timed_zones)
    return [bar(sheet, *kinds_of_timers(garden), ("longer", "Time")),
            *_turns(sheet, moved_alone=True),
            Pane(form=TimerCards(shown, " ".join(STAND_THERE[style] for style in styles), [
                (units.show_month_day(d.day), d.title, d.words)
                for d in due(garden, schedule)]))]


def openers(sheet: Sheet) -> list[tuple[Timer | None, list[Zone]]]:
    """Every timer with its zones, then what is opened by hand; none that opens nothing."""
    garden = sheet.garden
    found: list[tuple[Timer | None, list[Zone]]] = [
        (timer, garden.zones_of(timer)) for timer in garden.timers]
    found.append((None, [z for z in garden.timed_zones if garden.timer_of(z) is None]))
    return [(timer, zones) for timer, zones in found if zones]


def _card(sheet: Sheet, whose: str, each: Card, *, several: bool) -> TimerCard:
    zones = {zone.id: zone for zone in sheet.garden.zones}
    months = MONTHS[each.first] + ("" if each.first == each.last else f" to {MONTHS[each.last]}")
    rows = tuple((zones[zone].name, rhythm(s) if s else "off",
                  f"{s.minutes} min" if s else "–", clock(at) if s else "–",
                  _too_much(sheet, s, zones[zone]) if s else "–")
                 for zone, s, at in each.zones)
    face = draw_timers.card(sheet, [(zones[zone], s) for zone, s, _ in each.zones if s])
    kind = sheet.assessment.schedule.row(zones[each.zones[0][0]]).name
    return TimerCard(whose if several else "", months, face, Table(
        f"{whose}: {kind}, {months}" if several else f"{kind}, {months}",
        ("Zone", "Opens", "For", "First start", "Rounding leaves, a week"), rows,
        frozenset({2, 3, 4})), each.first <= sheet.shown_month <= each.last, each.first,
        tuple(zone for zone, _, _ in each.zones))


def _too_much(sheet: Sheet, setting: Setting, zone: Zone) -> str:
    """What rounding leaves in a week, as water and as a depth over the zone's ground."""
    if not math.isfinite(setting.left_over_l_week):
        return "no flow"
    over = setting.left_over_l_week
    area = sum(sheet.assessment.demand.thirsts[p].area_m2 for p in zone.plots)
    depth = f", {sheet.show(abs(over) / area, 'depth')}" if area > 0 else ""
    return f"{sheet.show(abs(over), 'drop')}{depth} {'over' if over >= 0 else 'short'}"
