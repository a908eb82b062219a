"""A garden in gallons and feet shows nothing in metric alone, wherever it speaks."""

import re
from collections.abc import Iterator
from dataclasses import fields, is_dataclass

import pytest

from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.construction.steps import steps
from euhydra.core.editing.edits import Add
from euhydra.core.editing.file import from_json
from euhydra.core.units import KINDS
from euhydra.data import garden_text, library
from euhydra.web.fields import Fields
from euhydra.web.panes import VIEWS
from euhydra.web.sheet import Sheet
from gardens import poured

LIBRARY = library()
# A metric figure without the other one behind it in brackets, or the example beside it.
METRIC = re.compile(
    r"(?<![\w.,/])\d[\d.,\u202f]*[\s\u00a0]"
    r"(?:mm|cm|m|L/h|L/day|L(?!/)|kPa|°C|kg|m²|m³|mL|litres?|metres?)\b"
    r"(?! \()(?!, [\d/ ]+ (?:in|ft|gal)| or [\d/. ]+ )")
EVERYTHING = ("chain", "gutter", "float-pots", "tower", "tree", "lawn", "drain", "well", "tap",
              "pump", "wet-area", "rain-garden", "hand-tank")


def words(at: object, depth: int = 0) -> Iterator[str]:
    """Every text in a page's part, without its tags."""
    if isinstance(at, str):
        yield re.sub(r"<[^>]*>", " ", at)
    elif is_dataclass(at):
        for field in fields(at):
            if field.name != "path":
                yield from words(getattr(at, field.name), depth + 1)
    elif isinstance(at, dict):
        yield from (w for value in at.values() for w in words(value, depth + 1))
    elif isinstance(at, (tuple, list, set, frozenset)):
        yield from (w for value in at for w in words(value, depth + 1))


def everything():
    garden = poured(LIBRARY, units="us")
    for what in EVERYTHING:
        garden = Add(what).apply(garden, LIBRARY)
    return garden


@pytest.mark.parametrize("name", ["everything", "kiln-yard", "plot-27"])
def test_no_metre_litre_or_degree_celsius_stands_alone_in_a_garden_in_gallons(name):
    garden = everything() if name == "everything" else from_json(garden_text(name), LIBRARY)
    a = assess(garden.model_copy(update={"units": "us"}), LIBRARY)
    said = []
    for key in STATIONS:
        told = a.station(key)
        said += [told.verdict.show("us"), told.key_figure.show("us")]
        for figure in told.figures:
            said += [figure.name, figure.amount.show("us"), *figure.working.text("us")[:-1]]
        for finding in told.findings:
            said += [finding.title.show("us"), finding.why.show("us")]
            said += [p.show("us") for r in finding.remedies for p in (r.label, r.effect)]
        sheet = Sheet(a, Fields(a.garden, a.library))
        said += [w for view in VIEWS[key] for pane in view.panes(sheet) for w in words(pane)]
    said += [w for step in steps(a.season_inputs) for w in words(step)]
    said += [w for part in a.parts for w in words(part)]
    assert len(said) > 400
    # What may be typed is told in several units, whichever the garden is in.
    examples = {kind.example for kind in KINDS.values()}
    alone = {m[0] + text[m.end():m.end() + 20]
             for text in said if text not in examples for m in METRIC.finditer(text)}
    assert alone == set()
