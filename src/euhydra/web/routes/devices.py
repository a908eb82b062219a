"""The stand-in devices over HTTP, by a small protocol for real ones too: docs/devices.md."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Form, HTTPException, Request
from fastapi.responses import HTMLResponse, JSONResponse

from euhydra.core.garden.base import WEEK
from euhydra.standins import FAULTS, Bench
from euhydra.web import pages
from euhydra.web.benches import Benches
from euhydra.web.panes.watch import watched
from euhydra.web.shelf import Shelf

router = APIRouter(prefix="/g/{garden_id}/devices")
MOST_STEP_MIN = 1440


def told(bench: Bench) -> dict[str, Any]:
    """What every device says now."""
    now = bench.reading()
    day, at = divmod(now.minute, 1440)
    return {
        "clock": {"minute": now.minute, "day": WEEK[day % 7], "time": f"{at // 60}:{at % 60:02d}"},
        "weather": {"rain_mm_two_days": round(now.rain_mm, 1),
                    "rain_mm_yesterday": round(bench.yesterday_mm, 1),
                    "forecast_mm": [round(mm, 1) for mm in bench.forecast_mm]},
        "timer": {"kinds": bench.kinds, "open": now.open_zone.split(",") if now.open_zone
                  else []},
        "meter": {"litres": now.meter_l},
        "gauge": {"store": bench.source if bench.bank >= 0 else "",
                  "litres": now.gauge_l, "of": round(bench.usable_l, 1)},
        "faults": sorted(bench.faults)}


@router.get("")
def every(request: Request, garden_id: str) -> JSONResponse:
    """All devices at once."""
    return JSONResponse(told(_bench(request, garden_id)))


@router.get("/{device}")
def one(request: Request, garden_id: str, device: str) -> JSONResponse:
    """One device: clock, weather, timer, meter or gauge."""
    said = told(_bench(request, garden_id))
    if device not in said:
        raise HTTPException(404)
    return JSONResponse(said[device])


@router.post("/clock")
def clock(request: Request, garden_id: str, minutes: Annotated[int, Form(ge=1, le=MOST_STEP_MIN)]
          ) -> HTMLResponse:
    """Move the virtual clock on."""
    bench = _bench(request, garden_id)
    with _benches(request).lock:
        bench.advance(minutes)
    return _panel(request, garden_id, bench)


@router.post("/faults")
def faults(request: Request, garden_id: str, fault: Annotated[str, Form()] = "") -> HTMLResponse:
    """Give the devices a fault; with none named all are mended."""
    if fault and fault not in FAULTS:
        return pages.problem(request, 422, "There is no such fault",
                             f"“{fault[:40]}” is none of: {', '.join(FAULTS)}.")
    bench = _bench(request, garden_id)
    with _benches(request).lock:
        bench.give(fault)
    return _panel(request, garden_id, bench)


@router.post("/start")
def start(request: Request, garden_id: str) -> HTMLResponse:
    """Everything from Monday midnight, whole, the store full."""
    shelf: Shelf = request.app.state.shelf
    bench = _benches(request).start(shelf.take(garden_id))
    if bench is None:
        raise HTTPException(404)
    return _panel(request, garden_id, bench)


def _benches(request: Request) -> Benches:
    benches: Benches = request.app.state.benches
    return benches


def _bench(request: Request, garden_id: str) -> Bench:
    shelf: Shelf = request.app.state.shelf
    bench = _benches(request).of(shelf.take(garden_id))
    if bench is None:
        raise HTTPException(404)
    return bench


def _panel(request: Request, garden_id: str, bench: Bench) -> HTMLResponse:
    shelf: Shelf = request.app.state.shelf
    garden = shelf.take(garden_id).garden
    return pages.templates.TemplateResponse(request, "_bench.html", {
        "garden": garden, "bench": watched(bench, garden.units)})
