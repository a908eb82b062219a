"""Any garden that could be drawn: plots of every kind, turned, of any outline, among buildings."""

from __future__ import annotations

from hypothesis import strategies as st

from euhydra.core.editing.relaying import relaid
from euhydra.core.garden.model import (
    Bed,
    Building,
    Garden,
    Path,
    Planting,
    Point,
    Pots,
    Tower,
    Tree,
    Wicking,
)
from euhydra.core.library import Library
from gardens import poured

OUTLINES = (
    (), ((0, 0), (3, 0), (3, 1), (1.2, 1), (1.2, 2.4), (0, 2.4)),  # an L
    ((0, 0), (4, 0), (2, 3)),  # a triangle
    ((0, 0.8), (1.5, 0), (3.4, 0.6), (3, 2.2), (1, 2.4)),  # askew
    ((0, 0), (5, 0), (5, 2), (4, 2), (4, 1), (1, 1), (1, 2), (0, 2)))  # a U
METHODS = ("soaker", "dripline", "dripline-pc", "tape", "drilled", "drippers")
CROPS = ("tomato", "lettuce", "carrot", "squash", "strawberry", "bush-fruit")


def _common(draw, number: int, kind: str) -> dict[str, object]:
    """Plots stand on a wide grid, so that there is ground between any two."""
    corner = Point(x_m=8.0 + 9 * (number % 3), y_m=9.0 * (number // 3))
    return {"id": f"{kind}-{number + 1}", "name": f"{kind} {number + 1}", "kind": kind,
            "corner": corner, "turn_deg": draw(st.sampled_from([0.0, 0.0, 15.0, -40.0, 90.0])),
            "ground_m": draw(st.sampled_from([0.0, 0.0, -0.5, 0.3])),
            "plantings": (Planting(id="p1", crop=draw(st.sampled_from(CROPS))),)}


@st.composite
def plots(draw, number: int):
    kind = draw(st.sampled_from(["bed", "bed", "border", "tree", "pots", "tower", "gutter",
                                 "chain", "float-pots"]))
    common = _common(draw, number, kind)
    if kind in ("bed", "border"):
        outline = draw(st.sampled_from(OUTLINES))
        return Bed(length_m=draw(st.floats(0.3, 5)), width_m=draw(st.floats(0.2, 5)),
                   outline=tuple(Point(x_m=x, y_m=y) for x, y in outline),
                   method=draw(st.sampled_from(METHODS)),
                   layout=draw(st.sampled_from(["auto", "comb", "loop", "s-curve"])), **common)
    if kind == "tree":
        return Tree(count=draw(st.integers(1, 3)), canopy_m=draw(st.floats(0.5, 2)),
                    method=draw(st.sampled_from(["tree-drippers", "tree-ring"])), apart_m=2.0,
                    **common)
    if kind == "pots":
        return Pots(count=draw(st.integers(1, 25)), in_rows=draw(st.integers(1, 4)),
                    diameter_m=draw(st.floats(0.1, 0.3)), **common)
    if kind == "tower":
        return Tower(count=draw(st.integers(1, 6)), **common)
    return Wicking(count=draw(st.integers(1, 9)), **common)


@st.composite
def plans(draw, library: Library, most: int = 5) -> Garden:
    """A laid garden of one to so many plots, with a path and a building between them."""
    count = draw(st.integers(1, most))
    base = poured(library, pots=0)
    things = [Building(id="shed", name="Shed", length_m=draw(st.floats(0.3, 1.5)),
                       width_m=draw(st.floats(0.3, 6)), turn_deg=draw(st.sampled_from([0.0, 30.0])),
                       corner=Point(x_m=draw(st.floats(14.6, 15.3)), y_m=draw(st.floats(-2, 6))))]
    path = Path(id="path", name="Path", width_m=0.8, course=(
        Point(x_m=7, y_m=7.6), Point(x_m=36, y_m=7.6)))
    grown = tuple(draw(plots(i)) for i in range(count))
    bare = base.model_copy(update={"plots": grown, "buildings": tuple(things), "paths": (path,),
                                   "zones": (), "roofs": (), "fittings": ()})
    return relaid(bare, library)


def sixty_beds(library: Library) -> Garden:
    """Sixty beds in six rows, with over two thousand outlets between them."""
    base = poured(library, pots=0)
    beds = tuple(Bed(
        id=f"bed-{i + 1}", name=f"Bed {i + 1}", length_m=3.6, width_m=1.2, method="dripline",
        corner=Point(x_m=8 + (i % 10) * 4.2, y_m=(i // 10) * 2.2),
        plantings=(Planting(id="p1", crop="tomato" if i % 2 else "lettuce"),)) for i in range(60))
    return relaid(base.model_copy(update={"plots": beds, "zones": (), "fittings": ()}), library)
