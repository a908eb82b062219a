"""First pour: a small drawing and a sentence for each of the six questions."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core import storage, units
from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.quick_start import Answers
from euhydra.core.stations.place import monthly_eto_mm
from euhydra.core.stations.prove import level_l, tap_days
from euhydra.core.terrain import geometry
from euhydra.core.units import System
from euhydra.web import svg
from euhydra.web.drawings import things
from euhydra.web.drawings.frame import MARGIN, Frame

W, H = 380.0, 150.0


@dataclass(frozen=True)
class Answer:
    """What a question's drawing shows and says."""

    drawing: Markup
    say: str


def answers(a: Assessment, given: Answers) -> dict[str, Answer]:
    """The six, by question."""
    return {"place": _place(a), "roof": _roof(a), "barrels": _barrels(a),
            "levels": _levels(a, given), "plots": _plots(a), "backup": _backup(a)}


def _drawn(title: str, *parts: object) -> Markup:
    return svg.svg(W, H, title, parts)


def _show(a: Assessment, value: float, kind: str, decimals: int | None = None) -> str:
    system: System = a.garden.units
    return units.show(value, kind, system, decimals).replace("\u00a0", " ")


def _figure(a: Assessment, station: str, key: str) -> str:
    """A station's own figure, as it will stand there."""
    return a.station(station).figure(key).amount.show(a.garden.units).replace("\u00a0", " ")


def _place(a: Assessment) -> Answer:
    rain, eto = a.garden.site.climate.rain_mm, monthly_eto_mm(a)
    top = max(*rain, *eto, 1.0)
    step, base = (W - 30) / 12, H - 22
    parts = [svg.rect(18 + m * step, base - rain[m] / top * 108, step - 6, rain[m] / top * 108,
                      "d-rain") for m in range(12)]
    parts.append(svg.line([(18 + m * step + step / 2 - 3, base - float(eto[m]) / top * 108)
                           for m in range(12)], "d-run"))
    parts += [svg.text(18 + m * step + step / 2 - 3, H - 6, "JFMAMJJASOND"[m], "d-mute", "middle")
              for m in range(12)]
    parts.append(svg.text(18, 14, "bars: rain, line: what the air takes", "d-mute"))
    turned = any(f.rule == "place.turned" for f in a.station("place").findings)
    return Answer(_drawn("Rain and thirst by month", *parts),
                  f"{_figure(a, 'place', 'rain_year')} of rain a year; in the dry months plants "
                  f"need {_figure(a, 'place', 'dry_gap')} more than it brings." + (
                      " Turned by six months for your half of the world." if turned else ""))


def _roof(a: Assessment) -> Answer:
    roof = a.garden.roofs[0]
    scale = min(200 / roof.width_m, 96 / roof.depth_m)
    w, h = roof.width_m * scale, roof.depth_m * scale
    x, y = (W - w) / 2, 10.0
    return Answer(_drawn(
        "Roof in plan", svg.rect(x, y, w, h, "d-wall"),
        svg.path(f"M{x - 3:.1f} {y + h + 4:.1f}H{x + w + 14:.1f}v20", "d-pipe"),
        svg.text(x + w / 2, y + h + 24, _show(a, roof.width_m, "length"), "d-dim", "middle"),
        svg.text(x - 8, y + h / 2, _show(a, roof.depth_m, "length"), "d-dim", "end"),
        svg.text(x + w / 2, y + h / 2 + 4, _figure(a, "catch", "roof_area"),
                 "d-lab", "middle")),
        f"{_figure(a, 'catch', 'caught_year')} a year reach the barrels; heavy rain fills them in "
        f"{_figure(a, 'catch', 'storm_fill_25')}.")


def _barrels(a: Assessment) -> Answer:
    store = a.garden.store
    drawn, wide = min(store.count, 8), storage.width_m(store)
    scale = min(112 / (store.stand_m + store.height_m), 250 / (drawn * (wide + 0.05)))
    ground, left = H - 16, (W - drawn * (wide + 0.05) * scale) / 2
    base = ground - store.stand_m * scale
    parts = [svg.path(f"M20 {ground}H{W - 20}", "d-ground")]
    for i in range(drawn):
        x = left + i * (wide + 0.05) * scale
        top = base - store.height_m * scale
        parts += [svg.rect(x, top, wide * scale, store.height_m * scale, "d-barrel", rx=3),
                  svg.rect(x + 1, top + 5, wide * scale - 2, store.height_m * scale - 6,
                           "d-water")]
    right = left + drawn * (wide + 0.05) * scale
    if store.stand_m > 0:
        parts += [svg.path(f"M{left:.1f} {ground}V{base:.1f}H{right:.1f}V{ground}", "d-ink",
                           stroke_width=2.4), svg.upright(right + 14, base, ground),
                  svg.text(right + 22, (base + ground) / 2 + 4, _show(a, store.stand_m, "length"),
                           "d-dim")]
    return Answer(_drawn("Barrels on their stand", *parts),
                  f"{_show(a, storage.total_l(store), 'volume')}, "
                  f"{_figure(a, 'store', 'full_mass')} when full, "
                  f"{_figure(a, 'store', 'bearing')} under each. Rain gives "
                  f"{_figure(a, 'store', 'reliability')} of what the garden drinks.")


