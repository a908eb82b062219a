"""What would help most, kept as a copy of the garden."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, Request
from fastapi.responses import RedirectResponse

from euhydra.core.editing.trees import EditRefused
from euhydra.web.offers import HELP, offer
from euhydra.web.routes.stations import shelf_of

router = APIRouter(prefix="/g/{garden_id}/helps")


@router.post("/copy")
def copy(request: Request, garden_id: str, changes: Annotated[str, Form(
        alias="set", max_length=1500)]) -> RedirectResponse:
    """A copy of the garden with changes made, beside which the garden stays as it is."""
    shelf = shelf_of(request)
    a = shelf.take(garden_id).assessment
    found = offer(a, "prove", changes) if changes.startswith(HELP) else None
    if found is None:
        raise EditRefused("These changes no longer apply: the garden has changed since they were "
                          "weighed. Look for what helps again.")
    then = a.after(found.edit)
    made = shelf.copy(then, f"{a.garden.name[:60]}, helped",
                      f"Copied from {a.garden.name[:60]} with {found.title(a.garden.units)}"[:120])
    return RedirectResponse(f"/g/{made.id}/garden?other={garden_id}", status_code=303)
