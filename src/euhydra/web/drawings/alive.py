"""The garden on a day: its plan drawn for reading, with the water that stands and runs in it.

What changes from day to day is set by ``Moment``; the page's script sets the same from the year's
numbers (``web/alive.py``), by the names in ``data-…``.
"""

from __future__ import annotations

from markupsafe import Markup
from shapely.geometry import Point as At

from euhydra.core import storage
from euhydra.core.daily.year import Year
from euhydra.core.demand.plants import holders
from euhydra.core.editing import placement
from euhydra.core.editing.placement import Placed
from euhydra.core.garden.model import AnyPlot, Bed, Drain, Garden, Store, Tree
from euhydra.core.terrain import geometry
from euhydra.web import svg
from euhydra.web.drawings import things
from euhydra.web.drawings.alive_water import flows, levels, washes, ways
from euhydra.web.drawings.frame import MARGIN, WIDTH, Frame, scale_bar
from euhydra.web.drawings.moment import (
    Moment,
    box_of,
    gives_words,
    level_words,
    over_words,
    plot_of,
    rain_words,
)
from euhydra.web.sheet import Sheet

TALLEST = 392.0
ABOVE, BELOW = 22.0, 56.0  # for names, for the levels of stores and the scale
MOST_PX_M, MOST_VESSELS, LEAST_TOLD_PX = 110.0, 8, 80.0
LEAST_FIGURE_PX, LEAST_TALL_PX = 40.0, 20.0
TONE_WORDS = {"full": "full", "enough": "enough", "low": "low", "thirsty": "thirsty",
              "bare": "nothing grows"}


def picture(sheet: Sheet, year: Year, day: int) -> Markup:
    """The whole garden on a day."""
    frame, now = reading_frame(sheet.garden), Moment(sheet, year, day)
    things_ = [t for t in placement.placed(sheet.garden) if t.kind != "spot"]
    parts = [*levels(sheet, frame), *(_thing(now, frame, t) for t in things_ if t.kind in GROUND),
             *ways(now, frame), *washes(now, frame),
             *(_thing(now, frame, t) for t in things_ if t.kind not in GROUND),
             svg.el("g", *(words for t in things_ for words in _words(now, frame, t)),
                    *flows(now, frame), class_="names", aria_hidden="true")]
    return svg.svg(
        WIDTH, frame.height + 26, "The garden on this day", [
            *parts, scale_bar(sheet, frame), _key(frame)],
        interactive=True, data_picture="1")


def reading_frame(garden: Garden) -> Frame:
    """The frame that takes in what stands in the garden, in the middle, as large as may be."""
    west, south, east, north = placement.extent(garden)
    wide, tall = max(east - west, 1.0), max(north - south, 1.0)
    scale = min((WIDTH - 2 * MARGIN) / wide, (TALLEST - ABOVE - BELOW) / tall, MOST_PX_M)
    return Frame(west - ((WIDTH - 2 * MARGIN) / scale - wide) / 2,
                 north + (ABOVE - MARGIN) / scale, scale, tall * scale + ABOVE + BELOW)


GROUND = frozenset({"path", "roof", "building", "wall", "wet-area", "rain-garden", "basin"})


def _thing(now: Moment, frame: Frame, thing: Placed) -> Markup:
    if plot := plot_of(now, thing):
        return _plot(now, frame, thing, plot)
    if isinstance(thing.thing, Store):
        return _store(now, frame, thing.thing)
    if drain := things.drum_of(thing):
        return _drum(now, frame, drain)
    if thing.kind == "roof":
        return svg.el("g", svg.path(frame.outline(thing.shape), "d-wall"),
                      svg.path(frame.outline(thing.shape), "a-wet", data_wet="1",
                               display=None if now.wet else "none"),
                      *things.drawn(frame, now.sheet.assessment.library, thing)[1:])
    return svg.el("g", *things.drawn(frame, now.sheet.assessment.library, thing))


def _words(now: Moment, frame: Frame, thing: Placed) -> list[Markup]:
    """What is written at a thing, over all that is drawn."""
    x, y = frame.xy(thing.bounds[0], thing.bounds[3])
    if plot := plot_of(now, thing):
        return _plot_words(now, frame, thing, plot)
    if isinstance(thing.thing, Store):
        return _store_words(now, frame, thing.thing)
    if thing.kind == "roof":
        return _roof_words(now, frame, thing)
    if thing.kind in ("rain-garden", "wet-area"):
        return [svg.text(x + 4, y + 14, thing.name, "d-mute")]
    x, y = frame.xy(*thing.shape.centroid.coords[0])
    if drain := things.drum_of(thing):
        x += things.drum_px(frame, drain) + 6
        return [svg.text(x, y - 3, svg.clipped(drain.name, 30), "d-name d-halo"),
                *_gives(now, thing, x, y + 12)]
    return _gives(now, thing, x + 12, y + 5)


