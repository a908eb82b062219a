"""Make the demo gardens that First pour can make, and an invented season's log for each of all six.

Run by hand when they are to be made anew; what it writes is committed and ships. Balcony, Plot 27
and Kiln Yard were drawn by hand and are only read.
"""

from __future__ import annotations

import csv
import datetime as dt
import sys
from pathlib import Path

import numpy as np

from euhydra.core.assessment.assess import Assessment, assess
from euhydra.core.editing.answers import Answers, BedAnswer, Strip
from euhydra.core.editing.edits import Add, Edit, Together
from euhydra.core.editing.file import from_json, to_json
from euhydra.core.editing.quick_start import pour
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.base import day_of_year
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.storage import base_z_m
from euhydra.core.weather.hemispheres import climate_at
from euhydra.data import library

FOLDER = Path(__file__).parents[1] / "src" / "euhydra" / "data" / "gardens"
YEAR, FIRST, LAST = 2026, (4, 20), (9, 28)
FIELDS = ("id", "day", "kind", "about", "value", "word", "note")
Line = dict[str, object]


def main() -> int:
    """Write the gardens that are poured, then a log beside each of all of them."""
    tables = library()
    for name, garden in poured(tables).items():
        (FOLDER / f"{name}.json").write_text(to_json(garden), encoding="utf-8")
    for path in sorted(FOLDER.glob("*.json")):
        garden = from_json(path.read_text(encoding="utf-8"), tables)
        with path.with_suffix(".log.csv").open("w", encoding="utf-8", newline="") as out:
            rows = csv.DictWriter(out, FIELDS, lineterminator="\n")
            rows.writeheader()
            rows.writerows(season_of(assess(garden, tables)))
    return 0


def poured(tables: Library) -> dict[str, Garden]:
    """The laundry house, the patio and the slope with its well, by their ids."""
    row = tables.climates["ostermere"]
    here = {"latitude_deg": row.latitude_deg, "climate": climate_at(row, row.latitude_deg)}
    laundry = pour(Answers(
        name="Wringer Lane", waters=("roof", "laundry"), roof_width_m=5.5, roof_depth_m=3.2,
        barrels=3, stand_m=0.5, washes=6, wash_l=60.0, laundry_led="drum", drum_l=210.0,
        drum_feeds="rest", trees=5, canopy_m=1.4, border=Strip(length_m=6.0, width_m=0.9),
        beds=(BedAnswer(count=2, length_m=2.4, width_m=1.2, group="leafy"),), fall_m=0.8,
        distance_m=5.0, **here), tables, "wringer-lane")
    patio = pour(Answers(
        name="Lantern Patio", waters=("roof", "tank"), roof_width_m=6.0, roof_depth_m=4.0,
        barrels=3, stand_m=0.5, tank_l=120.0, tank_stand_m=0.3, gutters=2, buckets=7, chain=6,
        float_pots=8, fall_m=0.0, distance_m=3.0, **here), tables, "lantern-patio")
    slope = pour(Answers(
        name="Quarry Steps", waters=("roof", "well"), roof_width_m=9.0, roof_depth_m=6.5,
        barrel_l=1135.0, barrels=3, stand_m=0.3, well_led="lines", well_l_h=25.0,
        well_bucket_s=75.0, well_feeds="rest", fall_m=1.2, distance_m=6.0, beds=(
            BedAnswer(count=2, length_m=3.0, width_m=1.2, group="fruiting"),
            BedAnswer(count=2, length_m=3.0, width_m=1.2, group="leafy", lower_m=1.1),
            BedAnswer(count=1, length_m=4.0, width_m=1.2, group="roots", lower_m=2.2)),
        trees=3, **here), tables, "quarry-steps")
    return {"wringer-lane": branch(laundry).apply(laundry, tables),
            "lantern-patio": Together(rows(patio)).apply(patio, tables),
            "quarry-steps": Together((SetValue("stores/barrels/overflow_mm", 75.0), *(
                SetValue(f"plots/{plot.id}/fed_by", "well-1")
                for plot in slope.plots[2:5]))).apply(slope, tables)}


def branch(garden: Garden) -> Edit:
    """The border's own tap on the drum, shut while the ground is wet."""
    border = next(plot for plot in garden.plots if plot.kind == "border")
    return SetValue(f"plots/{border.id}/open_in", ("May", "Jun", "Jul", "Aug", "Sep"))


