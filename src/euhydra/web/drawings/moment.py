"""A day of a year as the garden's picture shows it: shares, tones, words."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.daily.run import Run
from euhydra.core.daily.year import LEAST_L, TONES, WET_MM, Year
from euhydra.core.editing.placement import Placed
from euhydra.core.garden.model import AnyPlot
from euhydra.web.drawings.frame import Frame
from euhydra.web.sheet import Sheet


@dataclass(frozen=True, eq=False)
class Moment:
    """A day of a year, in the words and shares that the picture shows."""

    sheet: Sheet
    year: Year
    day: int

    @property
    def wet(self) -> bool:
        """Whether it rains."""
        return bool(self.year.rain_mm[self.day] >= WET_MM)

    @property
    def washes(self) -> bool:
        """Whether used water comes."""
        return bool(self.year.used[self.day] >= LEAST_L)

    @property
    def flowing(self) -> dict[str, Run]:
        """The last run of each zone that brings water on the day."""
        return {run.of: run for run in self.year.runs_by_day.get(self.day, ())
                if run.litres >= LEAST_L}

    def litres(self, value: float) -> str:
        """Litres as they are shown."""
        return self.sheet.show(value, "volume")

    def share(self, plot: str) -> float:
        """What is left in a plot's roots, 0 to 1."""
        return float(self.year.left[self.year.plots.index(plot), self.day])

    def tone(self, plot: str) -> str:
        """How that stands."""
        return TONES[self.year.tone[self.year.plots.index(plot), self.day]]


def gives_words(now: Moment, kind: str) -> str:
    """What a tap or a well gives on the day, what a laundry leads out."""
    litres = {"tap": now.year.tap, "well": now.year.well, "drain": now.year.used}[kind][now.day]
    return now.litres(float(litres)) if litres >= LEAST_L else "shut" if kind != "drain" else ""


def level_words(now: Moment, level: float, whole: float) -> str:
    """How much stands in a store; nothing of a day that is still to come."""
    return f"{now.litres(level)} of {now.litres(whole)}" if now.year.has(now.day) else ""


def rain_words(now: Moment) -> str:
    """What rained, or for how long it has not."""
    rain = now.year.rain_mm
    if not now.year.rain_known:
        return ""
    if now.wet:
        return f"{now.sheet.show(float(rain[now.day]), 'depth')} of rain"
    return dry_words(int(now.year.dry_days[now.day]))


def dry_words(days: int) -> str:
    """For how many days no rain fell."""
    return f"dry for {days} day{'s' if days != 1 else ''}"


def over_words(now: Moment) -> str:
    """What ran over all rims on the day; empty where nothing did."""
    over = float(now.year.over[now.day])
    return f"{now.litres(over)} runs over" if over >= LEAST_L else ""


def plot_of(now: Moment, thing: Placed) -> str:
    """The season's name for a thing that has roots; empty for any other."""
    plot = thing.path.split("/")[-1] if isinstance(thing.thing, AnyPlot) else ""
    if thing.kind == "basin":
        _, drain, _, basin = thing.path.split("/")
        plot = f"{drain}/{basin}"
    return plot if plot in now.year.plots else ""


def box_of(frame: Frame, thing: Placed) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of a thing on the sheet."""
    west, south, east, north = thing.bounds
    return (*frame.xy(west, north), *frame.xy(east, south))
