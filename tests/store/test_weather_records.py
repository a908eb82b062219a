"""Daily weather records in the database and in a garden's file."""

import json

import numpy as np
import pytest

from euhydra.cli import main
from euhydra.core.editing.edits import UseRecord
from euhydra.core.editing.file import BadFile, from_json, to_json, weather_in
from euhydra.core.weather.record import Record
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.riding import Riding, keep
from euhydra.store.weather import NoSuchRecord, WeatherRecords
from gardens import poured


def record_of(years=2, **columns):
    rng = np.random.default_rng(3)
    shape = (years, 365)
    return Record(2010, rng.gamma(1, 3, shape).round(1), rng.normal(4, 3, shape).round(1),
                  rng.normal(18, 3, shape).round(1), **columns)


WINDY = record_of(wind_m_s=np.where(np.arange(730).reshape(2, 365) % 9 == 0, np.nan, 3.2))


@pytest.fixture
def database(tmp_path):
    return Database(tmp_path / "g.sqlite3")


def test_a_record_comes_back_as_it_was_gaps_and_all(database):
    records = WeatherRecords(database)
    records.add(WINDY, "a.csv", {"lines": 730})
    back = records.load(WINDY.id)
    assert (back.record.id, back.name, back.reading) == (WINDY.id, "a.csv", {"lines": 730})
    assert set(back.record.columns) == {"rain_mm", "tmin_c", "tmax_c", "wind_m_s"}
    assert np.isnan(back.record.wind_m_s[0, 0])
    records.add(WINDY, "b.csv", {})
    assert records.load(WINDY.id).name == "b.csv"
    with pytest.raises(NoSuchRecord):
        records.load("0" * 16)


def test_two_records_that_differ_anywhere_have_two_names():
    other = record_of()
    rain = other.rain_mm.copy()
    rain[1, 364] += 0.1
    assert Record(2010, rain, other.tmin_c, other.tmax_c).id != other.id
    assert Record(2011, other.rain_mm, other.tmin_c, other.tmax_c).id != other.id


def test_the_weather_rides_along_in_the_file(database, library):
    garden = UseRecord(WINDY.id, WINDY.normals()).apply(poured(library), library)
    text = to_json(garden, WINDY)
    assert json.loads(text)["weather"]["first_year"] == 2010
    back = weather_in(text)
    assert back is not None
    assert back.id == WINDY.id
    gardens, records = Gardens(database, library), WeatherRecords(database)
    kept = keep(gardens, from_json(text, library), Riding(back), "Opened")
    assert records.load(kept.site.record).record.id == WINDY.id
    alone = keep(Gardens(database, library), garden.model_copy(update={
        "site": garden.site.model_copy(update={"record": "f" * 16})}), Riding(), "Opened")
    assert (alone.site.record, alone.site.reckon_with) == ("", "normals")


@pytest.mark.parametrize("weather", [
    [], 1, {}, {"first_year": 2010}, {"first_year": "x", "rain_mm": [[0] * 365]},
    {"first_year": 2010, "rain_mm": [[0] * 365], "tmin_c": [[0] * 364], "tmax_c": [[0] * 365]},
    {"first_year": 2010, "rain_mm": [[None] * 365], "tmin_c": [[0] * 365],
     "tmax_c": [[0] * 365]},
    {"first_year": 2010, "rain_mm": [[0] * 365], "tmin_c": [[0] * 365], "tmax_c": [[0] * 365],
     "moon": [[0] * 365]}])
def test_weather_that_is_not_whole_is_refused_in_words(library, weather):
    tree = json.loads(to_json(poured(library)))
    with pytest.raises(BadFile, match="weather in this file is not whole"):
        weather_in(json.dumps(tree | {"weather": weather}))


def test_the_command_line_reports_with_the_record_and_passes_it_on(tmp_path, library, capsys):
    garden = UseRecord(WINDY.id, WINDY.normals()).apply(poured(library), library)
    file, db, out = tmp_path / "g.json", tmp_path / "g.sqlite3", tmp_path / "out.json"
    file.write_text(to_json(garden, WINDY))
    assert main(["report", str(file), "--json"]) == 0
    assert "measured years" in capsys.readouterr().out
    assert main(["import", str(file), "--db", str(db)]) == 0
    kept = capsys.readouterr().out.split()[-1]
    assert main(["export", kept, "--db", str(db), "--out", str(out)]) == 0
    assert weather_in(out.read_text()).id == WINDY.id
