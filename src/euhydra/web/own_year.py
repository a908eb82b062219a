"""One thing's own year: a plot's, a bank's or a zone's, and where it is changed."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core.daily.thirst import Lead
from euhydra.core.daily.year import Year
from euhydra.web.alive import address_of, the_year
from euhydra.web.drawings import own_year as draw
from euhydra.web.look import Look
from euhydra.web.sheet import Sheet


@dataclass(frozen=True)
class OwnYear:
    """A thing's own year, where the thing is changed, as (station, address).

    ``near`` is what belongs to it and has a year of its own, as (words, what to ask for).
    """

    name: str
    drawing: Markup
    leads: tuple[tuple[str, str], ...]
    near: tuple[tuple[str, str], ...] = ()


def own_year(sheet: Sheet, look: Look, of: str) -> OwnYear | None:
    """A plot's by its id, ``bank:0`` or ``zone:ID``; None where the garden has no such thing."""
    year = the_year(sheet.assessment, look)
    kind, _, key = of.partition(":")
    if kind == "bank":
        return _of_bank(sheet, look, year, key)
    if kind == "zone":
        return _of_zone(sheet, look, year, key)
    return _of_plot(sheet, look, year, of) if of in year.plots else None


def _of_plot(sheet: Sheet, look: Look, year: Year, plot: str) -> OwnYear:
    a, p = sheet.assessment, year.plots.index(plot)
    zone = next((z for z in a.garden.zones if plot in z.plots), None)
    leads = ([Lead("catch", "used")] if plot in year.season.world.washed else
             [Lead("grow", "plots", plot=plot),
              Lead("time", "zones", zone=zone.id if zone else "")])
    return OwnYear(year.season.world.names[p], draw.of_plot(sheet, year, p, look.today),
                   _led(sheet, look, leads),
                   ((f"Its line, {zone.name}", f"zone:{zone.id}"),) if zone else ())


def _of_bank(sheet: Sheet, look: Look, year: Year, key: str) -> OwnYear | None:
    banks = sheet.assessment.banks.banks
    if not (key.isdecimal() and len(key) < 4 and int(key) < len(banks) and sheet.garden.stores):
        return None
    bank = banks[int(key)]
    return OwnYear(bank.name, draw.of_bank(sheet, year, int(key), look.today),
                   _led(sheet, look, [Lead("store", "bank", store=bank.id), Lead("prove", "tank")]))


def _of_zone(sheet: Sheet, look: Look, year: Year, key: str) -> OwnYear | None:
    zone = next((z for z in sheet.garden.zones if z.id == key), None)
    if zone is None:
        return None
    return OwnYear(zone.name, draw.of_zone(sheet, year, zone, look.today), _led(
        sheet, look, [Lead("push", "", zone=zone.id), Lead("time", "zones", zone=zone.id)]))


def _led(sheet: Sheet, look: Look, leads: list[Lead]) -> tuple[tuple[str, str], ...]:
    a = sheet.assessment
    return tuple((a.station(lead.station).name, address_of(a, lead, look)) for lead in leads)
