"""Catch's panes."""

from __future__ import annotations

import numpy as np

from euhydra.core.garden.model import Drain
from euhydra.core.stations import drums
from euhydra.core.stations.drains import ground_m2, ground_need_l
from euhydra.core.stations.place import MONTHS
from euhydra.core.storage import storm
from euhydra.core.supply import greywater, mains
from euhydra.core.weather.generator import MONTH_OF_DAY
from euhydra.web import charts
from euhydra.web.drawings import catch
from euhydra.web.drawings import storm as draw_storm
from euhydra.web.panes.base import Links, Pane, Table
from euhydra.web.sheet import Sheet
from euhydra.web.words import PART_WORDS

LINT_WEEKS = (2, 4, 8, 16, 26)
DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


def roofs(sheet: Sheet) -> list[Pane]:
    """The roofs and what is lost on the way, and every downspout."""
    keys = ("to", "share", "along_m", "bore_mm", "diverter_mm", "restrictor_l_h")
    grid = tuple((f"{roof.name}, {spout.name}", tuple(sheet.fields.at(
        f"roofs/{roof.id}/downspouts/{spout.id}/{key}", f"{roof.name}, {spout.name}")
        for key in keys)) for roof in sheet.garden.roofs for spout in roof.downspouts)
    add = (("roof", "Add a roof"), *((f"roofs/{r.id}/downspouts", f"Add a downspout to {r.name}")
                                     for r in sheet.garden.roofs))
    shared = tuple((roof.name, (sheet.fields.at(f"roofs/{roof.id}/gutter_of", roof.name),))
                   for roof in sheet.garden.roofs) if len(sheet.garden.roofs) > 1 else ()
    return [Pane(add=add), Pane(drawing=catch.roofs(sheet)),
            *([Pane(chart=charts.sizing_curve(sheet), live=True)] if sheet.garden.stores else []),
            Pane(grid=grid, heads=("Downspout", "Leads to", "Share", "Along the gutter", "Bore",
                                   "Hose to the store", "Restrictor")),
            *([Pane(grid=shared, heads=("Roof", "Shares the gutter of"))] if shared else []),
            *_merging(sheet),
            Pane(twin=True, table=_months(sheet))]


def _merging(sheet: Sheet) -> list[Pane]:
    """How each store's downspouts come to it: by a diverter each, or through one pipe."""
    led = {spout.to for roof in sheet.garden.roofs for spout in roof.downspouts}
    grid = tuple((store.name, tuple(
        sheet.fields.at(f"stores/{store.id}/{key}", store.name)
        for key in ("merged_mm", "merged_m", "flush_buried")))
        for store in sheet.garden.stores if store.id in led)
    return [Pane(grid=grid, heads=(
        "Store", "One pipe for all its downspouts (0: a diverter each)", "That pipe's length",
        "First flush buried"))] if grid else []


def _months(sheet: Sheet) -> Table:
    """What each roof brings, month by month."""
    a = sheet.assessment
    caught = [[float(a.inflow.yields[roof.id].caught_l[:, m == MONTH_OF_DAY].sum()) / a.years
               for m in range(12)] for roof in sheet.garden.roofs]
    whole = np.sum(caught, axis=0) if caught else np.zeros(12)
    return Table("Litres that reach the stores by month",
                 ("Month", *(r.name for r in sheet.garden.roofs), "All"),
                 tuple((MONTHS[m], *(sheet.show(c[m], "volume") for c in caught),
                        sheet.show(float(whole[m]), "volume")) for m in range(12)),
                 frozenset(range(1, len(caught) + 2)))


def a_storm(sheet: Sheet) -> list[Pane]:
    """The storm strip, with its table twin."""
    if not sheet.garden.stores or not sheet.garden.roofs:
        return [Pane(add=(("roof", "Add a roof"), ("store", "Add a store")))]
    a = sheet.assessment
    rows = tuple((PART_WORDS[x.part].capitalize(), x.name,
                  sheet.show(x.capacity_l_h, "flow", 0),
                  sheet.show(x.gives_at_mm_h, "rain") + " an hour")
                 for x in storm.limits(sheet.garden, a.library, a.banks))
    return [*_banks(sheet), Pane(drawing=draw_storm.strip(sheet)), Pane(twin=True, table=Table(
        "What each part carries", ("Part", "Where", "Carries", "Full at"), rows,
        frozenset({2, 3})))]