def _levels(a: Assessment, given: Answers) -> Answer:
    store = a.garden.store
    span = abs(given.fall_m) + store.stand_m + store.height_m + 0.3
    scale = min(118 / span, 80)
    highest = max(store.ground_m, store.ground_m - given.fall_m)
    y = [H - 14 - (z - highest + abs(given.fall_m)) * scale
         for z in (store.ground_m, store.ground_m - given.fall_m)]
    barrel_top = y[0] - (store.stand_m + store.height_m) * scale
    wide = max(storage.width_m(store) * scale, 12)
    parts = [svg.path(f"M16 {y[0]:.1f}H150V{y[1]:.1f}H{W - 16}V{H}H16Z", "", fill="url(#earth)"),
             svg.path(f"M16 {y[0]:.1f}H150V{y[1]:.1f}H{W - 16}", "d-ground"),
             svg.rect(70, barrel_top, wide, store.height_m * scale, "d-barrel", rx=2),
             svg.rect(71, barrel_top + 3, wide - 2, store.height_m * scale - 4, "d-water"),
             svg.rect(220, y[1] - 9, 66, 9, "d-bed"), svg.leaf(234, y[1] - 9, 16),
             svg.leaf(262, y[1] - 9, 16),
             svg.path(f"M68 {y[0]:.1f}v{-store.stand_m * scale:.1f}h{wide + 4:.1f}"
                      f"v{store.stand_m * scale:.1f}", "d-ink", stroke_width=2.4),
             *([svg.upright(352, y[0], y[1]),
                svg.text(346, max((y[0] + y[1]) / 2 + 4, 24), _show(a, given.fall_m, "length"),
                         "d-dim", "end")] if abs(y[0] - y[1]) > 6 else []),
             svg.across(70 + wide, 220, min(y) - 26),
             svg.text(145 + wide / 2, min(y) - 32, _show(a, given.distance_m, "length"), "d-dim",
                      "middle")]
    head = _figure(a, "push", "least_head")
    reach = ("gravity reaches every outlet" if all(
        levels["low"].short_m <= 0 for levels in a.flows.values()) else
        "gravity falls short; the next page says what cures it")
    return Answer(_drawn("Levels from barrels to beds", *parts),
                  f"{head} at the weakest outlet with the barrel nearly empty: {reach}.")


def _plots(a: Assessment) -> Answer:
    plots = a.garden.plots
    boxes = [geometry.outline(p).bounds for p in plots]
    x0, y1 = min(b[0] for b in boxes), max(b[3] for b in boxes)
    wide, tall = max(b[2] for b in boxes) - x0, y1 - min(b[1] for b in boxes)
    scale = min((W - 40) / (wide + 0.6), (H - 12) / tall, 60)
    left = (W - wide * scale) / 2
    frame = Frame(x0 - (left - MARGIN) / scale, y1 - (MARGIN - 8) / scale, scale, H)
    parts = [part for p in plots for part in things.plot(frame, p, a.library)]
    parts += [svg.line([frame.at(c) for c in line.course], "d-row")
              for line in a.garden.lines if line.plot]
    return Answer(_drawn("Beds and pots with their lines", *parts),
                  f"{_figure(a, 'grow', 'need_peak')} in the hottest month, through "
                  f"{_figure(a, 'lay', 'line_total')} of line.")


def _backup(a: Assessment) -> Answer:
    level = level_l(a).mean(axis=0)
    full = a.usable_l
    points = [(18 + d / 364 * (W - 36), H - 20 - float(level[d]) / full * 100)
              for d in range(0, 365, 4)]
    parts = [svg.path(f"M18 {H - 20}H{W - 18}M18 {H - 120}H{W - 18}", "d-rule"),
             svg.line(points, "d-pipe"), svg.text(18, 14, "mean water in the barrels", "d-mute"),
             *(svg.text(18 + (m + 0.5) * (W - 36) / 12, H - 5, "JFMAMJJASOND"[m], "d-mute",
                        "middle") for m in range(12))]
    return Answer(_drawn("The barrels through the year", *parts), backup_words(a))


def backup_words(a: Assessment) -> str:
    """What a tap gives, or what it would be for."""
    if a.garden.taps:
        days = units.show(tap_days(a), "days", a.garden.units)
        litres = _figure(a, "store", "tap_year")
        return f"The tap gives {litres} a year, on {days} of a typical one."
    days = _figure(a, "prove", "short_days")
    return f"Without a tap, {days} of a typical year are short of water."
