"""Fields: one value of the garden that may be typed, wherever it stands on the page."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from markupsafe import Markup, escape

from euhydra.core import units
from euhydra.core.editing.fields import Measure, measure_at, with_choices
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.storage import SHAPES
from euhydra.core.units import System

STEPS = {"length": (0.05, 0.25), "small": (1, 0.5), "volume": (10, 5), "rain": (1, 0.1),
         "temperature": (1, 1), "count": (1, 1), "days": (1, 1), "depth": (0.1, 0.01),
         "hours": (0.5, 0.5), "share": (5, 5), "latitude": (0.5, 0.5), "mass": (1, 1)}
WORDS = {"soaker": "soaker hose", "dripline": "dripline", "dripline-pc": "compensating dripline",
         "drippers": "drippers at plants", "pot-drippers": "drippers in pots", "soil": "soil",
         "paving": "paving", "deck": "a deck", "hand": "typed by hand", "site": "the spot heights",
         "weather": "the weather", "own": "your own measure",
         "normals": "generated years", "record": "the measured years",
         "terraces": "goes in level steps", "slope": "slopes evenly between",
         "nowhere": "nowhere yet", "border": "a border or lawn",
         "rain-garden": "a rain garden", "drain": "a storm drain", "neighbour": "a neighbour",
         "link": "bottom link", "siphon": "siphon", "overflow": "overflow pipe",
         "float": "float valve", "bottom": "at the bottom", "floating": "floating",
         "basins": "to mulch basins", "drum": "through a drum to drip", "pump": "float pump",
         "plain": "plain soap", "salty": "powder with salts or boron", "bleach": "bleach",
         "nappies": "nappies in the wash", "unknown": "not known yet", "own-ground": "own ground",
         "straw": "straw or leaves", "chips": "wood chips", "plastic": "plastic sheet",
         "none": "none", "tree": "a tree", "cloth": "shade cloth", "panel": "a panel or roof",
         "sheltered": "sheltered", "open": "open", "windy": "windy", "glasshouse": "glasshouse",
         "tape": "drip tape", "drilled": "drilled pipe", "shut": "shut",
         "tree-drippers": "drippers round the trunk", "tree-ring": "a ring of dripline",
         "auto": "chosen for you", "comb": "a comb off a header",
         "loop": "a comb, its ends joined",
         "s-curve": "one run in an S", "building": "a building", "posts": "posts, open below",
         "warm": "warm season", "cool": "cool season", "leafy": "leafy", "fruiting": "fruiting",
         "woody": "woody", "leaf": "leaf", "root": "root", "fruit": "fruit", "no": "no",
         "gravel": "gravel", "grass": "grass", "earth": "bare earth",
         **{key: shape.words for key, shape in SHAPES.items()},
         "lines": "lines laid",
         "new": "nothing: all is new", "can": "cans", "hose": "the hose", "timer": "a timer",
         "ditch": "a ditch", "storm-drain": "a storm drain", "sewer": "the sewer"}


EMPTY = {"to": "elsewhere", "fed_by": "the first source", "opens_with": "plots like it",
         "tops_up": "the hoses directly", "after": "the header", "timer": "the hand",
         "gutter_of": "none: its own"}


@dataclass(frozen=True)
class Field:
    """A value with all that is needed to show it as an input. ``group`` heads it in the list.

    One to ``slide`` has its least, its most, its step and where it stands, in the units shown.
    ``station`` and ``here`` (a query) are where its form leads back to when no script sends it.
    """

    garden: str
    path: str
    label: str
    shown: str
    kind: str
    group: str = ""
    choices: tuple[tuple[str, str], ...] = ()
    error: str = ""
    in_list: bool = False
    slide: tuple[float, float, float, float] | None = None
    station: str = ""
    here: str = ""

    @property
    def id(self) -> str:
        """The input's id; the list twin has its own."""
        return ("l-" if self.in_list else "f-") + self.path.replace("/", "-")

    @property
    def said(self) -> str:
        """The value in words, where it is only read."""
        return dict(self.choices).get(self.shown, self.shown)

    def input(self) -> Markup:
        """The form with its input, ready to stand on a drawing or in the list."""
        name = f"{self.group}: {self.label}" if self.group else self.label
        common = (f'id="{escape(self.id)}" name="typed" class="field" aria-label="{escape(name)}" '
                  + (f'aria-invalid="true" aria-describedby="{escape(self.id)}-err" '
                     if self.error else ""))
        if self.slide:
            low, high, step, at = self.slide
            looks = common.replace('class="field"', 'class="field slide"')
            control = (f'<input {looks} type="range" min="{low:g}" max="{high:g}" '
                       f'step="{step:g}" value="{at:g}" '
                       f'aria-valuetext="{escape(self.shown)}" autocomplete="off">')
        elif self.choices:
            options = "".join(
                f'<option value="{escape(key)}"{" selected" if key == self.shown else ""}>'
                f"{escape(words)}</option>" for key, words in self.choices)
            control = f'<select {common} autocomplete="off">{options}</select>'
        else:
            control = (f'<input {common} value="{escape(self.shown)}" autocomplete="off" '
                       f'spellcheck="false" data-kind="{self.kind}">')
        station = (f'<input type="hidden" name="station" value="{escape(self.station)}">'
                   if self.station else "")
        return Markup(
            f'<form class="field-form" method="post" action="/g/{escape(self.garden)}/edit'
            f'{escape(self.here)}" data-edit><input type="hidden" name="path" '
            f'value="{escape(self.path)}">{station}{control}</form>')


