"""The demo as it is on a day, for pictures: ``on_a_day.py 2026-07-14 --port 8017 --db FILE``."""

import datetime as dt
import importlib
import sys
import types

from euhydra import cli

READS = ("euhydra.web.shelf", "euhydra.web.look", "euhydra.web.routes.keep")


def main(day: dt.date, rest: list[str]) -> int:
    """Have the app's pages believe that it is the day, and serve the demo."""
    class Still(dt.date):
        @classmethod
        def today(cls) -> dt.date:
            return day

    names = {name: getattr(dt, name) for name in ("datetime", "timedelta", "UTC", "timezone")}
    still = types.SimpleNamespace(**names, date=Still)
    for module in READS:
        vars(importlib.import_module(module))["dt"] = still
    return cli.main(["demo", *rest])


if __name__ == "__main__":
    sys.exit(main(dt.date.fromisoformat(sys.argv[1]), sys.argv[2:]))