def rows(garden: Garden) -> tuple[Edit, ...]:
    """Gutters and chain on the barrels, which a tap tops up; the float pots on their tank."""
    found: list[Edit] = [SetValue(f"plots/{p.id}/fed_by", "barrels") for p in garden.plots
                         if p.kind != "float-pots"]
    found += [SetValue(f"plots/{p.id}/tube_mm", 13.0) for p in garden.plots if p.kind == "chain"]
    return (*found, Add("tap"), SetValue("taps/tap/tops_up", "barrels"),
            SetValue("stores/barrels/overflow_to", "rain-garden"), Add("rain-garden"),
            SetValue("rain_gardens/rain-garden-1/length_m", 5.0))


def season_of(a: Assessment) -> list[Line]:
    """What its gardener might have written down in a typical year, with a hand that shakes."""
    shaky = np.random.default_rng(sum(map(ord, a.garden.id)))
    first, last = dt.date(YEAR, *FIRST), dt.date(YEAR, *LAST)
    days = [first + dt.timedelta(days=n) for n in range((last - first).days + 1)]
    found = [*_dips(a, days, shaky), *_rains(a, days), *_fields(a, days, shaky)]
    found.sort(key=lambda line: str(line["day"]))
    return [{"value": "", "word": "", "note": "", "about": "", **line, "id": f"demo-{n:03d}"}
            for n, line in enumerate(found, start=1)]


def _dips(a: Assessment, days: list[dt.date], shaky: np.random.Generator) -> list[Line]:
    """Every ninth day the level that stood there, read off to the centimetre."""
    found: list[Line] = []
    level = a.season.in_year(a.season.level, a.season.typical_year)
    for i, bank in enumerate(a.banks.banks):
        store = bank.stores[0]
        for day in days[::9]:
            litres = float(level[i, day_of_year(f"{day:%m-%d}")])
            dip = bank.level_z_m(litres) - base_z_m(store) + float(shaky.normal(0, 0.008))
            found.append({"day": day, "kind": "dip", "about": store.id, "value": round(
                min(max(dip, store.outlet_m), store.height_m), 2)})
    return found


def _rains(a: Assessment, days: list[dt.date]) -> list[Line]:
    """The gauge, emptied each Monday."""
    rain = a.season.in_year(a.weather.rain_mm, a.season.typical_year)
    weeks = [day for day in days if day.weekday() == 0]
    sums = [(day, sum(float(rain[(day_of_year(f"{day:%m-%d}") - n) % 365]) for n in range(7)))
            for day in weeks]
    return [{"day": day, "kind": "rain", "value": round(mm, 1)} for day, mm in sums if mm >= 0.5]


def _fields(a: Assessment, days: list[dt.date], shaky: np.random.Generator) -> list[Line]:
    """A jug a month in the first zone, a finger in the soil, filters, a harvest and a lesson."""
    garden, found = a.garden, []
    timed = garden.timed_zones
    for n, day in enumerate(days[12::30]):
        if timed:
            zone = timed[n % len(timed)]
            flow = a.flows[zone.id]["half"].flow_l_h * float(shaky.normal(1, 0.03))
            found.append({"day": day, "kind": "flow", "about": zone.id, "value": round(flow, 1)})
        found.append({"day": day, "kind": "filter", "about": garden.zones[0].id})
    for n, day in enumerate(days[20::24]):
        plot = garden.plots[n % len(garden.plots)]
        found.append({"day": day, "kind": "soil", "about": plot.id,
                      "word": "dry" if n == 2 else "right"})
    for n, day in enumerate(days[85::14]):
        plot = garden.plots[n % len(garden.plots)]
        found.append({"day": day, "kind": "harvest", "about": plot.id,
                      "value": round(float(shaky.uniform(0.6, 3.2)), 1)})
    found.append({"day": days[60], "kind": "repair", "note": "A barb had crept off its tube; "
                  "pushed home and wired."})
    found.append({"day": days[-1], "kind": "lesson",
                  "note": "Mulch before June, and rinse the filter every other week in July."})
    return found


if __name__ == "__main__":
    sys.exit(main())
