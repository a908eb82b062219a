"""The stand-in devices that are running, one set a garden, for as long as the app runs."""

from __future__ import annotations

import threading
from collections import OrderedDict

from euhydra.core.results.results import Results
from euhydra.standins import Bench
from euhydra.web.shelf import Standing

KEPT = 6


class Benches:
    """Benches by garden. One is set up anew when its garden changes. Safe for several threads."""

    def __init__(self) -> None:
        self.lock = threading.RLock()
        self._kept: OrderedDict[str, tuple[int, Bench]] = OrderedDict()

    def of(self, standing: Standing) -> Bench | None:
        """The garden's bench as its clock stands; None where nothing waits for a timer."""
        with self.lock:
            kept = self._kept.get(standing.garden.id)
            if kept is None or kept[0] != standing.kept.change:
                return self.start(standing)
            return kept[1]

    def start(self, standing: Standing) -> Bench | None:
        """A bench from Monday midnight in the thirstiest month, its store full."""
        r: Results = standing.assessment
        source = next((z.source for z in r.garden.timed_zones), None)
        if source is None:
            return None
        with self.lock:
            bench = Bench(r, source, r.demand.peak_month)
            self._kept[standing.garden.id] = (standing.kept.change, bench)
            self._kept.move_to_end(standing.garden.id)
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
            return bench
