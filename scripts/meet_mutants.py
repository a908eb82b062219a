"""Put one mutant after another in the place of its module, and see whether the tests notice.

What is slow to load is loaded once; each mutant is met in a process forked from there, the tests
of its own floor first, and of each those that were quickest so far. Tells a line for each: killed
or lives, and the seconds it took.
"""

from __future__ import annotations

import importlib
import json
import os
import resource
import sys
import time
from pathlib import Path
from typing import Any

import pytest

SLOW_TO_LOAD = ("numba", "numpy", "scipy.sparse.linalg", "scipy.optimize", "scipy.interpolate",
                "shapely", "pydantic", "hypothesis", "pandas", "wntr", "pyet", "pyfao56", "pyswmm",
                "fluids", "pint", "PIL", "jsonschema")
STUCK_S, UNCHANGED_S = 240.0, 300.0  # of work: a loop without end; the tests with nothing changed
TIMES, AS_WRITTEN = Path("times.json"), Path("times-as-written.json")


class Quickest:
    """The tests in order of what they took before, a floor's own first; whether one failed."""

    def __init__(self, took: dict[str, float], enough_s: float, floor: str) -> None:
        self.took, self.enough_s, self.floor = took, enough_s, f"/{floor}/"
        self.failed, self.began = False, time.process_time()

    def pytest_collection_modifyitems(self, items: list[pytest.Item]) -> None:
        """Its own floor's first, and of each the quickest."""
        items[:] = sorted((i for i in items if "compiled_once" not in i.nodeid), key=lambda i: (
            self.floor not in i.nodeid, self.took.get(i.nodeid, 1.0)))

    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        """Take down what it took."""
        self.failed = self.failed or report.failed
        if report.when == "call":
            self.took[report.nodeid] = report.duration

    def pytest_runtest_setup(self, item: pytest.Item) -> None:
        """Leave out what would begin too late."""
        if time.process_time() - self.began > self.enough_s:
            pytest.skip("enough")


def main() -> int:
    """Meet them all; 1 where the tests fail with nothing changed."""
    for name in SLOW_TO_LOAD:
        importlib.import_module(name)
    jobs: list[dict[str, Any]] = json.loads(Path(sys.argv[1]).read_text(encoding="utf-8"))
    every = sorted({t for job in jobs for t in job["tests"]})
    for loops in {False, *(job["loops"] for job in jobs)}:
        if _noticed(every, loops=loops, enough_s=UNCHANGED_S):
            return 1
    for job in jobs:
        began, path = time.monotonic(), Path(job["path"])
        kept = path.read_bytes()
        path.write_text(job["code"], encoding="utf-8")
        for old in path.parent.glob(f"__pycache__/{path.stem}.*.pyc"):
            old.unlink()
        noticed = bool(job["tests"]) and _noticed(
            job["tests"], loops=job["loops"], enough_s=job["enough_s"], floor=path.parent.name)
        path.write_bytes(kept)
        print("killed" if noticed else "lives", f"{time.monotonic() - began:.1f}", flush=True)
    return 0


def _noticed(tests: list[str], *, loops: bool, enough_s: float, floor: str = "") -> bool:
    """Whether a test fails, or never ends. ``loops`` that are changed run as they are written.

    No test is begun after ``enough_s`` of work, however busy the machine is.
    """
    child = os.fork()
    if not child:
        # By work, not by the clock: a run that is held up is not stuck.
        most = int(max(STUCK_S, 2 * enough_s))
        resource.setrlimit(resource.RLIMIT_CPU, (most, most))
        os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
        os.dup2(1, 2)
        sys.dont_write_bytecode = True
        os._exit(_in_child(tests, loops=loops, enough_s=enough_s, floor=floor))
    _, status = os.waitpid(child, 0)
    return os.waitstatus_to_exitcode(status) != 0


def _in_child(tests: list[str], *, loops: bool, enough_s: float, floor: str) -> int:
    import numba

    numba.config.DISABLE_JIT = loops
    took = [json.loads(f.read_text(encoding="utf-8")) for f in (TIMES, AS_WRITTEN) if f.exists()]
    plugin = Quickest(took[0] | took[-1] if loops else took[0], enough_s, floor)
    ended = pytest.main(["-x", "-q", "-W", "ignore", "-p", "no:cacheprovider", *tests],
                        plugins=[plugin])
    if not plugin.failed and ended in (pytest.ExitCode.OK, pytest.ExitCode.NO_TESTS_COLLECTED):
        if loops:
            AS_WRITTEN.write_text(json.dumps(plugin.took), encoding="utf-8")
        return 0
    return 1


if __name__ == "__main__":
    sys.exit(main())
