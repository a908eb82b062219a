"""Feed put into a store or a drum: its dose, whom it reaches when, and what is rinsed after."""

from __future__ import annotations

from collections.abc import Collection
from typing import TYPE_CHECKING

from euhydra.core.schedule.feeds import Feed, Reaches, feeds
from euhydra.core.statements.figures import Amount, quoted, say
from euhydra.core.statements.findings import Finding

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

COMMON_ML_L = 4.0  # a tablespoon a gallon, common practice
MOST_TOLD = 4
RINSES = 2.0  # as much clean water as the pipes hold, so many times, from memory


def findings(r: Results, rule: str, vessels: Collection[str]) -> list[Finding]:
    """What feed in each of some stores or drums comes to."""
    month = r.demand.peak_month
    drunk = {plot: float(t.use_by_month[month]) for plot, t in r.demand.thirsts.items()}
    return [_told(r, rule, feed) for feed in feeds(r.garden, r.library, r.flows, drunk)
            if feed.store.id in vessels]


def _told(r: Results, rule: str, feed: Feed) -> Finding:
    told = feed.reaches[:MOST_TOLD]
    words = ", ".join(f"{quoted(x.zone.name)} after {{{_of(x)}{i}}}" + (
        "" if x.minutes else " as it drinks") for i, x in enumerate(told))
    more = len(feed.reaches) - len(told)
    words += f" and {more} more" if more else ""
    rinse = sum(x.pipe_l for x in feed.reaches) * RINSES
    return Finding(
        rule, "note",
        say(f"{quoted(feed.store.name)}: " + "{f} of feed for its {l}",
            f=Amount(feed.dose_ml, "dose"), l=Amount(feed.litres, "volume")),
        say((f"It reaches the last outlet of {words}." if told else "No line draws from it.")
            + (" A tablespoon a gallon is usual where fruit sets (common practice)."
               if feed.store.feed_ml_l <= COMMON_ML_L else
               " That is more than the tablespoon a gallon that is usual (common practice): salts "
               "gather in the mix.")
            + " Used up, run {w} of clean water through the lines and rinse the filters: feed "
            "grows slime.",
            w=Amount(rinse, "volume"),
            **{f"{_of(x)}{i}": Amount(x.minutes or x.days, "minutes" if x.minutes else "days",
                                      None if x.minutes else 1)
               for i, x in enumerate(told)}))


def _of(reaches: Reaches) -> str:
    return "m" if reaches.minutes else "d"
