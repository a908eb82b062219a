"""A thing cut through, to scale: metres to places on the paper, with notes led out beside it."""

from __future__ import annotations

from dataclasses import dataclass, field

from markupsafe import Markup

from euhydra.core.statements.figures import Amount
from euhydra.core.units import System
from euhydra.web import svg

WIDE, HIGH = 850.0, 470.0
GROUND_Y, TOP_Y, LEFT_X, NOTES_X = 400.0, 56.0, 84.0, 566.0
APART = 34.0
LETTERS = 38
LONG_M = 1.0  # from here a length is said in metres or feet


@dataclass
class Scene:
    """A section ``wide_m`` by ``high_m`` over the ground, drawn as large as it fits.

    x runs from its left edge, z up from the ground; ``below_m`` under it is drawn too.
    """

    system: System
    wide_m: float
    high_m: float
    below_m: float = 0.0
    parts: list[Markup] = field(default_factory=list)
    notes: list[tuple[float, float, str]] = field(default_factory=list)

    @property
    def scale(self) -> float:
        """Pixels to a metre."""
        return min((NOTES_X - 60 - LEFT_X) / self.wide_m,
                   (GROUND_Y - TOP_Y) / (self.high_m + self.below_m))

    def x(self, m: float) -> float:
        """Where so many metres from the left edge are."""
        spare = NOTES_X - 60 - LEFT_X - self.wide_m * self.scale
        return LEFT_X + spare / 2 + m * self.scale

    def y(self, m: float) -> float:
        """Where so many metres over the ground are."""
        return GROUND_Y - (m + self.below_m) * self.scale

    def earth(self, hollows: tuple[tuple[float, float, float], ...] = ()) -> None:
        """The ground across the drawing; ``hollows`` are (from, to, depth) dug out of it."""
        at, way = self.y(0), f"M20 {self.y(0):.1f}"
        for start, end, deep in hollows:
            way += (f"H{self.x(start):.1f}V{self.y(-deep):.1f}H{self.x(end):.1f}V{at:.1f}")
        way += f"H{NOTES_X - 30:.1f}"
        self.parts += [svg.path(way + f"V{HIGH - 34:.1f}H20Z", "", fill="url(#earth)"),
                       svg.path(way, "d-ground")]

    def box(self, x: float, z: float, wide: float, high: float, class_: str, *, rx: float = 0
            ) -> None:
        """A rectangle with its lower left corner at (x, z)."""
        self.parts.append(svg.rect(self.x(x), self.y(z + high), wide * self.scale,
                                   high * self.scale, class_, rx=rx))

    def line(self, points: list[tuple[float, float]], class_: str, **more: object) -> None:
        """A line through places."""
        self.parts.append(svg.line([(self.x(x), self.y(z)) for x, z in points], class_, **more))

    def dot(self, x: float, z: float, px: float = 3.0, class_: str = "d-stop") -> None:
        """A mark of so many pixels: a hole, a clip, an outlet."""
        self.parts.append(svg.el("circle", cx=self.x(x), cy=self.y(z), r=px, class_=class_))

    def plant(self, x: float, z: float, px: float = 30.0) -> None:
        """A few blades."""
        self.parts.append(svg.leaf(self.x(x), self.y(z), px))

    def note(self, x: float, z: float, words: str, **amounts: Amount) -> None:
        """Words about a place, with amounts in the garden's units."""
        said = words.format(**{k: a.show(self.system) for k, a in amounts.items()})
        self.notes.append((self.x(x), self.y(z), said))

    def high(self, x: float, low: float, top: float) -> None:
        """An upright dimension with its length."""
        at = self.x(x)
        self.parts += [svg.upright(at, self.y(low), self.y(top)), svg.text(
            at - 8, (self.y(low) + self.y(top)) / 2 + 4,
            self._said(top - low), "d-dim d-halo", "end")]

    def across(self, z: float, left: float, right: float) -> None:
        """A level dimension with its length."""
        at = self.y(z)
        self.parts += [svg.across(self.x(left), self.x(right), at), svg.text(
            (self.x(left) + self.x(right)) / 2, at - 7,
            self._said(right - left), "d-dim d-halo", "middle")]

    def drawn(self, title: str) -> Markup:
        """The whole, its notes from the top down without one on another."""
        led = []
        notes = sorted(self.notes, key=lambda n: n[1])
        places = _apart([y for _, y, _ in notes])
        for (x, y, words), at in zip(notes, places, strict=True):
            first, second = _in_two(words)
            led += [svg.path(f"M{x:.1f} {y:.1f}L{NOTES_X - 22:.1f} {at:.1f}H{NOTES_X - 8:.1f}",
                             "d-thin"), svg.text(NOTES_X, at + 4, first, "d-lab")]
            if second:
                led.append(svg.text(NOTES_X, at + 19, second, "d-lab"))
        empty = max(min([self.y(self.high_m), *places]) - 34, 0.0)
        ruler = svg.el("g", svg.across(LEFT_X, LEFT_X + self._metre * self.scale, HIGH - 12),
                       svg.text(LEFT_X + self._metre * self.scale + 8, HIGH - 8,
                                f"{self._said(self._metre)}, to scale",
                                "d-mute"))
        return svg.svg(WIDE, HIGH - empty, title, [svg.el(
            "g", *self.parts, *led, ruler, transform=f"translate(0 {-empty:.1f})")])

    def _said(self, m: float) -> str:
        """A length as a gardener says it: short ones in centimetres or inches."""
        return Amount(m, "small" if m < LONG_M else "length").show(self.system)

    @property
    def _metre(self) -> float:
        """A round length that is not too long for the ruler."""
        lengths = (0.1, 0.25, 0.5, 1.0, 2.0) if self.system == "metric" else (
            0.1016, 0.3048, 0.6096, 0.9144, 1.8288)
        return max((m for m in lengths if m * self.scale <= 170), default=lengths[0])


def _apart(wanted: list[float]) -> list[float]:
    """Places at least so far apart, as near as may be to those wanted, from the top down."""
    found: list[float] = []
    for y in wanted:
        found.append(max(y, found[-1] + APART) if found else y)
    shift = sum(a - b for a, b in zip(found, wanted, strict=True)) / max(len(found), 1)
    lowest, highest = (found[-1], found[0]) if found else (0.0, 0.0)
    shift = max(min(shift, highest - TOP_Y + 14), lowest - (HIGH - 56))
    return [y - shift for y in found]


def _in_two(words: str) -> tuple[str, str]:
    """Words in one line, or in two where they are long."""
    if len(words) <= LETTERS:
        return words, ""
    cut = words.rfind(" ", 0, LETTERS)
    return words[:cut], svg.clipped(words[cut + 1:], LETTERS)
