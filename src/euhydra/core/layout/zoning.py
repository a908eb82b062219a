"""Zones: what may open together."""

from __future__ import annotations

from collections.abc import Iterable

from euhydra.core.garden.model import AnyPlot, Garden, Wicking, Zone
from euhydra.core.garden.plot_kinds import PLOT_KINDS
from euhydra.core.layout import capacity
from euhydra.core.library import Library

LINT_FILTER = "filter-lint"  # before what a drain's drum feeds
LEVEL_BAND_M = 0.3  # outlets farther apart in level than this part under gravity, from memory


def zones_for(garden: Garden, library: Library) -> tuple[Zone, ...]:
    """Plots that share store, kind, method, thirst and level band, in the order of the plots.

    One that is put with another by hand opens with it, where one source feeds both.
    A zone that stands already keeps its pipe and filter; ids follow a zone's first plot, so they
    last while plots are added.
    """
    place = {plot.id: i for i, plot in enumerate(garden.plots)}
    groups = _by_hand(garden, list(_groups(garden, library)))
    return _zones(garden, sorted(groups, key=lambda g: place[g[0].id]))


def within_limits(garden: Garden, laid: Garden, library: Library) -> tuple[Zone, ...]:
    """The zones of a garden as it is ``laid``, parted where pipe or source would not carry them.

    What was put together by hand stays together.
    """
    groups: list[list[AnyPlot]] = []
    for zone in laid.zones:
        plots = [garden.plot(p) for p in zone.plots]
        if not zone.timed or len(plots) < 2 or any(_by_hands(garden, p) for p in plots):
            groups.append(plots)
            continue
        most = capacity.carries_l_h(laid, library, zone.source, zone.supply_tube)
        asked = capacity.asked_l_h(laid, library, zone, most)
        groups += [[garden.plot(p) for p in part]
                   for part in capacity.parted(zone.plots, asked, most)]
    return _zones(garden, groups)


def _zones(garden: Garden, groups: Iterable[list[AnyPlot]]) -> tuple[Zone, ...]:
    """A zone for each group of plots; one that stands already keeps what was set on it.

    Its name begins with the number that its valve bears.
    """
    before = {zone.id: zone for zone in garden.zones}
    zones = []
    for number, group in enumerate(groups, start=1):
        zone_id = f"zone-{group[0].id}"[:60]
        old = before.get(zone_id)
        source = garden.source_of(group[0])
        drum = garden.drum_of(source) is not None
        timed = not isinstance(group[0], Wicking) and not drum
        fresh = Zone(id=zone_id, name=f"{number} · {_joined(group)}",
                     source=source, plots=tuple(p.id for p in group), timed=timed,
                     timer=_timer_for(garden, group, source) if timed else "")
        if old and not drum and not old.timed and old.filter == LINT_FILTER:
            old = old.model_copy(update={"filter": fresh.filter})
        if drum and (old is None or garden.drum_of(old.source) is None):
            old = (old or fresh).model_copy(update={"filter": LINT_FILTER})
        zones.append(old.model_copy(update={
            "name": fresh.name, "plots": fresh.plots, "source": fresh.source, "timed": timed,
            "timer": old.timer if timed else ""}) if old else fresh)
    return tuple(zones)


def _timer_for(garden: Garden, group: list[AnyPlot], source: str) -> str:
    """What opens a new zone: the timer that opened its plots, or others of its source, or any.

    A hand, where a hand did or there is no timer.
    """
    ids = {plot.id for plot in group}
    for near in (lambda z: ids & set(z.plots), lambda z: z.source == source):
        for zone in garden.timed_zones:
            if near(zone):
                return zone.timer
    return garden.timers[0].id if garden.timers else ""


def _by_hands(garden: Garden, plot: AnyPlot) -> bool:
    return stands_with(garden, plot).id != plot.id


def outlet_z_m(plot: AnyPlot) -> float:
    """Level at which the plot's outlets stand."""
    return plot.ground_m + plot.outlets_up_m


def thirst_group(plot: AnyPlot, library: Library) -> str:
    """Seedling, leafy, fruiting or woody: that of the planting with the largest share."""
    return "seedling" if plot.seedlings else library.crops[plot.main.crop].thirst


