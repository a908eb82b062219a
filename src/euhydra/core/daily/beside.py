"""Two gardens on one day: what the one has that the other has not, each by a rule."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.daily.year import LEAST_L, TONES, Year
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

MOST_TOLD = 3


@dataclass(frozen=True)
class Difference:
    """What differs: its rule, the sentence."""

    rule: str
    words: Phrase


def same_year(year: Year, of: Year) -> Year:
    """Another garden's year with the weather of this one's number, as long as it has so many."""
    return Year(of.results, year.which % of.season.years)


def differing(mine: Year, theirs: Year, day: int) -> tuple[str, ...]:
    """The plots of both gardens, by id, that stand otherwise in them on a day."""
    return tuple(plot for p, plot in enumerate(mine.plots) if plot in theirs.plots
                 and mine.tone[p, day] != theirs.tone[theirs.plots.index(plot), day])


def differences(mine: Year, theirs: Year, day: int) -> tuple[Difference, ...]:
    """What there is to say of this garden beside the other on a day."""
    found = []
    dry, wet = (_thirsty(a, b, day) for a, b in ((mine, theirs), (theirs, mine)))
    if dry:
        found.append(Difference("beside.thirsty", say(f"Thirsty here alone: {', '.join(dry)}.")))
    if wet:
        found.append(Difference("beside.watered", say(f"Thirsty there alone: {', '.join(wet)}.")))
    if otherwise := _otherwise(mine, theirs, day):
        found.append(Difference("beside.roots", say(f"In the roots: {'; '.join(otherwise)}.")))
    for rule, name, a, b in (
            ("beside.stored", "stored", _stored(mine, day), _stored(theirs, day)),
            ("beside.tap", "from the tap", float(mine.tap[day]), float(theirs.tap[day])),
            ("beside.over", "runs over", float(mine.over[day]), float(theirs.over[day]))):
        if abs(a - b) > LEAST_L:
            found.append(Difference(rule, say(f"{{a}} {name} here, {{b}} there.",
                                              a=Amount(a, "volume"), b=Amount(b, "volume"))))
    return tuple(found)


def _thirsty(year: Year, other: Year, day: int) -> list[str]:
    """The plots that are thirsty in one garden and not in the other, which has them too."""
    thirsty = TONES.index("thirsty")
    return [quoted(year.season.world.names[p]) for p, plot in enumerate(year.plots)
            if plot in other.plots and year.tone[p, day] == thirsty
            and other.tone[other.plots.index(plot), day] != thirsty]


def _otherwise(mine: Year, theirs: Year, day: int) -> list[str]:
    """How roots stand that are thirsty in neither garden and differ, the first few."""
    told = []
    for plot in differing(mine, theirs, day):
        p = mine.plots.index(plot)
        here, there = (TONES[y.tone[y.plots.index(plot), day]] for y in (mine, theirs))
        if "thirsty" not in (here, there):
            told.append(f"{quoted(mine.season.world.names[p])} {here} here, {there} there")
    return told[:MOST_TOLD]


def _stored(year: Year, day: int) -> float:
    return float(year.level[:, day].sum()) if year.results.garden.stores else 0.0
