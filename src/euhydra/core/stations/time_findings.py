"""What Time finds amiss: runs too long or too seldom, rounding, filters, slow ground."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Zone
from euhydra.core.schedule import seasonal_adjust, timing
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy
from euhydra.core.stations.own_measure import runs_of_ones_own
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.shares import year_shares
from euhydra.core.stations.timer_findings import of_timers
from euhydra.core.stations.uneven_pots import uneven_pots

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

FADES = 0.2  # a run that loses more than this share as the barrels empty is told
READ_APART, MOST_BLOCKED = 0.1, 0.95  # a reading by jug is no better, from memory
UNLIKE = 0.25  # more than its wish by this share is told, from memory


def findings(r: Results, month: int, hours: float) -> list[Finding]:
    """All of it in a month; ``hours`` is what the timed zones run a day between them."""
    return [*of_timers(r, month, hours), *_seldom(r, month),
            *_unlike(r), *uneven_pots(r, month), *_read(r), *_soaks(r, month),
            *_falling_level(r), *_always_on(r), *_as_it_comes(r, month),
            *_first_weeks(r, month), *runs_of_ones_own(r)]


def _seldom(r: Results, month: int) -> list[Finding]:
    """Runs that the gardener has set farther apart than roots bridge."""
    if r.garden.every_days <= 0:
        return []
    found = []
    for zone in r.garden.timed_zones:
        setting, bridged = r.schedule.setting_in(zone.id, month), bridged_h(r, zone, month)
        if setting is None or 168 / setting.runs_a_week <= max(bridged, 24.0) + 1e-6:
            continue
        found.append((bridged, Finding(
            "time.seldom", "care",
            say(f"{quoted(zone.name)} waits {{d}} between runs; its roots bridge " + "{b}",
                d=Amount(7 / setting.runs_a_week, "days"), b=Amount(bridged / 24, "days")),
            say(f"In {MONTHS[month]} what is given past the roots' hold sinks, and the last days "
                "before the next run are dry. Prove counts them."),
            (Remedy("as-roots-bridge", Phrase("As often as the roots ask"),
                    Phrase("nothing sinks past them"), SetValue("every_days", 0.0)),))))
    return [finding for _, finding in sorted(found, key=lambda pair: pair[0])[:1]]


def _unlike(r: Results) -> list[Finding]:
    """A plot put with others by hand that gets far more than it wants."""
    found = []
    for zone in r.garden.timed_zones:
        given = year_shares(r, zone)
        for plot in zone.plots:
            if not r.garden.plot(plot).opens_with or given.get(plot, 1.0) <= 1 + UNLIKE:
                continue
            edit = SetValue(f"plots/{plot}/opens_with", "")
            then = r.after(edit)
            home = next(z for z in then.garden.zones if plot in z.plots)
            found.append(Finding(
                "time.unlike", "care",
                say(f"{quoted(r.garden.plot(plot).name)} gets " + "{x} of what it wants in a year, "
                    "with " + quoted(zone.name), x=Amount(given[plot], "share")),
                Phrase("One run serves the thirstiest. What the others do not want sinks past "
                       "their roots."),
                (Remedy(f"apart-{plot}", Phrase("Water it together with plots like it"),
                        say("{x} of what it wants", x=Amount(
                            year_shares(then, home).get(plot, 1.0), "share")), edit),)))
    return found


def _soaks(r: Results, month: int) -> list[Finding]:
    """Water that comes faster than the soil takes it runs off: a run in parts, with pauses."""
    found = []
    for zone in r.garden.timed_zones:
        rate, takes = seasonal_adjust.wetting_mm_h(r.garden, r.library, r.flows, r.wetted, zone)
        parts = seasonal_adjust.cycles(rate, takes)
        setting = r.schedule.setting_in(zone.id, month)
        if parts < 2 or setting is None or not math.isfinite(setting.exact_min):
            continue
        found.append(Finding(
            "time.soak", "note",
            say(f"{quoted(zone.name)}: in " + "{n} parts of {m}, with pauses as long",
                n=Amount(parts, "count"), m=Amount(setting.minutes / parts, "minutes")),
            say("{a} an hour come on the wetted ground and the soil takes {b}. In one run the "
                "rest would run off.", a=Amount(rate, "depth"), b=Amount(takes, "depth"))))
    return found


def _read(r: Results) -> list[Finding]:
    """A flow read off by jug or meter: how far from the solved one, and what may be why."""
    found = []
    for zone in r.garden.zones:
        if zone.read_l_h <= 0:
            continue
        share = r.flows.read_share(zone)
        solved = zone.read_l_h / share
        if abs(share - 1) <= READ_APART:
            found.append(Finding(
                "time.read-agrees", "note",
                say(f"{quoted(zone.name)}: " + "{q} read off, as solved", q=Amount(
                    zone.read_l_h, "flow")),
                say("The reckoning has {s}. Runs go by the reading.", s=Amount(solved, "flow"))))
            continue
        clogged = _blocked_to(r, zone) if share < 1 else None
        why = (say("A filter {b} blocked would give just that: rinse it and read again. Else an "
                   "outlet line is clogged, or a valve stands half shut.",
                   b=Amount(clogged, "share")) if clogged is not None else
               Phrase("More than a blocked filter explains: look for a valve half shut, a kink, "
                      "air in a high place, or clogged outlets.") if share < 1 else
               Phrase("A split hose, a missing end plug or wider outlets give more: walk along "
                      "the line while it runs."))
        found.append(Finding(
            "time.read-apart", "care",
            say(f"{quoted(zone.name)}: " + "{q} read off, {x} " + ("less" if share < 1 else "more")
                + " than solved", q=Amount(zone.read_l_h, "flow"),
                x=Amount(abs(share - 1), "share")), why,
            seen=f"{zone.id}~{'weak' if share < 1 else 'puddle'}"))
    return found


def _blocked_to(r: Results, zone: Zone) -> float | None:
    """How far the filter would be blocked to give what was read; None where no filter would."""
    water = r.flows.with_share(zone, zone.read_at).water_z_m

    def flow(blocked: float) -> float:
        return r.flows[zone.id].blocked(blocked).under(water).flow_l_h

    low, high = zone.filter_blocked, MOST_BLOCKED
    if flow(high) > zone.read_l_h:
        return None
    for _ in range(12):
        middle = (low + high) / 2
        low, high = (middle, high) if flow(middle) > zone.read_l_h else (low, middle)
    return high



def _falling_level(r: Results) -> list[Finding]:
    """Told when a run set for half-full barrels gives much less with the last water."""
    def fade(zone: Zone) -> float:
        half = r.flows[zone.id]["half"].flow_l_h
        return 1 - r.flows[zone.id]["low"].flow_l_h / half if half > 1e-6 else 0.0

    zone = max(r.garden.timed_zones, key=fade, default=None)
    if zone is None or fade(zone) <= FADES:
        return []
    levels = r.flows[zone.id]
    return [Finding(
        "time.falling-level", "note",
        say(f"{quoted(zone.name)}: {{x}} less in the same minutes with the {r.garden.vessel} "
            "nearly empty",
            x=Amount(fade(zone), "share")),
        say(f"Full {r.garden.vessel}s give {{a}}, half-full ones {{b}}, which the minutes are for, "
            "a nearly empty one {c}. Run longer as they empty, or raise the stand.",
            a=Amount(levels["full"].flow_l_h, "flow"), b=Amount(levels["half"].flow_l_h, "flow"),
            c=Amount(levels["low"].flow_l_h, "flow")))]


def _always_on(r: Results) -> list[Finding]:
    """Self-watering rows take no run time."""
    wet = r.garden.float_zones
    if not wet:
        return []
    return [Finding(
        "time.always-on", "note",
        Phrase(f"{quoted(', '.join(z.name for z in wet))}: always on, no run to set"),
        say("Float valves let in {l} at the height of summer. Leave their valve open.",
            l=Amount(sum(r.demand.thirsts[p].hottest_week_l for z in wet for p in z.plots),
                     "daily")))]


def _as_it_comes(r: Results, month: int) -> list[Finding]:
    """What hangs on a laundry's drum takes no run time either."""
    return [Finding(
        "time.as-it-comes", "note",
        Phrase(f"{quoted(lines.zone.name)}: runs as the washing comes, no run to set"),
        say("{l} a week on average, in the hours after each load. A plot there that wants more in "
            "{m} is yours to help with a can, or to give other water.".replace(
                "{m}", MONTHS[month]),
            l=Amount(7 * float(lines.kept_l[month].mean()), "volume")))
        for lines in r.drums.values()]


def _first_weeks(r: Results, month: int) -> list[Finding]:
    if not r.garden.timed_zones:
        return []
    need = sum(r.schedule.needs[z.id][month].wanted_l_day for z in r.garden.timed_zones)
    return [Finding(
        "time.first-weeks", "note", Phrase("The first two weeks after planting: daily"),
        say("New roots reach no deeper than the pot they came in. Give {l} or so a day in "
            f"{MONTHS[month]}, then go over to the rhythm here and feel the soil two days later.",
            l=Amount(need, "volume")))]


def bridged_h(r: Results, zone: Zone, month: int) -> float:
    """How long a zone's roots bridge in a month, whatever its gardener wishes."""
    plots = [r.demand.thirsts[p] for p in zone.plots]
    return timing.month_needs(r.flows[zone.id]["half"], plots)[month].longest_gap_h