def _banks(sheet: Sheet) -> list[Pane]:
    """Which stores' filling is shown, where there are several apart."""
    a = sheet.assessment
    if len(a.banks.banks) < 2:
        return []
    shown = a.banks.holding(sheet.store) if sheet.store in a.banks.of_store else a.fullest_fed
    return [Pane(links=Links("Filling of", tuple(
        (f"/g/{sheet.garden.id}/catch?view=storm&store={b.id}", b.name, b.id == shown.id)
        for b in a.banks.banks)))]


def used_water(sheet: Sheet) -> list[Pane]:
    """Every drain with its washing days, and both schools side by side."""
    panes = [Pane(add=(("drain", "Add a laundry drain"),
                       *((f"drains/{d.id}/basins", f"Add a basin to {d.name}")
                         for d in sheet.garden.drains)))]
    for drain in sheet.garden.drains:
        panes += _drain(sheet, drain)
    return [*panes, Pane(table=_schools(sheet))]


def _drain(sheet: Sheet, drain: Drain) -> list[Pane]:
    at, path = sheet.fields.at, f"drains/{drain.id}"
    keys = ["name", "fixture", "litres_a_use", "use_min", "product", "school", "soil", "way_back",
            "bedrooms"]
    if drain.school == "drum":
        keys += ["drum_l", "drum_lid", "stand_m", "drum_outlet_m"]
    week = tuple(at(f"{path}/uses/{i}", drain.name, name) for i, name in enumerate(DAYS))
    panes = [Pane(bar=tuple(at(f"{path}/{key}", drain.name) for key in keys), few=2),
             Pane(grid=((f"{drain.name}, uses a day", week),), heads=("Washing days", *DAYS)),
             Pane(table=_day_table(sheet, drain))]
    if drain.school == "drum":
        panes += [Pane(drawing=draw_storm.washing_day(sheet, drain)),
                  *_led(sheet, drain), Pane(table=_ground(sheet, drain)),
                  *([Pane(table=_lint(sheet, drain))] if drain.id in sheet.assessment.drums
                    else [])]
    elif drain.basins:
        panes += [Pane(grid=tuple((b.name, tuple(at(f"{path}/basins/{b.id}/{key}", b.name)
                                                 for key in ("crop", "length_m", "width_m",
                                                             "depth_m")))
                                  for b in drain.basins),
                       heads=("Basin", "What grows there", "Length", "Width", "Mulch")),
                  Pane(table=_ground(sheet, drain))]
    return panes


def _day_table(sheet: Sheet, drain: Drain) -> Table:
    need = greywater.area_needed_m2(greywater.peak_day_l(drain), drain.soil,
                                    sheet.assessment.library)
    return Table(f"G  {drain.name}: what comes, and the ground it takes", (
        "A week", "Busiest day", "By the code's count", "Ground needed", "Ground there is"),
        ((sheet.show(greywater.week_l(drain), "volume"),
          sheet.show(greywater.peak_day_l(drain), "volume"),
          sheet.show(greywater.code_day_l(drain), "volume") + " a day",
          sheet.show(need, "area"), sheet.show(ground_m2(sheet.assessment, drain), "area")),),
        frozenset(range(5)))


def _ground(sheet: Sheet, drain: Drain) -> Table:
    need = ground_need_l(sheet.assessment, drain)
    comes = drums.comes_by_month_l(sheet.assessment, drain)
    return Table(f"G  {drain.name}: litres a day against what grows there",
                 ("Month", "Comes", "Plants drink, after rain", "Left to bring"),
                 tuple((MONTHS[m], sheet.show(comes[m], "daily"), sheet.show(need[m], "daily"),
                        sheet.show(max(need[m] - comes[m], 0.0), "daily")) for m in range(12)),
                 frozenset({1, 2, 3}))


def _led(sheet: Sheet, drain: Drain) -> list[Pane]:
    """What hangs on a drum: each plot's share of what it gives, and when its tap is open."""
    lines = sheet.assessment.drums.get(drain.id)
    if lines is None:
        return []
    month = sheet.shown_month
    shares = lines.months[month].shares
    rows = tuple((plot.name, f"{100 * shares[p]:.0f} %" if p in shares else "shut",
                  " ".join(plot.open_in) or "all year")
                 for p in lines.zone.plots for plot in [sheet.garden.plot(p)])
    return [Pane(table=Table(
        f"G  {drain.name}: what it feeds, as it stands in {MONTHS[month]}",
        ("Plot", "Gets of it", "Its tap is open in"), rows, frozenset({1}))),
        Pane(grid=tuple((plot.name, (sheet.fields.at(f"plots/{plot.id}/open_in", plot.name),))
                        for p in lines.zone.plots for plot in [sheet.garden.plot(p)]),
             heads=("Branch", "Its tap is open in (nothing: all year)"))]