def family(plot: AnyPlot) -> str:
    """What is watered alike: ground, trees, pots, towers, or each kind of self-watering row.

    A float valve takes what it wants, so thirst does not part self-watering rows.
    """
    return PLOT_KINDS[plot.kind].family


def stands_with(garden: Garden, plot: AnyPlot) -> AnyPlot:
    """The plot whose zone this one opens in by hand; itself where it is not put with another.

    What names itself, a plot that is gone, or one that another source feeds, counts for nothing;
    so does a ring of plots that name each other.
    """
    plots = {p.id: p for p in garden.plots}
    at, seen = plot, {plot.id}
    while at.put_with in plots and not plot.own_valve:
        at = plots[at.put_with]
        if at.id in seen:
            return plot
        seen.add(at.id)
    alike = (garden.source_of(at) == garden.source_of(plot)
             and isinstance(at, Wicking) == isinstance(plot, Wicking)
             and at.watered == plot.watered)
    return at if alike else plot


def _by_hand(garden: Garden, groups: list[list[AnyPlot]]) -> list[list[AnyPlot]]:
    """The groups with each plot that was put with another moved to that one's."""
    for plot in garden.plots:
        other = stands_with(garden, plot)
        if other.id == plot.id or plot.watered != "lines":
            continue
        home, there = (next(g for g in groups if any(p.id == x.id for p in g))
                       for x in (plot, other))
        if home is not there:
            home.remove(plot)
            there.append(plot)
    return [group for group in groups if group]


def key_of(garden: Garden, library: Library, plot: AnyPlot) -> dict[str, str]:
    """What decides a plot's zone, by what it is called; the level band comes after.

    All that a drain's drum feeds is one zone: its water goes out as it comes.
    """
    if garden.drum_of(source := garden.source_of(plot)):
        return {"source": source}
    thirst = "" if isinstance(plot, Wicking) else thirst_group(plot, library)
    return {"source": source, "kind of plot": family(plot),
            "outlets": plot.method, "thirst": thirst,
            "a valve of its own": plot.id if plot.own_valve else ""}


def parted_by(garden: Garden, library: Library, one: AnyPlot, other: AnyPlot) -> tuple[str, ...]:
    """What keeps two plots in zones of their own.

    A level band where nothing else does, then a hand, then the flow that pipe and source carry.
    Nothing where they open together.
    """
    a, b = key_of(garden, library, one), key_of(garden, library, other)
    if a["source"] != b["source"]:
        return ("source",)
    if why := tuple(word for word in a if a[word] != b[word]):
        return why
    if abs(outlet_z_m(one) - outlet_z_m(other)) > LEVEL_BAND_M:
        return ("level",)
    if any({one.id, other.id} <= set(zone.plots) for zone in garden.zones):
        return ()
    return ("by hand",) if any(_by_hands(garden, p) for p in (one, other)) else ("flow",)


def _groups(garden: Garden, library: Library) -> Iterable[list[AnyPlot]]:
    alike: dict[tuple[str, ...], list[AnyPlot]] = {}
    for plot in (p for p in garden.plots if p.watered == "lines"):
        key = tuple(key_of(garden, library, plot).values())
        alike.setdefault(key, []).append(plot)
    for plots in alike.values():
        if garden.drum_of(garden.source_of(plots[0])):
            yield plots
            continue
        for band in _bands(sorted({outlet_z_m(p) for p in plots})):
            yield [p for p in plots if band[0] - 1e-9 <= outlet_z_m(p) <= band[1] + 1e-9]


def _bands(levels: list[float]) -> Iterable[tuple[float, float]]:
    low = high = levels[0]
    for level in levels[1:]:
        if level - low > LEVEL_BAND_M + 1e-9:
            yield low, high
            low = level
        high = level
    yield low, high


def _joined(plots: list[AnyPlot]) -> str:
    names = [p.name for p in plots]
    text = names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]
    return text if len(text) <= 72 else f"{names[0]} and {len(names) - 1} more"[:72]