@dataclass(frozen=True)
class Rejected:
    """What was typed that could not be kept, where, and why."""

    path: str
    typed: str
    why: str
    more: Mapping[str, str] = field(default_factory=dict)


class Fields:
    """Makes fields for one garden; the last rejected entry stands in its place with its reason.

    ``station`` and ``here`` are the page that they stand on.
    """

    def __init__(self, garden: Garden, library: Library, rejected: Rejected | None = None,
                 station: str = "", here: str = "") -> None:
        self.garden, self.library, self.rejected = garden, library, rejected
        self.station, self.here = station, here

    def at(self, path: str, group: str = "", label: str = "") -> Field:
        """The field of a path. Raises :class:`~euhydra.core.editing.fields.NoSuchValue`."""
        measure = with_choices(measure_at(self.garden, path), self.library)
        bad = self.rejected if self.rejected and self.rejected.path == path else None
        return Field(self.garden.id, path, label or measure.label,
                     bad.typed if bad else shown(measure, self.garden.units), measure.kind, group,
                     self._choices(measure), bad.why if bad else "", station=self.station,
                     here=self.here)

    def slider(self, path: str, name: str, low: float, high: float, step: float) -> Field:
        """A number to slide between bounds of the unit inside; its name says where it stands."""
        measure, system = measure_at(self.garden, path), self.garden.units

        def to(value: float) -> float:
            return round(units.convert(value, measure.kind, system), 4)

        field = self.at(path, "", "")
        return replace(field, label=f"{name}: {field.shown}", slide=(
            to(low), to(high), to(step), to(float(measure.value))))

    def _choices(self, measure: Measure) -> tuple[tuple[str, str], ...]:
        if measure.kind == "flag":
            return (("yes", "yes"), ("no", "no"))
        table: Mapping[str, object] = getattr(self.library, measure.table) if measure.table else {
            thing.id: thing for thing in getattr(self.garden, measure.refers or "stores")
            if measure.refers}
        empty = EMPTY.get(measure.path.rsplit("/", 1)[-1], "my own twelve months")
        return tuple((key, getattr(table[key], "name", key) if key in table
                      else WORDS.get(key, key) or empty) for key in measure.choices)


def shown(measure: Measure, system: System) -> str:
    """The value as it stands in its input."""
    if measure.kind == "flag":
        return "yes" if measure.value else "no"
    if measure.kind == "monthday":
        return units.show_month_day(str(measure.value))
    if measure.kind in ("marks", "weekdays", "months"):
        return " ".join(map(str, measure.value))
    if measure.kind == "curve":
        return "; ".join(f"{units.show(p.flow_l_h, 'flow', system)}, "
                         f"{units.show(p.head_m, 'lift', system)}" for p in measure.value).replace(
                             "\u00a0", " ").replace("\u202f", "")
    if measure.kind == "outline":
        return "; ".join(", ".join(f"{units.convert(v, 'length', system):.2f}" for v in (
            p.x_m, p.y_m)) for p in measure.value)
    if measure.kind in ("text", "choice"):
        return str(measure.value)
    return units.show(float(measure.value), measure.kind, system).replace("\u00a0", " ")


def stepped(measure: Measure, system: System, steps: int) -> float:
    """The value an arrow key leads to: the next round figure in the units shown, within bounds."""
    metric, us = STEPS.get(measure.kind, (1, 1))
    step = metric if system == "metric" else us
    at = units.convert(float(measure.value), measure.kind, system)
    slope = units.convert(1, measure.kind, system) - units.convert(0, measure.kind, system)
    offset = units.convert(0, measure.kind, system)
    there = round((at + steps * step) / step) * step
    return min(max((there - offset) / slope, measure.low), measure.high)
