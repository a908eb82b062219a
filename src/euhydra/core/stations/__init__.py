"""What each station says: its figures with their working, its findings, its one sentence."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from euhydra.core.statements.findings import StationReport
from euhydra.core.stations import build, catch, grow, keep, lay, place, prove, push, store, time

if TYPE_CHECKING:
    from euhydra.core.assessment.assess import Assessment

REPORTS: dict[str, Callable[[Assessment], StationReport]] = {
    "place": place.report, "catch": catch.report, "store": store.report, "grow": grow.report,
    "lay": lay.report, "push": push.report, "time": time.report, "prove": prove.report,
    "build": build.report, "keep": keep.report,
}
