"""A date that stands still, so that what is said of today does not hang on the day it is tested."""

import datetime as dt
import types

import pytest

JULY = dt.date(2026, 7, 14)


class Still(dt.date):
    """A date whose today is a day in July."""

    @classmethod
    def today(cls):
        return JULY


def stand_still(monkeypatch: pytest.MonkeyPatch) -> None:
    """Have the app's pages believe that it is July."""
    still = types.SimpleNamespace(**{name: getattr(dt, name) for name in (
        "datetime", "timedelta", "UTC", "timezone")}, date=Still)
    for module in ("euhydra.web.shelf", "euhydra.web.look"):
        monkeypatch.setattr(f"{module}.dt", still)
