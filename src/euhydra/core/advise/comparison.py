"""Two gardens on one scale: what each drinks, lacks, spills, asks of a person and of the purse."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core.construction.parts import cost_of
from euhydra.core.season.thirsty import thirst_of
from euhydra.core.statements.figures import Amount

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

OPENING_MIN = 4.0  # to open a tap and to come back to shut it, from memory
ALIKE = 0.005  # a share of the larger


@dataclass(frozen=True)
class Measured:
    """One thing that gardens are compared by; ``less`` says whether less of it is better."""

    key: str
    label: str
    amount: Amount
    less: bool = True


@dataclass(frozen=True)
class Compared:
    """The same thing of two gardens."""

    mine: Measured
    theirs: Measured

    @property
    def gap(self) -> float:
        """How much more the first has; 0 where they are all but alike."""
        a, b = self.mine.amount.value, self.theirs.amount.value
        return 0.0 if abs(a - b) < ALIKE * max(abs(a), abs(b), 1e-9) else a - b

    @property
    def better(self) -> bool:
        """Whether the first is the better by this."""
        return self.gap != 0 and (self.gap < 0) == self.mine.less


def compared(r: Results, other: Results) -> tuple[Compared, ...]:
    """Two gardens thing by thing."""
    return tuple(Compared(a, b) for a, b in zip(measured(r), measured(other), strict=True))


def measured(r: Results) -> tuple[Measured, ...]:
    """A garden's own figures, the timer as it is set; litres of a mean year."""
    season, n = r.season, r.years
    month = r.demand.peak_month
    runs = [s for zone in r.garden.timed_zones if (s := r.schedule.setting_in(zone.id, month))]
    opened = sum(s.runs_a_week for zone in r.garden.timed_zones
                 if not r.garden.timer_of(zone) and (s := r.schedule.setting_in(zone.id, month)))
    carried = sum(each.a_week_min(month) for each in r.schedule.by_hand.values())
    days = [d for _, d in thirst_of(r.season, r.demand)]
    return (
        Measured("tap", "Tap water a year", Amount(float(season.tap.sum()) / n, "yearly")),
        Measured("thirst", "Thirsty days, the thirstiest plot",
                 Amount(max(days, default=0.0), "days")),
        Measured("thirst_all", "Thirsty days, all plots together",
                 Amount(float(np.sum(days)), "days")),
        Measured("spilled", "Spilled a year", Amount(float(season.spilled.sum()) / n, "yearly")),
        Measured("wasted", "Past the roots a year",
                 Amount(float(season.wasted.sum()) / n, "yearly")),
        Measured("usable", "Usable water in the stores", Amount(r.usable_l, "volume"), less=False),
        Measured("running", "Running a week, in the thirstiest month",
                 Amount(sum(s.minutes * s.runs_a_week for s in runs) / 60, "hours")),
        Measured("by_hand", "Work at the taps a week, then",
                 Amount(OPENING_MIN * opened + carried, "minutes")),
        Measured("cost", "Must-have parts, made-up prices", Amount(cost_of(r.parts), "money")),
        Measured("line", "Line to lay", Amount(sum(x.length_m for x in r.garden.lines), "length")),
        Measured("pieces", "Pieces to buy", Amount(float(sum(
            p.quantity for p in r.parts if p.need == "must" and p.sold_by == "each")), "count")),
    )