def _lint(sheet: Sheet, drain: Drain) -> Table:
    """How long each kind of outlet lasts in lint, behind the filter there is."""
    library = sheet.assessment.library
    rows = [(library.outlets[c.outlet].name, library.fittings[c.filter].name,
             *(f"{100 * c.left(weeks):.0f} %" for weeks in LINT_WEEKS),
             sheet.show(c.weeks * 7, "days")) for c in drums.clogging_of(sheet.assessment, drain)]
    return Table(f"G  {drain.name}: flow left while nobody cleans (lint; from memory)",
                 ("Outlets", "Behind", *(f"after {w} weeks" for w in LINT_WEEKS), "blocked after"),
                 tuple(rows), frozenset(range(2, 6)))


def _schools(sheet: Sheet) -> Table:
    """The two schools of greywater side by side, with their upkeep."""
    one, other = sheet.assessment.library.grey_schools.values()
    rows: list[tuple[str, ...]] = [
            (words.capitalize(), getattr(one, key), getattr(other, key))
            for key, words in (("stores", "stores"), ("filter", "filter"), ("power", "power"),
                               ("clogs", "clogging"), ("suits", "suits"),
                               ("code", "leave to build"))]
    jobs = [", ".join(f"{what.lower()} ({times:g} × {minutes:g} min)"
                      for what, times, minutes in school.jobs) for school in (one, other)]
    rows += [("Upkeep in a year", *jobs),
             ("Hours a year", *(sheet.show(s.hours_a_year, "hours") for s in (one, other)))]
    return Table("Two schools of using greywater (common practice; minutes from memory)",
                 ("School", one.name, other.name), tuple(rows))


def taps_and_wells(sheet: Sheet) -> list[Pane]:
    """Each tap's supply curve from its bucket test; each well's day."""
    garden, at = sheet.garden, sheet.fields.at
    panes = [Pane(add=(("tap", "Add a tap"), ("well", "Add a well"),
                       *(() if garden.roofs else (("roof", "Add a roof"),)),
                       *(() if garden.drains else (("drain", "Add a laundry drain"),))))]
    panes += [Pane(bar=tuple(at(f"wells/{well.id}/{key}", well.name) for key in (
        "name", "tops_up", *(("share",) if well.tops_up else ()), "recovery_l_h", "standing_l",
        "hours", "temperature_c"))) for well in garden.wells]
    for tap in garden.under_pressure:
        of = garden.source_path(tap.id)
        panes += [Pane(bar=tuple(at(f"{of}/{key}", tap.name) for key in (
            *(("tops_up",) if garden.on_mains(tap.id) else ()),
            "static_kpa", "bucket_l", "bucket_s", "backflow",
            *(() if tap.tops_up else ("regulator_kpa", "height_m", "ground_m"))))),
            Pane(chart=charts.supply_curve(sheet, tap)), Pane(twin=True, table=Table(
                f"{tap.name}: pressure left at each flow", ("Flow", "Pressure left"), tuple(
                    (sheet.show(q, "flow", 0), sheet.show(mains.pressure_kpa(tap, q), "pressure"))
                    for q in np.linspace(0, mains.tested_l_h(tap), 11).tolist()),
                frozenset({0, 1})))]
    a = sheet.assessment
    years = (*([("R  Rain, from the stores", a.season.rain)] if garden.stores else []),
             *([("W  Wells", a.season.well)] if garden.wells else []),
             *([("T  Taps", a.season.tap)] if garden.taps else []), *(
                 [("H  By hand", a.season.by_hand)] if a.season.world.filled_at.any() else []),
             ("Lacking", a.season.lacking))
    return [*panes, Pane(table=Table(
        "Who gives in a year, in the order they are asked", ("Source", "Litres a year"),
        tuple((name, sheet.show(a.season.a_year(days), "yearly")) for name, days in years),
        frozenset({1})))]
