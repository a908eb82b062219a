"""What each station says: its figures with their working, its findings, its one sentence."""

from __future__ import annotations

from collections.abc import Callable

from euhydra.core.advise.findings import StationReport
from euhydra.core.assessment.reckoning import Reckoning
from euhydra.core.stations import build, catch, grow, keep, lay, place, prove, push, store, time

REPORTS: dict[str, Callable[[Reckoning], StationReport]] = {
    "place": place.report, "catch": catch.report, "store": store.report, "grow": grow.report,
    "lay": lay.report, "push": push.report, "time": time.report, "prove": prove.report,
    "build": build.report, "keep": keep.report,
}
