"""Small pieces to draw with: escaped SVG elements, ground, dimensions, fields on the drawing."""

from __future__ import annotations

from collections.abc import Iterable

from markupsafe import Markup, escape

from euhydra.web.fields import Field

# Once on a page, and in every drawing that stands alone.
EARTH = Markup(
    '<defs><pattern id="earth" width="7" height="7" patternUnits="userSpaceOnUse" '
    'patternTransform="rotate(38)"><rect width="7" height="7" class="d-earth-a"/>'
    '<path d="M0 0v7" class="d-earth-b"/></pattern></defs>')


def el(name: str, *children: object, **attributes: object) -> Markup:
    """One element. Trailing underscores fall off names and others turn to dashes."""
    parts = [f' {key.rstrip("_").replace("_", "-")}="{escape(_short(value))}"'
             for key, value in attributes.items() if value is not None]
    inner = Markup("").join(escape(child) for child in children)
    return Markup(f"<{name}{''.join(parts)}>{inner}</{name}>")


def _short(value: object) -> object:
    return f"{value:.4g}" if isinstance(value, float) and abs(value) < 1 else (
        f"{value:.1f}" if isinstance(value, float) else value)


def svg(width: float, height: float, title: str, children: Iterable[object], *,
        interactive: bool = False, **more: object) -> Markup:
    """A whole drawing with its title; one with fields in it is a group, else an image."""
    return el("svg", el("title", title), *children, class_="drawing",
              viewBox=f"0 0 {width:g} {height:g}", role="group" if interactive else "img",
              aria_label=title, **more)


def text(x: float, y: float, words: str, class_: str = "d-lab", anchor: str | None = None
         ) -> Markup:
    """Words at a place."""
    return el("text", words, x=x, y=y, class_=class_, text_anchor=anchor)


def clipped(words: str, most: int) -> str:
    """Words of so many letters at most, an ellipsis where they were longer."""
    return words if len(words) <= most else words[:most - 1] + "…"


def path(d: str, class_: str, **more: object) -> Markup:
    """A path by its commands."""
    return el("path", d=d, class_=class_, **more)


def rect(x: float, y: float, width: float, height: float, class_: str, **more: object) -> Markup:
    """A rectangle; never of negative size."""
    return el("rect", x=x, y=y, width=max(width, 0.0), height=max(height, 0.0), class_=class_,
              **more)


def line(points: Iterable[tuple[float, float]], class_: str, **more: object) -> Markup:
    """A line through points."""
    return el("polyline", points=" ".join(f"{x:.1f},{y:.1f}" for x, y in points), class_=class_,
              **more)


def across(x0: float, x1: float, y: float) -> Markup:
    """A dimension line from left to right, with its ticks."""
    return path(f"M{x0:.1f} {y:.1f}H{x1:.1f}M{x0:.1f} {y - 4:.1f}v8M{x1:.1f} {y - 4:.1f}v8",
                "d-thin")


def upright(x: float, y0: float, y1: float) -> Markup:
    """A dimension line from top to bottom, with its ticks."""
    return path(f"M{x:.1f} {y0:.1f}V{y1:.1f}M{x - 4:.1f} {y0:.1f}h8M{x - 4:.1f} {y1:.1f}h8",
                "d-thin")


def field(x: float, y: float, field_: Field, *, width: float = 82, label: str | None = None
          ) -> Markup:
    """A field that stands on the drawing, its top left corner at (x, y), its label above."""
    words = field_.label if label is None else label
    parts = [text(x, y - 5, words, "d-mute")] if words else []
    parts.append(el("foreignObject", field_.input(), x=x, y=y, width=width, height=28))
    if field_.error:
        parts.append(el("foreignObject", el("div", field_.error, class_="svg-err",
                                                    id=f"{field_.id}-err"), x=x, y=y + 30,
                        width=300, height=110))
    return el("g", *parts)


def to_pick(address: str, words: str, x: float, y: float, width: float, height: float) -> Markup:
    """What picks a thing wherever it is touched: over it, seen once it is pointed at."""
    return el("a", el("title", words), rect(x, y, width, height, "d-pick", rx=3), href=address,
              aria_label=words)


def leaf(x: float, y: float, size: float) -> Markup:
    """A few blades standing on (x, y)."""
    s = size / 22
    return path(f"M{x:.1f} {y:.1f}c0 {-14 * s:.1f} {6 * s:.1f} {-20 * s:.1f} {10 * s:.1f} "
                f"{-22 * s:.1f}M{x + 4 * s:.1f} {y:.1f}c0 {-18 * s:.1f} {-6 * s:.1f} "
                f"{-22 * s:.1f} {-9 * s:.1f} {-25 * s:.1f}", "d-leaf")


def mark(state: str) -> Markup:
    """The sign of a state by its shape: disc in order, triangle take care, square stop."""
    shapes = {"ok": '<circle cx="7" cy="7" r="5" class="d-ok"/>',
              "care": '<path d="M7 1.5l6 11H1z" class="d-care"/>',
              "stop": '<rect x="1.5" y="1.5" width="11" height="11" class="d-stop"/>',
              "note": '<path d="M7 1v12M2 13h10" class="d-thin"/>'}
    return Markup(f'<svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">'
                  f'{shapes[state]}</svg>')
