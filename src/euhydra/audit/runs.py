"""What is said of runs: minutes, litres of a watering, zones, dates."""

from __future__ import annotations

import datetime as dt
import math
import re
from collections.abc import Iterator

import numpy as np

from euhydra.audit.statements import Said, Statement, exactly, of_amount, shown
from euhydra.core.advise import watching
from euhydra.core.construction.steps import steps
from euhydra.core.results.draws import taken_l_day
from euhydra.core.schedule.calendar import cards
from euhydra.core.stations.time import peak_month
from euhydra.core.weather.frost import timer_days, timer_in, timer_out
from euhydra.core.weather.generator import MONTH_OF_DAY
from euhydra.web.panes.timers import TimerCards


def zones(said: Said) -> Iterator[Statement]:
    """How many zones there are, timed and in all."""
    a = said.a
    yield exactly("zones on the timer", "the garden", len(a.garden.timed_zones))
    yield from said.figure("zones on the timer", "time", "zones")
    told = a.station("time")
    for phrase, where in ((told.verdict, "verdict"), (told.key_figure, "on the Run")):
        if "z" in phrase.amounts:
            yield of_amount("zones on the timer", f"Time, {where}", phrase.amounts["z"],
                            said.system)
    for card in cards(a.schedule):
        yield exactly("zones on the timer", f"card of month {card.first + 1}", len(card.zones))
    yield exactly("zones in all", "the garden", len(a.garden.zones))
    yield from said.finding("zones in all", "build", "build.labels", "n")
    table = said.table("time", "zones", "Parted by")
    if table is not None:
        yield exactly("zones in all", "Time, why each opens by itself", len(table.rows))


def minutes(said: Said) -> Iterator[Statement]:
    """What stands on the timer, wherever it is told."""
    a = said.a
    names = {zone.id: zone.name for zone in a.garden.zones}
    told = [p.form for p in said.panes("time", "cards") if isinstance(p.form, TimerCards)]
    faces = told[0].cards if told else []
    lines = _in_the_calendar(said)
    for face in faces:
        since = max((month for month in lines if month <= face.first), default=face.first)
        for zone, row in zip(face.zones, face.table.rows, strict=True):
            name = f"minutes of {names[zone]}, month {face.first + 1}"
            due = a.schedule.setting_in(zone, face.first)
            yield exactly(name, "the settings", f"{due.minutes} min" if due else "off")
            yield exactly(name, "Time, card", row[2] if row[2] != "–" else "off")
            yield exactly(name, "calendar file", lines[since][names[zone]])
    month = a.demand.peak_month
    for step in steps(a.season_inputs):
        if step.id.startswith("timer-"):
            zone = step.id.removeprefix("timer-")
            told_min = re.search(r"(\d+) min", step.own.show(said.system))
            name = f"minutes of {names[zone]} at the peak"
            due = a.schedule.setting_in(zone, month)
            yield exactly(name, "Build, steps", told_min[1] if told_min else "")
            yield exactly(name, "the settings", str(due.minutes) if due else "")


def _in_the_calendar(said: Said) -> dict[int, dict[str, str]]:
    """Of each card's month what the calendar file says of each zone."""
    names = [zone.name for zone in said.a.garden.zones]
    found: dict[int, dict[str, str]] = {}
    for key, (_, words) in said.calendar.items():
        match = re.fullmatch(r"timer-(\d\d)", key)
        if not match:
            continue
        lines = words.splitlines()
        found[int(match[1]) - 1] = {}
        for name in names:
            line = next((x for x in lines if x.startswith(f"{name}: ")), "")
            run = re.search(r", (\d+ min), from", line[len(name):])
            found[int(match[1]) - 1][name] = run[1] if run else "off"
    return found


def hours(said: Said) -> Iterator[Statement]:
    """Hours a day in the month of most running."""
    a, month = said.a, peak_month(said.a)
    yield from said.figure("hours a day at the peak", "time", "hours_peak")
    runs = [s.exact_min * s.runs_a_week / 7 / 60 for z in a.garden.timed_zones
            if (s := a.schedule.setting_in(z.id, month))]
    if all(math.isfinite(x) for x in runs):
        yield exactly("hours a day at the peak", "the settings added", sum(runs))
    verdict = a.station("time").verdict
    if "h" in verdict.amounts:
        yield of_amount("hours a day at the peak", "Time, verdict", verdict.amounts["h"],
                        said.system)


