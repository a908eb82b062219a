"""What every kind and every field leads to: parts, steps, care, cautions, drawings, or why none."""

import csv
import inspect
from functools import cache
from importlib.resources import files
from pathlib import Path
from typing import Literal, get_args, get_origin

import pytest
from pydantic import BaseModel

import euhydra.data
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.construction.care import alike
from euhydra.core.construction.steps import steps
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Garden, PlotBase, Standpipe, Thing
from euhydra.core.schedule.calendar import of_timer
from euhydra.core.units import NNBSP
from gardens import all_sorts

ROWS = list(csv.DictReader((files(euhydra.data) / "leads.csv").read_text("utf-8").splitlines()))
ROOT = Path(euhydra.data.__file__).parents[1]
# What the steps of no kit but of the lines themselves are called, and what falls due of timers.
OF_LINES = {"head", "header", "rows", "flush", "timer", "jug"}
OF_TIMERS = {"timer-in", "timer-out", "filter"}
# Counted with the lines, whatever they are, or asked for by none of them alone.
WITH_ALL = {"label", "adapter", "thread-adapter", "peg", "spare", "spare-dripper", "tee", "elbow",
            "flush-end", "coupling", "pipe-cutter", "punch", "jug", "spirit-level", "pilot-drill",
            "wye"}


def named(row, column):
    return [x for x in row[column].split(";") if x]


def models(of=Garden, seen=None):
    """Every model that a garden is made of."""
    seen = {} if seen is None else seen
    if of not in seen:
        seen[of] = None
        for field in of.model_fields.values():
            for inner in _models_in(field.annotation):
                models(inner, seen)
    return list(seen)


def _models_in(annotation):
    for arg in get_args(annotation):
        yield from _models_in(arg)
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        yield annotation


def settable():
    """(model that has it of its own, field, value): a value for each choice, "" for the rest."""
    found = set()
    for model in models():
        for key, field in model.model_fields.items():
            owner = next(c for c in model.__mro__ if key in inspect.get_annotations(c))
            choices = get_args(field.annotation) if get_origin(field.annotation) is Literal else ()
            if field.json_schema_extra or field.title or choices or field.annotation is bool:
                found |= {(owner.__name__, key, str(v)) for v in choices or ("",)}
    return found


def test_every_kind_and_every_field_has_its_line():
    told = [(r["thing"], r["field"], r["value"]) for r in ROWS]
    assert len(told) == len(set(told))
    assert set(told) == settable()


def test_every_line_leads_somewhere_or_says_why_not():
    for row in ROWS:
        leads = named(row, "parts") + named(row, "steps") + named(row, "care")
        assert bool(leads) or row["why"], row
        assert set(named(row, "drawings")) <= {*STATIONS}, row


def test_what_is_named_is_there_and_what_is_there_is_named(library):
    kits = library.kits.values()
    there = {"parts": set(library.parts),
             "steps": {s.id for kit in kits for s in kit.steps} | OF_LINES,
             "care": {c.id for kit in kits for c in kit.care} | OF_TIMERS}
    for column, known in there.items():
        told = {x for row in ROWS for x in named(row, column)}
        assert told <= known
        spare = WITH_ALL | OF_LINES | {"intake-hose"}
        assert known - told <= spare, column
    rules = "".join(f.read_text("utf-8") for f in (ROOT / "core" / "stations").glob("*.py"))
    for row in ROWS:
        for rule in named(row, "cautions"):
            assert f'"{rule}"' in rules, row


@cache
def whole():
    return all_sorts(euhydra.data.library())


@cache
def outcome(garden):
    """Of a garden: parts by key, steps by what they are, care, each as it reads."""
    library = euhydra.data.library()
    a = assess(garden, library)
    parts, built = {}, {}
    for p in a.parts:
        parts.setdefault(p.key, set()).add((p.name, p.quantity))
    for s in steps(a.season_inputs):
        kind = s.id
        while kind and kind not in STEPS:
            kind = kind.rpartition("-")[0]
        built.setdefault(kind, set()).add((s.id, *(
            words.show("metric") for words in (s.title, s.how, s.test, s.own))))
    due = {d.key.rstrip("-0123456789") for d in of_timer(a.schedule)} | set(alike(garden, library))
    return parts, built, due


STEPS = OF_LINES | {s.id for kit in euhydra.data.library().kits.values() for s in kit.steps}


def paths_of(garden, thing):
    """Where the things of a model stand in a garden, every one of them."""
    for key in ("roofs", "drains", "taps", "wells", "stores", "joints", "lifts", "rain_gardens",
                "wet_areas", "paths", "buildings", "plots", "timers", "zones"):
        for one in getattr(garden, key):
            if thing in [c.__name__ for c in type(one).__mro__]:
                yield f"{key}/{one.id}"
            for inner in ("downspouts", "basins", "plantings"):
                for part in getattr(one, inner, ()):
                    if type(part).__name__ == thing:
                        yield f"{key}/{one.id}/{inner}/{part.id}"
    if thing in ("Site", "Garden"):
        yield thing.lower() if thing == "Site" else ""


CHANGES = [r for r in ROWS if (r["sets"] or r["value"]) and (
    r["parts"] or r["steps"] or r["care"])]


@pytest.mark.parametrize("row", CHANGES, ids=lambda r: f"{r['thing']}.{r['field']}={r['value']}")
def test_what_is_set_is_bought_built_and_kept(row, library):
    """Set to another value, what a line names is on the lists, and reads otherwise than before."""
    before = outcome(whole())
    for path in paths_of(whole(), row["thing"]):
        garden = _set(whole(), f"{path}/{row['field']}", row["sets"] or row["value"], library)
        if garden is not None and _agrees(row, before, outcome(garden), moved=bool(row["sets"])):
            return
    pytest.fail(f"nothing of the garden does what this says: {row}")


def _set(garden, path, value, library):
    try:
        number = value.replace(".", "", 1).isdigit()
        return SetValue(path, float(value) if number else {"yes": True}.get(value, value)).apply(
            garden, library)
    except (EditRefused, LookupError):
        return garden if path.endswith("/kind") else None


def _agrees(row, before, after, *, moved):
    for column, was, now in zip(("parts", "steps"), before, after, strict=False):
        for name in named(row, column):
            if name not in now or (moved and was.get(name) == now[name]):
                return False
    return set(named(row, "care")) <= after[2]


def test_the_garden_of_all_sorts_is_one():
    things = {c.__name__ for c in models() if issubclass(c, Thing)} - {
        "OwnCrop", "Spot", "Building", "Path", "Timer", "Zone"}
    assert not [t for t in things if not list(paths_of(whole(), t))]
    assert issubclass(PlotBase, Thing)
    assert issubclass(Standpipe, Thing)
    assert NNBSP
