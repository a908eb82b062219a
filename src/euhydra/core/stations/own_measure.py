"""A gardener's own litres, depth or minutes for a plot, against what it drinks."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import AnyPlot
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy
from euhydra.core.stations.place import MONTHS

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

FAR_OFF = 0.3  # one that is off by more than this share is told


def against_the_hottest_week(r: Results) -> list[Finding]:
    """The gardener's own cans or depth a week against the need of the hottest week."""
    found = []
    for plot in r.garden.plots:
        t = r.demand.thirsts[plot.id]
        own, need = r.own_l_day(plot), t.hottest_week_l
        if not own or need <= 0 or abs(own / need - 1) <= FAR_OFF:
            continue
        less = own < need
        found.append(Finding(
            "grow.own-measure", "care" if less else "note",
            say(f"{quoted(plot.name)}: you give " + "{own}; the hottest week asks for {need}",
                own=Amount(own, "daily"), need=Amount(need, "daily")),
            say("That is {mm} a week over its ground. " + (
                "Plants go thirsty in that week." if less else
                "The rest runs past the roots; feel the soil two days after."),
                mm=Amount(7 * own / t.area_m2, "rain")), _by_weather(plot)))
    return found


def runs_of_ones_own(r: Results) -> list[Finding]:
    """Plots run by their gardener's own measure: against what they drink, or with none typed."""
    found = []
    timed = {p for zone in r.garden.timed_zones for p in zone.plots} | set(r.schedule.by_hand)
    for plot in (p for p in r.garden.plots if p.run_by == "own" and p.id in timed):
        own, t = r.own_l_day(plot), r.demand.thirsts[plot.id]
        peak = int(t.net_by_month.argmax())
        need = t.net_in_season(peak)
        if own <= 0:
            found.append(Finding(
                "time.own-none", "care",
                Phrase(f"{quoted(plot.name)} is to be run by your own measure, and none is typed"),
                Phrase("Until you type one it is run by the weather: litres a day, a depth a "
                       "week or minutes a day, on Grow, today."), _by_weather(plot)))
        elif need > 0 and abs(own / need - 1) > FAR_OFF:
            less = own < need
            found.append(Finding(
                "time.own-run", "care" if less else "note",
                say(f"{quoted(plot.name)} is run by your own " + "{own} a day; in "
                    f"{MONTHS[peak]} it drinks " + "{need}", own=Amount(own, "volume"),
                    need=Amount(need, "daily")),
                Phrase("Prove counts the days on which it is thirsty." if less else
                       "What is over runs past the roots."), _by_weather(plot)))
    return found


def _by_weather(plot: AnyPlot) -> tuple[Remedy, ...]:
    """To let the weather say again what a plot is given that its gardener's measure runs."""
    if plot.run_by != "own":
        return ()
    return (Remedy(f"by-weather-{plot.id}", Phrase("Run it by the weather"),
                   Phrase("what it drinks, month by month"),
                   SetValue(f"plots/{plot.id}/run_by", "weather")),)
