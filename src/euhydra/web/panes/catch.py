"""Catch's panes."""

from __future__ import annotations

from euhydra.web.drawings import catch
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.panes.base import Pane


def roofs(sheet: Sheet) -> list[Pane]:
    """The roofs, what is lost on the way, and a storm."""
    return [Pane(drawing=catch.roofs(sheet))]
