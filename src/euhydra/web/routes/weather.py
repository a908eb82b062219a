"""The garden's weather: a daily file read in, a record put to use, months pasted."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Form, Request, UploadFile
from fastapi.responses import RedirectResponse, Response, StreamingResponse

from euhydra.core.editing.edits import Edit, SetMonths, UseRecord
from euhydra.core.editing.trees import EditRefused
from euhydra.core.weather.columns import UNITS
from euhydra.core.weather.lines import BadWeather, DayOrder
from euhydra.core.weather.pasted import months_pasted
from euhydra.core.weather.reading import Choices, Read, reading
from euhydra.core.weather.services import known
from euhydra.core.weather.typical import BadYear, TypicalYear, typical_year
from euhydra.store.weather import NoSuchRecord
from euhydra.web.routes.stations import kept, kept_or_said, shelf_of
from euhydra.web.shelf import Shelf, Standing

router = APIRouter(prefix="/g/{garden_id}")
Text = Annotated[str, Form(max_length=400)]
GAPS_KEPT = 200


@router.post("/weather")
def read_file(request: Request, garden_id: str, file: UploadFile, unit_rain: Text = "",
              unit_tmin: Text = "", unit_wind: Text = "",
              day_order: Annotated[DayOrder, Form()] = "",
              wind_height: Annotated[Literal["2", "10"], Form()] = "10") -> Response:
    """Read a daily file and keep it; the page's own script is told how far it has come."""
    shelf = shelf_of(request)
    shelf.gardens.load(garden_id)
    units = {"rain": unit_rain, "tmin": unit_tmin, "wind": unit_wind}
    for group, unit in units.items():
        if unit and unit not in UNITS[group][1]:
            raise EditRefused(f"“{unit[:30]}” is not a unit for {group} here. There are: "
                              f"{', '.join(UNITS[group][1])}.")
    name = (file.filename or "weather file")[:80]
    steps = _kept_steps(shelf, garden_id, name, _text(file.file.read(), name),
                        Choices({k: v for k, v in units.items() if v}, day_order,
                                float(wind_height)))
    if request.headers.get("x-fragment"):
        return StreamingResponse((json.dumps(step) + "\n" for step in steps),
                                 media_type="application/x-ndjson")
    last = list(steps)[-1]
    if "refused" in last:
        raise EditRefused(last["refused"])
    return RedirectResponse(last["done"], status_code=303)


def _kept_steps(shelf: Shelf, garden_id: str, name: str, text: str, choices: Choices
                ) -> Iterator[dict[str, Any]]:
    """How far the reading is, then where to look at it, or why it was refused."""
    try:
        if year := typical_year(text):
            yield {"done": _months_taken(shelf, garden_id, year)}
            return
        service = known(text)
        if service and service.lacks:
            raise BadWeather(f"this is {service.service}, without {' and '.join(service.lacks)}. "
                             "Take a station that measures rain, low and high.")
        for step in reading(service.table if service else text, choices):
            if isinstance(step, Read):
                shelf.records.add(step.record, name, _report(step) | (
                    {"service": service.service} if service else {}))
                yield {"done": f"/g/{garden_id}/place?view=file&read={step.record.id}"}
            else:
                yield {"read": round(step, 3)}
    except (BadWeather, BadYear, EditRefused) as error:
        yield {"refused": f"{name}: {error}"}


def _months_taken(shelf: Shelf, garden_id: str, year: TypicalYear) -> str:
    """Put the months of a typical year into the climate; where to look at them."""
    title = f"Months of a typical year, {year.service}" + (
        ": no rain in it, yours stays" if year.lacks_rain else "")
    shelf.edit(garden_id, lambda _: (SetMonths(year.tables), title))
    return f"/g/{garden_id}/place?view=months"


def _text(body: bytes, name: str) -> str:
    for encoding in ("utf-8-sig", "utf-16" if body[:2] in (b"\xff\xfe", b"\xfe\xff") else "cp1252"):
        try:
            text = body.decode(encoding)
        except UnicodeDecodeError:
            continue
        if "\x00" not in text:
            return text
    raise EditRefused(f"“{name}” is not text. A daily weather file is CSV: a line of column names "
                      "and a line a day.")


def _report(read: Read) -> dict[str, Any]:
    """How the file was read, as plain data to keep beside the record."""
    return {"lines": read.lines, "refused_count": read.refused_count,
            "refused": [{"line": r.line, "why": r.why} for r in read.refused],
            "filled_days": read.filled.filled_days, "left_out": list(read.filled.left_out),
            "gaps": [{"start": g.start.isoformat(), "days": g.days}
                     for g in read.filled.gaps[:GAPS_KEPT]],
            "columns": [{"head": c.head, "holds": c.holds, "unit": c.unit_shown if c.unit else "",
                         "known_by": c.known_by} for c in read.columns]}


@router.post("/weather/use")
def use_record(request: Request, garden_id: str, record: Text) -> Response:
    """Reckon the garden with a record that was read."""
    shelf = shelf_of(request)
    try:
        there = shelf.records.load(record)
    except NoSuchRecord:
        raise EditRefused("That record is not kept here. Read the file again.") from None

    def make(standing: Standing) -> tuple[Edit, str]:
        return UseRecord(record, there.record.normals()), f"Weather of {there.name}"

    return kept(request, garden_id, "place", make)


@router.post("/months")
def paste_months(request: Request, garden_id: str,
                 pasted: Annotated[str, Form(max_length=8000)] = "") -> Response:
    """Put pasted months into the climate, or say beside them what is allowed."""
    def make(standing: Standing) -> tuple[Edit, str]:
        return SetMonths(months_pasted(pasted, standing.garden.units)), "Months pasted"

    return kept_or_said(request, garden_id, "place", make, "months", pasted)
