"""Push: the section while its water is drawn up or down; a pump fitted; networks as INP files."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Query, Request
from fastapi.responses import JSONResponse, Response

from euhydra.core.advise.pump_choice import suits
from euhydra.core.editing.edits import Edit
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.trees import EditRefused
from euhydra.exports.inp import as_inp
from euhydra.web.drawings import push
from euhydra.web.fields import Fields
from euhydra.web.look import look_of
from euhydra.web.routes.files import saved
from euhydra.web.routes.stations import kept, shelf_of
from euhydra.web.sheet import Sheet
from euhydra.web.shelf import Standing

router = APIRouter(prefix="/g/{garden_id}")
Text = Annotated[str, Form(max_length=80)]


@router.get("/push/water")
def follow(request: Request, garden_id: str, level: int = Query(50, ge=0, le=100)) -> Response:
    """The section with so many hundredths of the usable water."""
    look = replace(look_of(request), level=str(level))
    a = shelf_of(request).take(garden_id).assessment
    sheet = Sheet(a, Fields(a.garden, a.library), zone=look.zone, level=look.level,
                  plot=look.plot)
    return JSONResponse({"section": str(push.draw(sheet))})


@router.post("/pump")
def fit(request: Request, garden_id: str, store: Text, kind: Text) -> Response:
    """Fit a pump of a kind to a store, with a regulator where it would burst the fittings."""
    def make(standing: Standing) -> tuple[Edit, str]:
        garden, library = standing.garden, standing.assessment.library
        if not any(s.id == store for s in garden.stores):
            raise EditRefused(f"“{store[:60]}” is not a store of this garden.")
        best = suits(garden, library, garden.store_of(store), standing.assessment.demand.drinks)
        edit = best if best and best.kind == kind else FitPump(store, kind)
        return edit, f"Fit a {library.pumps[kind].name}"[:120] if kind in library.pumps else ""

    return kept(request, garden_id, "push", make)


@router.get("/export/{zone_id}.inp")
def as_epanet(request: Request, garden_id: str, zone_id: str) -> Response:
    """A zone's network as an EPANET file, with the water that the address asks for."""
    a = shelf_of(request).take(garden_id).assessment
    zone = next((z for z in a.garden.zones if z.id == zone_id), None)
    if zone is None:
        raise HTTPException(404)
    share = Sheet(a, Fields(a.garden, a.library), level=look_of(request).level).water_share
    flow = a.flows.with_share(zone, share)
    places = {n.id: (n.at.x_m, n.at.y_m) for n in a.garden.nodes}
    title = f"{a.garden.name}: {zone.name}\nwater at {flow.water_z_m:.3f} m over the datum"
    return saved(as_inp(flow.network, title, places), "text/plain; charset=utf-8",
                 f"{garden_id}-{zone_id}.inp")
