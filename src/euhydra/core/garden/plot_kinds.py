"""The kinds of plot: the model that each is one of, its words, and what a new one is made as."""

from __future__ import annotations

from dataclasses import dataclass, field

from euhydra.core.garden.plot_forms import AnyPlot, Bed, Pots, Tower, Tree, Wicking


@dataclass(frozen=True)
class PlotKind:
    """A kind of plot, by the name that ``kind`` of its model takes.

    ``name`` is what one is called, ``added`` what is offered, ``short`` stands where there is
    little room. What is of one ``family`` may share a zone. A new one grows ``crop``, in the
    site's soil where it stands ``in_ground``, and has the ``usual`` measures. ``drawn_m`` is how
    large the one on its button is, m from west to east and from south to north.
    """

    model: type[AnyPlot]
    name: str
    added: str
    short: str
    family: str
    crop: str
    drawn_m: tuple[float, float]
    in_ground: bool = False
    usual: dict[str, float] = field(default_factory=dict)


PLOT_KINDS: dict[str, PlotKind] = {
    "bed": PlotKind(Bed, "Bed", "a bed", "bed", "ground", "lettuce", (1.8, 0.9),
                    usual={"length_m": 2.4, "width_m": 1.2, "rim_m": 0.2}),
    "border": PlotKind(Bed, "Border", "a border", "border", "ground", "flowers", (2.0, 0.6),
                       in_ground=True, usual={"length_m": 4.0, "width_m": 0.8}),
    "lawn": PlotKind(Bed, "Lawn strip", "a lawn strip", "lawn strip", "ground", "lawn-cool",
                     (2.0, 0.8), in_ground=True, usual={"length_m": 4.0, "width_m": 1.5}),
    "tree": PlotKind(Tree, "Tree", "a tree", "tree", "tree", "pear", (1.0, 1.0), in_ground=True,
                     usual={"canopy_m": 2.5}),
    "shrub": PlotKind(Tree, "Shrub", "a shrub", "shrub", "tree", "bush-fruit", (0.8, 0.8),
                      in_ground=True, usual={"canopy_m": 1.2}),
    "pots": PlotKind(Pots, "Pots", "pots", "pots", "pots", "tomato", (1.1, 0.3),
                     usual={"count": 4}),
    "bags": PlotKind(Pots, "Grow bags", "grow bags", "grow bags", "pots", "tomato", (1.3, 0.4),
                     usual={"count": 4, "diameter_m": 0.4}),
    "tower": PlotKind(Tower, "Tower planters", "tower planters", "towers", "tower", "strawberry",
                      (0.9, 0.3), usual={"count": 2}),
    "gutter": PlotKind(Wicking, "Buckets over a gutter", "buckets over a gutter", "gutter",
                       "gutter", "tomato", (1.5, 0.3), usual={"count": 6}),
    "chain": PlotKind(Wicking, "Bucket chain", "a bucket chain", "chain", "chain", "tomato",
                      (1.5, 0.3), usual={"count": 6, "water_m": 0.04}),
    "float-pots": PlotKind(Wicking, "Float-valve pots", "float-valve pots", "float pots",
                           "float-pots", "tomato", (1.5, 0.3), usual={"count": 6}),
}
