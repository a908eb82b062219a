"""What follows a drag: the sizing curve of a garden with one roof edge moved, nothing kept."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Query, Request

from euhydra.core import units
from euhydra.core.editing.fields import NoSuchValue, bounded, measure_at
from euhydra.core.editing.values import SetValue
from euhydra.core.stations.catch import yearly_losses
from euhydra.web import charts
from euhydra.web.fields import Fields
from euhydra.web.routes.stations import shelf_of
from euhydra.web.sheet import Sheet

router = APIRouter(prefix="/g/{garden_id}")


@router.get("/curve")
def curve(request: Request, garden_id: str, path: str = Query(max_length=200),
          metres: float = Query(allow_inf_nan=False)) -> dict[str, Any]:
    """The chart's numbers and what reaches the stores, with a length set to so many metres.

    A length out of bounds is taken as the bound.
    """
    now = shelf_of(request).take(garden_id).assessment
    measure = measure_at(now.garden, path)
    if not path.startswith("roofs/") or measure.kind != "length":
        raise NoSuchValue(f"“{path[:80]}” is no edge of a roof")
    held = min(max(metres, measure.low), measure.high)
    value = bounded(held, measure, f"{held:g}", now.garden.units)
    then = now.revised(SetValue(path, value).apply(now.garden, now.library), now.record)
    sheet = Sheet(then, Fields(then.garden, then.library))
    return {"chart": charts.sizing_curve(sheet) if then.garden.stores else None,
            "metres": value, "shown": units.show(value, "length", then.garden.units),
            "caught": units.show(yearly_losses(then)["caught_l"], "yearly", then.garden.units)}
