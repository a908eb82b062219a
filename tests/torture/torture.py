"""``make torture``: what is promised of the file and of every address, at length.

Not in the suite; prints what it did and every failure, and ends with 1 if there was any. Each part
may be run alone by its name, and made shorter or longer: ``torture.py walk 0.1``.
"""

from __future__ import annotations

import resource
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from torture.files import damaged, full_disk, growth, locked
from torture.kills import kills
from torture.requests import fuzz, mutants, pictures, walk

PARTS: dict[str, Callable[[float, Path, list[str]], str]] = {
    "pictures": pictures, "damaged": damaged, "full-disk": full_disk, "locked": locked,
    "fuzz": fuzz, "mutants": mutants, "walk": walk, "growth": growth, "kills": kills}


def main() -> int:
    """Run the parts that are named, or all of them."""
    share = float(sys.argv[2]) if len(sys.argv) > 2 else 1.0
    chosen = [sys.argv[1]] if len(sys.argv) > 1 and sys.argv[1] != "all" else list(PARTS)
    faults: list[str] = []
    for part in chosen:
        with tempfile.TemporaryDirectory() as folder:
            before, start = len(faults), time.monotonic()
            said = PARTS[part](share, Path(folder), faults)
            print(f"{part}: {said}. {len(faults) - before} faults, "
                  f"{time.monotonic() - start:.0f} s.", flush=True)
    for fault in faults[:60]:
        print(fault, "\n", flush=True)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"{len(faults)} faults; at most {peak:.0f} MB of memory.")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())
