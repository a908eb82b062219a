"""What is typed on this morning's page: the rain that is forecast."""

from __future__ import annotations

import datetime as dt
from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import RedirectResponse, Response

from euhydra.core import parsing, units
from euhydra.core.garden.base import day_of_year
from euhydra.core.log.entries import KINDS
from euhydra.core.log.now import MOST_FORECAST_DAYS
from euhydra.core.units import System
from euhydra.web.fields import Rejected
from euhydra.web.garden_page import garden_page
from euhydra.web.look import Look
from euhydra.web.routes.stations import shelf_of

router = APIRouter(prefix="/g/{garden_id}")


@router.post("/forecast")
def forecast(request: Request, garden_id: str,
             typed: Annotated[str, Form(max_length=400)] = "") -> Response:
    """Take the rain of the days to come, from today on; nothing typed forgets it."""
    shelf = shelf_of(request)
    standing = shelf.take(garden_id)
    today = standing.assessment.today or dt.date.today()
    try:
        fell = read_forecast(typed, standing.garden.units)
    except parsing.BadEntry as error:
        return garden_page(request, standing, Look(today=day_of_year(today.isoformat()[5:])),
                           rejected=Rejected("forecast", typed, error.why), status=422)
    shelf.forecasts.put(garden_id, {today + dt.timedelta(days=n): mm
                                    for n, mm in enumerate(fell)}, today)
    return RedirectResponse(f"/g/{garden_id}/garden", status_code=303)


def read_forecast(typed: str, system: System) -> list[float]:
    """Rain of each day from today on, mm: ``"0, 0, 12 mm"``. Raises BadEntry."""
    parts = [part for part in typed.split(",") if part.strip()]
    if len(parts) > MOST_FORECAST_DAYS:
        raise parsing.BadEntry(typed, f"These are {len(parts)} days; {MOST_FORECAST_DAYS} are the "
                                      "most that a forecast is taken for.")
    fell = [parsing.parse(part, "rain", system) for part in parts]
    most = KINDS["rain"].most
    for part, mm in zip(parts, fell, strict=True):
        if not 0 <= mm <= most:
            raise parsing.BadEntry(typed, f"“{part.strip()[:40]}” is out of reach. Rain goes from "
                                          f"0 to {units.show(most, 'rain', system)} a day.")
    return fell
