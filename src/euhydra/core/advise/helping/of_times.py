"""Changes of when and how long: longer runs, another rhythm, a timer of another kind."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core.advise.helping.moves import Move, timed
from euhydra.core.advise.other_timers import other_timers
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

LONGER = (-0.2, 0.2, 0.5)
LEAST, MOST = -0.5, 1.0
EVERY_DAYS = (1.0, 2.0, 3.0)


def of_times(r: Results) -> Iterator[Move]:
    """All of them; none where nothing is timed but the timer that could be."""
    garden, lib = r.garden, r.library
    zones = {zone.id for zone in garden.timed_zones}
    all_timed = frozenset(timed(garden))
    shut = r.flows.shut
    if ball := other_timers(garden, lib, shut, valve="ball"):
        yield Move("ball-valve", Phrase("A ball-valve timer, which opens on a barrel"), ball,
                   all_timed, 0.5)
    valve = "ball" if shut else None
    if clever := other_timers(garden, lib, zones, style="weather", valve=valve):
        yield Move("weather-timer", Phrase("A timer that follows the weather"), clever, all_timed,
                   0.5)
    if zones and not garden.timers:
        yield Move("dial", Phrase("A timer in the tap's place"), Add("timer"), all_timed,
                   0.5)
    if not zones:
        return
    yield from _longer("", "longer", "everything", garden.longer, all_timed)
    if len(zones) > 1:
        for zone in garden.timed_zones:
            yield from _longer(f"-{zone.id}", f"zones/{zone.id}/longer",
                               quoted(zone.name), zone.longer, frozenset({zone.id, *zone.plots}))
    for days in EVERY_DAYS:
        if days != garden.every_days:
            yield Move(f"every-{days:.0f}", Phrase("Water each day") if days == 1 else say(
                "Water every {d}", d=Amount(days, "days")), SetValue("every_days", days),
                all_timed, 0.2)
    if garden.rain_hold_mm == 0 and r.season.tap.any():
        yield Move("hold", say("Hold after {x} of rain", x=Amount(8.0, "rain")),
                   SetValue("rain_hold_mm", 8.0), all_timed, 0.2)


def _longer(key: str, path: str, name: str, now: float, touches: frozenset[str]
            ) -> Iterator[Move]:
    """Runs of other lengths than they have now, as a share of what is reckoned."""
    for more in LONGER:
        share = round(now + more, 2)
        if not LEAST <= share <= MOST or share == now:
            continue
        how = " {s} longer" if share > 0 else " {s} shorter" if share < 0 else " as is reckoned"
        yield Move(f"longer{key}-{round(100 * share)}", say(
            f"Run {name}" + how, s=Amount(abs(share), "share")), SetValue(path, share),
            touches, 0.2)
