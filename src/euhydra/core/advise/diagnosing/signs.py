"""What a person sees of a zone with a fault, and how strongly: common practice, put in numbers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from euhydra.core.advise.diagnosing.found import Sign
from euhydra.core.advise.diagnosing.pipework import Given, Pipework
from euhydra.core.garden.model import Wicking
from euhydra.core.hydraulics.network import Emitter
from euhydra.core.statements.figures import Phrase, quoted

SEEN_LESS, SEEN_MORE = 0.75, 1.35  # of what is usual, before a person sees it; from memory
ASTRAY = 0.005  # how strongly what is not there is seen


@dataclass(frozen=True)
class Timed:
    """What a timer makes of a zone: how long it is open against what it should be, and the rest.

    ``grown`` is what a plot wants against what was reckoned, by plot.
    """

    open_for: float = 1.0
    grown: Mapping[str, float] | None = None
    drips_on: bool = False
    hums: bool = False
    spits: bool = False
    runs_over: str = ""
    loads: float = 1.0
    runs_on: bool = False


def signs_of(pipes: Pipework) -> tuple[Sign, ...]:
    """All that can be seen of a zone."""
    garden, zone = pipes.r.garden, pipes.zone
    found = []
    if garden.drum_of(zone.source):
        found.append(Sign("drum-over", Phrase("The drum overflows on washing day")))
    if garden.lift_on(zone.source):
        found.append(Sign("hums", Phrase("The pump hums and moves no water")))
    if zone.timed or garden.drum_of(zone.source):
        found.append(Sign("nothing", Phrase("No water comes")))
    found.append(Sign("weak", Phrase("Everything gets too little")))
    if len(pipes.plot_of) > 1:
        found.append(Sign("far-weak", Phrase(
            "The near outlets give well, the far ones hardly")))
    for plot_id in zone.plots:
        plot = quoted(garden.plot(plot_id).name)
        if isinstance(garden.plot(plot_id), Wicking):
            found.append(Sign(f"over:{plot_id}", Phrase(f"{plot}: water runs over")))
        found += [Sign(f"dry:{plot_id}", Phrase(f"{plot} too dry: leaves droop or turn crisp")),
                  Sign(f"wet:{plot_id}", Phrase(f"{plot} too wet: leaves turn yellow"))]
    if zone.timed:
        found.append(Sign("all-night", Phrase("It drips on when it should be shut")))
    found.append(Sign("puddle", Phrase("A wet place off the outlets")))
    if not garden.on_mains(zone.source):
        found.append(Sign("spits", Phrase("The outlets spit and hiss")))
    if garden.lift_on(zone.source):
        found.append(Sign("runs-on", Phrase("The pump does not stop")))
    return tuple(found)


def seen(pipes: Pipework, given: Given, timed: Timed) -> dict[str, float]:
    """How strongly each sign shows, 0 to 1, where the zone gives so much."""
    usual = pipes.given
    shares = {e: q / max(usual.each[e], 1e-6) for e, q in given.each.items() if e in usual.each}
    out = given.total_l_h - given.leak_l_h
    whole = out / max(usual.total_l_h, 1e-6)
    works = whole if timed.open_for > 0.05 else 0.0
    near, far = (float(np.mean([shares[e.id] for e in end])) if end else 1.0
                 for end in _ends(pipes))
    dose = _doses(pipes, shares, timed)
    middle = float(np.median(list(dose.values()))) if dose else 1.0
    found = {
        "nothing": 1.5 * under(works, 0.08, 0.03),
        "weak": under(whole, SEEN_LESS, 0.08) * over(works, 0.08, 0.03)
        * under(abs(near - far), 0.3, 0.06),
        "far-weak": over(near - far, 0.25, 0.06) * over(near, 0.3, 0.05),
        "puddle": 0.9 * min(2.5 * given.leak_l_h / max(usual.total_l_h, 1e-6), 1.0),
        "all-night": 1.0 * timed.drips_on, "hums": 2.0 * timed.hums,
        "spits": 0.6 * timed.spits, "runs-on": 1.5 * timed.runs_on,
        "drum-over": under(works / timed.loads, SEEN_LESS, 0.1)}
    for plot, x in dose.items():
        alone = 1.0 if len(dose) == 1 or x < SEEN_LESS * middle or x > SEEN_MORE * middle else 0.5
        found[f"dry:{plot}"] = 0.8 * alone * under(x, SEEN_LESS, 0.08)
        found[f"wet:{plot}"] = 0.8 * alone * over(x, SEEN_MORE, 0.12)
        if timed.runs_over == plot:
            found[f"over:{plot}"] = 2.0
    return {sign.key: found.get(sign.key, 0.0) + ASTRAY for sign in signs_of(pipes)}


def _ends(pipes: Pipework) -> tuple[tuple[Emitter, ...], tuple[Emitter, ...]]:
    """The nearest and the farthest fifth of the outlets; none where there are too few."""
    order = pipes.order
    some = max(len(order) // 5, 1)
    return (order[:some], order[-some:]) if len(order) > 1 else ((), ())


def _doses(pipes: Pipework, shares: Mapping[str, float], timed: Timed) -> dict[str, float]:
    """What each plot gets against what it wants, usual being 1."""
    by_plot: dict[str, list[float]] = {}
    for emitter, share in shares.items():
        by_plot.setdefault(pipes.plot_of[emitter], []).append(share)
    grown = timed.grown or {}
    return {plot: float(np.mean(mine)) * timed.open_for / grown.get(plot, 1.0)
            for plot, mine in by_plot.items()}


def over(x: float, at: float, soft: float) -> float:
    """0 well under, 1 well over, a half at it."""
    return float(1 / (1 + np.exp(-np.clip((x - at) / soft, -40, 40))))


def under(x: float, at: float, soft: float) -> float:
    """1 well under, 0 well over."""
    return 1 - over(x, at, soft)
