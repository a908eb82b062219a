"""What rides along in a garden's file is kept with it: its daily weather, the picture under it."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.editing.file import to_json
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.weather.record import Record
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.sketches import Picture, Sketches
from euhydra.store.weather import NoSuchRecord, WeatherRecords


@dataclass(frozen=True)
class Riding:
    """What came in a file beside the garden."""

    record: Record | None = None
    picture: Picture | None = None


def keep(gardens: Gardens, garden: Garden, riding: Riding, title: str,
         library: Library | None = None) -> Garden:
    """Keep a new garden with what rides along.

    One whose record is not here takes normals; a picture that is not here is left out.
    """
    with gardens.database.write():
        garden = _on_picture(gardens, _on_record(gardens, garden, riding.record), riding.picture)
        return gardens.add(garden, title, library)


def as_file(database: Database, garden: Garden) -> str:
    """The garden's open file, with all that rides along in it."""
    picture = Sketches(database).of(garden)
    return to_json(garden, WeatherRecords(database).of(garden), picture.jpeg if picture else b"")


def _on_record(gardens: Gardens, garden: Garden, record: Record | None) -> Garden:
    records, site = WeatherRecords(gardens.database), garden.site
    if record is not None:
        records.add(record, "rode along in the garden's file", {})
        site = site.model_copy(update={"record": record.id})
    elif site.record:
        try:
            records.load(site.record)
        except NoSuchRecord:
            site = site.model_copy(update={"record": "", "reckon_with": "normals"})
    return garden.model_copy(update={"site": site})


def _on_picture(gardens: Gardens, garden: Garden, picture: Picture | None) -> Garden:
    sketches, sketch = Sketches(gardens.database), garden.sketch
    if sketch is None:
        return garden
    if picture is not None:
        sketches.add(picture)
        sketch = sketch.model_copy(update={"picture": picture.id, "width_px": picture.width,
                                           "height_px": picture.height})
    elif sketches.of(garden) is None:
        sketch = None
    return garden.model_copy(update={"sketch": sketch})
