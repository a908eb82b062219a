"""The garden: what it is made of, how it is edited, and its open file."""

from euhydra.core.garden.model import (
    Bed,
    Climate,
    Fitting,
    Garden,
    Line,
    Node,
    Outlet,
    Planting,
    Plot,
    Point,
    Pots,
    Roof,
    Site,
    Store,
    Tap,
    Zone,
)

__all__ = ["Bed", "Climate", "Fitting", "Garden", "Line", "Node", "Outlet", "Planting", "Plot",
           "Point", "Pots", "Roof", "Site", "Store", "Tap", "Zone"]