def _gives(now: Moment, thing: Placed, x: float, y: float) -> list[Markup]:
    """What a tap, a well or a drain gives, at the first of each."""
    return [svg.el("text", gives_words(now, thing.kind), x=x, y=y, class_="d-lab d-halo",
                   data_gives=thing.kind)] if thing.path in _tells(now) else []


def _drum(now: Moment, frame: Frame, drain: Drain) -> Markup:
    """A drain's drum, filled on the days of a wash; it is empty again by the next."""
    (x, y), r = frame.at(drain.at), things.drum_px(frame, drain) - 3
    rim, *rest = things.drum(frame, drain)
    wash = svg.path(f"M{x - r:.1f} {y:.1f}a{r:.1f} {r:.1f} 0 1 0 {2 * r:.1f} 0"
                    f"a{r:.1f} {r:.1f} 0 1 0 {-2 * r:.1f} 0Z", "d-grey-fill", data_wash="1",
                    display=None if now.washes else "none")
    return svg.el("g", rim, wash, *rest)


def _roof_words(now: Moment, frame: Frame, thing: Placed) -> list[Markup]:
    """A roof's name; on the first what the rain is."""
    x, y = frame.xy(thing.bounds[0], thing.bounds[3])
    wide, name = (thing.bounds[2] - thing.bounds[0]) * frame.scale, thing.name
    first = thing.thing.id == now.sheet.garden.roofs[0].id
    told = [svg.text(x + 7, y + 18, svg.clipped(name, max(4, int(wide / 7))),
                     "d-name d-halo-wall")]
    if wide > LEAST_TOLD_PX and first:
        told.append(svg.el("text", rain_words(now), x=x + 7, y=y + 34,
                           class_="d-mute d-halo-wall", data_rain="1"))
    return told


def _tells(now: Moment) -> set[str]:
    """The first tap, well and drain: the season knows what all of a kind give together."""
    garden = now.sheet.garden
    return {f"{kind}/{things_[0].id}" for kind, things_ in (
        ("taps", garden.taps), ("wells", garden.wells), ("drains", garden.drains)) if things_}


def _plot(now: Moment, frame: Frame, thing: Placed, plot: str) -> Markup:
    """A plot in the tone of what is left in its roots, a bar, a mark where it is thirsty."""
    x0, y0, x1, y1 = box_of(frame, thing)
    wide, share, tone = x1 - x0, now.share(plot), now.tone(plot)
    leaves = things.leaves(frame, thing.thing, now.sheet.assessment.library) if isinstance(
        thing.thing, Bed) and thing.thing.kind != "lawn" else []
    bar = y1 - 5 if y1 - y0 >= LEAST_TALL_PX else y1 + 2
    return svg.el(
        "g", svg.path(_ground(frame, thing), f"a-ground a-root-{tone}"),
        svg.el("g", *leaves, svg.rect(x0, bar, wide, 4, "a-bar"),
               svg.rect(x0, bar, wide * share, 4, "a-left", data_bar=f"{wide:.1f}"),
               data_grows="1", display="none" if tone == "bare" else None),
        svg.rect(x0, y0, wide, y1 - y0, "d-grip"),
        svg.path(f"M{x1 - 9:.1f} {y0 + 3:.1f}l7 12h-14Z", "a-thirst",
                 display=None if tone == "thirsty" else "none"),
        class_="a-plot", data_plot=plot, data_tone=tone, data_own=plot, tabindex="0",
        role="button", aria_label=f"{thing.name}: its own year")


def _plot_words(now: Moment, frame: Frame, thing: Placed, plot: str) -> list[Markup]:
    """A plot's name, and how much is left, where there is room for them."""
    x0, y0, x1, y1 = box_of(frame, thing)
    wide, within = x1 - x0, y1 - y0 >= LEAST_TALL_PX
    told = wide >= LEAST_FIGURE_PX
    letters = int((wide - (0 if within or not told else 36)) / 6.6)
    parts = [svg.text(x0, y0 - 4, svg.clipped(thing.name, letters), "d-name d-halo")
             ] if letters >= 3 else []
    if told:
        figure = "" if now.tone(plot) == "bare" else f"{100 * now.share(plot):.0f}\u00a0%"
        parts.append(svg.el("text", figure, x=x1 - 3 if within else x1,
                            y=y1 - 10 if within else y0 - 4, class_="a-fig d-halo",
                            text_anchor="end", data_share=plot))
    return parts


