"""What would help the plot that fails first while one is away."""

from __future__ import annotations

from euhydra.core.advise.other_timers import other_timers
from euhydra.core.editing.edits import Add, Edit
from euhydra.core.editing.makers import CannotAdd
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Pots, Tower
from euhydra.core.results.results import Results
from euhydra.core.season.absence import Away, away
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Remedy

HELPS = 0.02  # a share of years by which a change must help to be told
A_DAY = 1.0  # or thirsty days fewer


def helps(r: Results, told: Away) -> list[Remedy]:
    """What would help the plot that fails first, each with the chance it then has."""
    worst = told.first_to_fail
    if worst is None:
        return []
    found = []
    for key, label, edit in _changes(r, worst.plot):
        try:
            then = _away_with(r, edit, told)
        except (EditRefused, CannotAdd):
            continue
        same = next((p for p in then.plots if p.plot == worst.plot), None)
        holds, days = (same.holds, same.thirsty_days) if same else (1.0, 0.0)
        if holds > worst.holds + HELPS or days < worst.thirsty_days - A_DAY:
            found.append((-holds, days, Remedy(key, label, say(
                "holds in {x} of the years" + ("; thirsty on {d}" if holds < 1 else ""),
                x=Amount(holds, "share"), d=Amount(days, "days")), edit)))
    return [remedy for *_, remedy in sorted(found, key=lambda one: one[:2])]


def _away_with(r: Results, edit: Edit, told: Away) -> Away:
    """The same days with an edit made, begun as the garden stands without it."""
    return away(r.after(edit).season_inputs, r.season, told.first, told.days)


def _changes(r: Results, worst: str) -> list[tuple[str, Phrase, Edit]]:
    garden = r.garden
    plot = next((p for p in garden.plots if p.id == worst), None)
    zones = {zone.id for zone in garden.timed_zones}
    found: list[tuple[str, Phrase, Edit]] = []
    if ball := other_timers(garden, r.library, r.flows.shut, valve="ball"):
        found.append(("ball-valve", Phrase("A ball-valve timer, which opens on a barrel"), ball))
    if clever := other_timers(
            garden, r.library, zones, style="weather", valve="ball" if r.flows.shut else None):
        found.append(("weather-timer", Phrase("A timer that follows the weather"), clever))
    if zones and not garden.timers:
        found.append(("dial", Phrase("A timer in the tap's place"), Add("timer")))
    if not garden.taps:
        found.append(("tap", Phrase("Top up from a tap"), Add("tap")))
    found += [(f"barrel-{store.id}", Phrase(f"One more like {quoted(store.name)}"),
               SetValue(f"stores/{store.id}/count", store.count + 1)) for store in garden.stores]
    if isinstance(plot, Bed) and plot.mulch == "none":
        found.append(("mulch", Phrase(f"Straw on {quoted(plot.name)}"),
                      SetValue(f"plots/{plot.id}/mulch", "straw")))
    if isinstance(plot, (Pots, Tower)):
        found.append(("larger", Phrase(f"{quoted(plot.name)}: pots a third taller"),
                      SetValue(f"plots/{plot.id}/height_m", round(plot.height_m * 4 / 3, 2))))
    return found
