"""``make occasional``: a tomato's evapotranspiration against AquaCrop's Python port (PyPI).

Another kind of model (canopy and soil evaporation apart, FAO Irrigation and Drainage Paper 66), so
that the bound is wide: a season's ET within 20 %. AquaCrop's own tomato, its stages stretched to
ours; the soil's whole surface is wetted. It lives in an environment of its own, whose python is
given: its pins are not ours.
"""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import numpy as np

sys.path[:0] = [str(Path(__file__).parents[1]), str(Path(__file__).parents[1] / "reference")]

import test_root_zone as root_zone  # noqa: E402

BOUND = 0.20
THEIRS = """
import datetime as dt, json, os, sys
os.environ["DEVELOPMENT"] = "True"
import numpy as np, pandas as pd
from aquacrop import AquaCropModel, Crop, InitialWaterContent, IrrigationManagement, Soil
d = json.load(sys.stdin)
years = len(d["rain"])
days = [dt.date(2001 + y, 1, 1) + dt.timedelta(days=i) for y in range(years) for i in range(365)]
weather = pd.DataFrame({
    "MinTemp": np.ravel(d["tmin"]), "MaxTemp": np.ravel(d["tmax"]),
    "Precipitation": np.ravel(d["rain"]), "ReferenceET": np.maximum(np.ravel(d["eto"]), 0.1),
    "Date": pd.to_datetime(days)})
soil = Soil("custom", cn=46, rew=9)
soil.add_layer(thickness=2.0, thWP=d["wp"], thFC=d["fc"], thS=0.46, Ksat=500, penetrability=100)
n, told = d["days"], []
for y in range(years):
    begins = dt.date(2001 + y, 1, 1) + dt.timedelta(days=d["first"])
    given = pd.DataFrame([(pd.Timestamp(begins + dt.timedelta(days=i)), mm)
                          for i, mm in enumerate(d["given"][y]) if mm > 0],
                         columns=["Date", "Depth"])
    crop = Crop("Tomato", planting_date=begins.strftime("%m/%d"), MaturityCD=n,
                SenescenceCD=int(0.83 * n), MaxRootingCD=n // 2, HIstartCD=int(0.31 * n),
                FloweringCD=int(0.41 * n), YldFormCD=int(0.62 * n), Zmax=d["root"])
    model = AquaCropModel(begins.strftime("%Y/%m/%d"), f"{2001 + y}/12/15", weather, soil, crop,
                          initial_water_content=InitialWaterContent(value=["FC"]),
                          irrigation_management=IrrigationManagement(irrigation_method=3,
                                                                     Schedule=given))
    model.run_model(till_termination=True)
    flux = model._outputs.water_flux
    told.append(float((flux["Es"] + flux["Tr"]).to_numpy()[:n].sum()))
print(json.dumps(told))
"""


def main() -> int:
    """Print each year's ET by both; 1 where one is out of bounds."""
    crop, soil, sky = root_zone.LIBRARY.crops["tomato"], root_zone.LOAM, root_zone.WEATHER
    first, n, worst = root_zone.day_of_year("05-05"), int(crop.days), 0.0
    for every, depth_mm in ((2, 6.0), (2, 10.0)):
        root_zone.EVERY, root_zone.DEPTH_MM = every, depth_mm
        season = root_zone.season_of(crop, "05-05")
        mine = slice(first, first + n)
        asked = {"first": first, "days": n, "root": crop.root_m, "fc": soil.field_capacity,
                 "wp": soil.wilting_point, "given": season.given[0][:, mine].tolist(),
                 "rain": sky.rain_mm.tolist(), "eto": sky.eto_mm.tolist(),
                 "tmin": sky.tmin_c.tolist(), "tmax": sky.tmax_c.tolist()}
        done = subprocess.run([sys.argv[1], "-W", "ignore", "-c", THEIRS], check=True, text=True,
                              input=json.dumps(asked), capture_output=True)
        theirs, ours = np.array(json.loads(done.stdout)), season.drunk[0][:, mine].sum(axis=1)
        for year, (a, b) in enumerate(zip(ours, theirs, strict=True), start=1):
            print(f"{depth_mm:g} mm every {every} days, year {year}: ET {a:.0f} mm, "
                  f"AquaCrop {b:.0f} mm ({b / a - 1:+.1%})")
        worst = max(worst, float(np.abs(theirs / ours - 1).max()))
    return 0 if worst <= BOUND else 1


if __name__ == "__main__":
    sys.exit(main())