def _ground(frame: Frame, thing: Placed) -> str:
    """The ground of a plot as it is seen from above."""
    own = thing.thing
    if isinstance(own, AnyPlot) and not isinstance(own, Bed):
        radius = own.canopy_m / 2 if isinstance(own, Tree) else own.diameter_m / 2
        spots = geometry.trunks(own) if isinstance(own, Tree) else holders(own)
        return "".join(frame.outline(At(x, y).buffer(radius))
                       for x, y in geometry.to_site(own, spots))
    return frame.outline(thing.shape)


def _store(now: Moment, frame: Frame, store: Store) -> Markup:
    """A store's vessels, each with its water standing in it."""
    banks = now.sheet.assessment.banks
    n = banks.of_store[store.id]
    bank, level = banks.banks[n], float(now.year.level[n, now.day])
    share = min(level / bank.usable_l, 1.0) if bank.usable_l > 0 else 0.0
    left, x, y, size = _row_of(frame, store)
    disc = storage.SHAPES[store.shape].seen == "disc"
    key = f"v-{now.sheet.garden.id}-{store.id}"  # of two gardens on a page each has its own
    return svg.el(
        "g", *(_vessel(x - i * size * 1.08, y, size, share, f"{key}-{i}", disc=disc)
               for i in range(min(store.count, MOST_VESSELS))),
        svg.rect(left, y - size / 2, x + size / 2 - left, size, "d-grip"), class_="a-store",
        data_bank=str(n), data_own=f"bank:{n}", tabindex="0", role="button",
        aria_label=f"{store.name}: its own year")


def _row_of(frame: Frame, store: Store) -> tuple[float, float, float, float]:
    """Where a store's vessels begin in the west, the middle of its last, the size of each."""
    size = max(storage.length_m(store) * frame.scale, 14.0)
    x, y = frame.xy(store.at.x_m, store.at.y_m - 0.35)
    return x - (min(store.count, MOST_VESSELS) - 1) * size * 1.08 - size / 2, x, y, size


def _store_words(now: Moment, frame: Frame, store: Store) -> list[Markup]:
    """A bank's name and level at its first store; under the last what runs over."""
    banks = now.sheet.assessment.banks
    n = banks.of_store[store.id]
    bank, (left, _, y, size) = banks.banks[n], _row_of(frame, store)
    if bank.stores[0].id != store.id:
        return []
    level = float(now.year.level[n, now.day])
    words = [svg.text(left, y + size / 2 + 16, svg.clipped(bank.name, 40), "d-name d-halo"),
             svg.el("text", level_words(now, level, bank.usable_l), x=left,
                    y=y + size / 2 + 30, class_="a-fig d-halo", data_level=str(n))]
    if n == len(banks.banks) - 1:
        words.append(svg.el("text", over_words(now), x=left, y=y + size / 2 + 46,
                            class_="a-over d-halo", data_over="1"))
    return words


def _vessel(x: float, y: float, size: float, share: float, key: str, *, disc: bool) -> Markup:
    top, rx = y - size / 2, size / 2 if disc else 3.0
    shape = svg.rect(x - size / 2, top, size, size, "", rx=rx)
    water = svg.rect(x - size / 2, top + size * (1 - share), size, size * share, "a-water",
                     clip_path=f"url(#{key})", data_stands=f"{top:.2f},{size:.2f}")
    return svg.el("g", svg.el("clipPath", shape, id=key),
                  svg.rect(x - size / 2, top, size, size, "a-vessel", rx=rx), water,
                  svg.rect(x - size / 2, top, size, size, "a-rim", rx=rx))


def _key(frame: Frame) -> Markup:
    """The tones of the roots."""
    y, x = frame.height + 12, 16.0
    parts = [svg.text(x, y + 4, "in the roots:", "d-mute")]
    x += 82
    for tone, words in TONE_WORDS.items():
        parts += [svg.rect(x, y - 6, 16, 12, f"a-ground a-root-{tone}"),
                  svg.text(x + 22, y + 4, words, "d-lab")]
        x += 40 + 6.6 * len(words)
    return svg.el("g", *parts)