def litres(said: Said) -> Iterator[Statement]:
    """One run's litres: by need, by flow and minutes; and what the log thinks the timer takes."""
    a = said.a
    for zone in a.garden.timed_zones:
        flow = a.flows[zone.id]["half"].flow_l_h * a.flows.read_share(zone)
        yield exactly(f"flow of {zone.name}", "the solver", flow)
        yield exactly(f"flow of {zone.name}", "what runs are set by", a.flows.run_flow_l_h(zone))
        yield from said.figure(f"solved flow of {zone.name}", "push", f"flow_{zone.id}")
        yield exactly(f"solved flow of {zone.name}", "the solver, half full",
                      a.flows[zone.id]["half"].flow_l_h)
        for setting in a.schedule.settings[zone.id]:
            need = a.schedule.needs[zone.id][setting.month]
            plots = {p.plot for p in need.plots}
            if plots != set(zone.plots) or not math.isfinite(setting.exact_min):
                continue
            name = f"a run of {zone.name}, month {setting.month + 1}"
            given = sum(need.gets_l(p, setting.minutes) for p in plots)
            yield exactly(name, "what its plots get", given)
            yield Statement(name, "flow × minutes", flow * setting.minutes / 60, 1e-6 * flow,
                            f"{flow * setting.minutes / 60:.3f} L")
    month = a.demand.peak_month
    for source in {zone.source for zone in a.garden.timed_zones}:
        mine = [z for z in a.garden.timed_zones if z.source == source]
        if a.flows.shut or any(
                not z.timed and z.source == source for z in a.garden.zones):
            continue
        name = f"taken a day from {source}"
        yield exactly(name, "the log's leak check", taken_l_day(a, (source,), month))
        yield exactly(name, "runs × flow", sum(
            a.flows.run_flow_l_h(z) * s.minutes / 60 * s.runs_a_week / 7 for z in mine
            if (s := a.schedule.setting_in(z.id, month))) + sum(
                each.litres(s) * s.runs_a_week / 7 for each in a.schedule.by_hand.values()
                if each.source == source and (s := each.setting_in(month))))


def jugs(said: Said) -> Iterator[Statement]:
    """The jug test's flow is the zone's."""
    for step in steps(said.a.season_inputs):
        if step.id.startswith("jug-"):
            zone = next(z for z in said.a.garden.zones if z.id == step.id.removeprefix("jug-"))
            name = f"jug test of {zone.name}"
            yield of_amount(name, "Build, steps", step.own.amounts["q"], said.system)
            yield exactly(name, "what runs are set by", said.a.flows.run_flow_l_h(zone))


def dates(said: Said) -> Iterator[Statement]:
    """When the timer is out, and that nothing runs while it is in or nothing grows."""
    a, site = said.a, said.a.garden.site
    days = {key: f"{day:%m-%d}" for key, (day, _) in said.calendar.items()}
    for key, day in (("timer-in", timer_in(site)), ("timer-out", timer_out(site))):
        if day:
            yield exactly(f"{key} for frost", "the site's frosts", day)
            yield exactly(f"{key} for frost", "calendar file", days.get(key, "none"))
    world, out = a.season.world, timer_days(site)
    opens = np.asarray(world.runs.any(axis=(1, 3)))
    for i, zone in enumerate(a.garden.zones):
        grows = np.asarray(np.any([a.demand.thirsts[p].kc > 0 for p in zone.plots], axis=0))
        name = f"days on which {zone.name} may open"
        yield exactly(name, "the season", str(bool((opens[i] & ~(grows & out)).any())))
        yield exactly(name, "in season and out of frost", "False")
        if zone.timed:
            # A month of few days in season may hold no run of a setting that opens seldom.
            unset = {int(m) for m in MONTH_OF_DAY[opens[i]]} - {
                s.month for s in a.schedule.settings[zone.id]}
            yield exactly(f"months of {zone.name} without a setting", "the season", str(unset))
            yield exactly(f"months of {zone.name} without a setting", "the settings", "set()")
    for key, day in days.items():
        if key.startswith(("timer-0", "timer-1", "filter-")) and timer_in(site):
            at = dt.date.fromisoformat(f"2026-{day}").timetuple().tm_yday - 1
            yield exactly(f"{key} while the timer is out", "calendar file", str(bool(out[at])))
            yield exactly(f"{key} while the timer is out", "frost", "True")


def watched(said: Said) -> Iterator[Statement]:
    """The plan of a month's runs beside the season's own count."""
    a, month = said.a, said.a.demand.peak_month
    if a.garden.rain_hold_mm:
        return
    days = int(np.asarray(month == MONTH_OF_DAY).sum())
    for i, zone in enumerate(a.garden.zones):
        setting = a.schedule.setting_in(zone.id, month) if zone.timed else None
        if (setting is None or zone.id in a.flows.shut
                or a.schedule.row(zone).style == "weather"):
            continue
        planned = [r for r in watching.planned_runs(a, zone.source, month, days)
                   if r.zone == zone.id]
        a_month = float(a.season.world.runs[i][:, month == MONTH_OF_DAY].sum()) / a.years
        yield Statement(f"runs of {zone.name} in a month", "Time, watch a run", len(planned),
                        setting.runs_a_week / 2 + 1, str(len(planned)))
        yield exactly(f"runs of {zone.name} in a month", "the season", a_month)


def waterings(said: Said) -> Iterator[Statement]:
    """Through a watering, what each plot wants of it."""
    table = said.table("push", "day", "Wants")
    if table is None:
        return
    a, picked = said.a, said.sheet.month
    month = a.demand.peak_month if picked is None else picked
    plots = {p.name: p.id for p in a.garden.plots}
    for zone, plot, wants, *_ in table.rows:
        setting = next((a.schedule.setting_in(z.id, month) for z in a.garden.zones
                        if z.name == zone), None)
        if setting is None or plot not in plots:
            continue
        name = f"what {plot} wants of a run"
        yield shown(name, "Push, through a watering", wants, "volume", said.system)
        need = a.demand.thirsts[plots[plot]].net_in_season(month)
        yield exactly(name, "Grow, on its days in season", need * 7 / setting.runs_a_week)


HARVESTS = (zones, minutes, hours, litres, jugs, dates, watched, waterings)
