"""A date that stands still, so that what is said of today does not hang on the day it is tested."""

import datetime as dt
import types

import pytest

JULY = dt.date(2026, 7, 14)
READS = ("euhydra.web.shelf", "euhydra.web.look", "euhydra.web.api.app", "euhydra.web.routes.keep")


def stand_still(monkeypatch: pytest.MonkeyPatch, day: dt.date = JULY) -> None:
    """Have the app believe that it is a day in July."""
    class Still(dt.date):
        @classmethod
        def today(cls):
            return day

    still = types.SimpleNamespace(**{name: getattr(dt, name) for name in (
        "datetime", "timedelta", "UTC", "timezone")}, date=Still)
    for module in READS:
        monkeypatch.setattr(f"{module}.dt", still)
