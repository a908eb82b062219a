"""Changes of what is watered: mulch, shade, soil, outlets, drippers, another source, by hand."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core.advise.bounds import LARGER_TUBE
from euhydra.core.advise.habits import habits_of
from euhydra.core.advise.helping.moves import Move
from euhydra.core.advise.helping.of_water import TAP_CAUTION
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import AnyPlot, Bed, Pots, Tower
from euhydra.core.garden.plot_forms import MOST_DRIPPERS
from euhydra.core.layout.containers import drippers_in
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

WORTH_L_DAY = 0.3  # a habit that saves less in the peak month is not weighed
HABITS = {"mulch": ("Straw on {p}", 0.15), "shade": ("Shade cloth over {p} at noon", 0.3),
          "wind": ("A windbreak for {p}", 0.5), "soil": ("{soil} in {p}", 1.5),
          "packed": ("The same plants in {p}, packed", 0.5)}  # hours a square metre
OTHER_OUTLETS = ("dripline", "tape", "soaker", "dripline-pc", "drippers")
BY_HAND = 0.2


def of_plots(r: Results) -> Iterator[Move]:
    """All of them."""
    for plot in r.garden.plots:
        yield from _habits(r, plot)
        if isinstance(plot, Bed) and plot.watered == "lines":
            yield from _outlets(r, plot)
        if isinstance(plot, Pots | Tower):
            yield from _holders(plot)
        yield from _sources(r, plot)
    for zone in r.garden.zones:
        if wider := LARGER_TUBE.get(zone.supply_tube):
            yield Move(f"supply-{zone.id}", Phrase(
                f"{r.library.tubes[wider].name} to {quoted(zone.name)}"),
                SetValue(f"zones/{zone.id}/supply_tube", wider),
                frozenset({zone.id, *zone.plots}), 2.0)


def _habits(r: Results, plot: AnyPlot) -> Iterator[Move]:
    area = r.demand.thirsts[plot.id].area_m2
    for habit in habits_of(r, plot):
        if habit.saves_l_day < WORTH_L_DAY:
            continue
        words, hours = HABITS[habit.key]
        label = words.format(p=quoted(plot.name), soil=habit.label.removesuffix(" instead"))
        dug = habit.key == "soil" and isinstance(plot, Bed)
        yield Move(f"{habit.key}-{plot.id}", Phrase(label), habit.edit, frozenset({plot.id}),
                   max(0.2, hours * area), frozenset({"digging"}) if dug else frozenset())


def _outlets(r: Results, bed: Bed) -> Iterator[Move]:
    for key in OTHER_OUTLETS:
        if key != bed.method:
            yield Move(f"{key}-{bed.id}", Phrase(
                f"{r.library.methods[key].name.capitalize()} in {quoted(bed.name)}"),
                SetValue(f"plots/{bed.id}/method", key), frozenset({bed.id}), 1.5)


def _holders(plot: Pots | Tower) -> Iterator[Move]:
    """Taller pots hold more; one dripper more gives more."""
    mine = frozenset({plot.id})
    taller = round(plot.height_m * 4 / 3, 2)
    if isinstance(plot, Pots) and taller <= 1.0:
        yield Move(f"taller-{plot.id}", say(f"{quoted(plot.name)}: pots " + "{h} tall",
                                            h=Amount(taller, "small")),
                   SetValue(f"plots/{plot.id}/height_m", taller), mine,
                   0.3 * plot.count)
    more = drippers_in(plot) + 1
    if plot.watered == "lines" and more <= MOST_DRIPPERS:
        yield Move(f"each-{plot.id}", say("{n} drippers each in " + quoted(plot.name),
                                          n=Amount(more, "count")),
                   SetValue(f"plots/{plot.id}/each", more), mine, 0.1 * plot.count)


def _sources(r: Results, plot: AnyPlot) -> Iterator[Move]:
    """Fed from elsewhere, or left to a can."""
    garden, mine = r.garden, frozenset({plot.id})
    if plot.watered == "lines":
        for source in garden.sources:
            if source.id == garden.source_of(plot) or source in garden.drums:
                continue
            mains = source in garden.taps
            yield Move(f"from-{source.id}-{plot.id}", Phrase(
                f"Feed {quoted(plot.name)} from {quoted(source.name)}"),
                SetValue(f"plots/{plot.id}/fed_by", source.id), mine, 1.0,
                frozenset({"mains"}) if mains else frozenset(), TAP_CAUTION if mains else "")
        if plot.method != "float-valve":
            yield Move(f"can-{plot.id}", Phrase(f"{quoted(plot.name)} with a can, off the timer"),
                       SetValue(f"plots/{plot.id}/watered", "can"), mine, BY_HAND,
                       frozenset({"carrying"}))
    elif plot.watered in ("can", "hose"):
        yield Move(f"lines-{plot.id}", Phrase(f"Lines to {quoted(plot.name)}"),
                   SetValue(f"plots/{plot.id}/watered", "lines"), mine, 2.0)
