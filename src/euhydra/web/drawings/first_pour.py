"""First pour: a small drawing and a sentence for each of its questions."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core import storage, units
from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.answers import Answers
from euhydra.core.garden.model import Drain, Store
from euhydra.core.stations.drums import busiest_day
from euhydra.core.stations.place import monthly_eto_mm
from euhydra.core.stations.prove import tap_days
from euhydra.core.terrain import geometry
from euhydra.core.units import System
from euhydra.web import svg
from euhydra.web.drawings import pieces, things
from euhydra.web.drawings.frame import MARGIN, Frame

W, H = 380.0, 150.0


@dataclass(frozen=True)
class Answer:
    """What a question's drawing shows and says."""

    drawing: Markup
    say: str


def answers(a: Assessment, given: Answers) -> dict[str, Answer]:
    """Those to the questions that are asked, by question."""
    found = {"place": _place(a), "levels": _levels(a, given), "plots": _plots(a)}
    if a.garden.roofs:
        found["roof"] = _roof(a)
    if given.has_barrels:
        found["barrels"] = _barrels(a)
    for water, drawn in (("tap", _tap), ("well", _well), ("laundry", _laundry)):
        if water in given.waters:
            found[water] = drawn(a)
    if "tank" in given.waters:
        found["tank"] = _tank(a)
    return found


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


def _stood(a: Assessment, store: Store) -> Markup:
    """Like vessels side by side on their stand, full."""
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
    return _drawn(f"{store.name} on the stand", *parts)


def _of_store(a: Assessment, key: str, store: Store) -> str:
    """A figure of one store: where there are several its key ends in the store's id."""
    alone = len(a.garden.stores) == 1
    return _figure(a, "store", key if alone else f"{key}_{store.id}")


def _barrels(a: Assessment) -> Answer:
    store, alike = a.garden.store, [s for s in a.garden.stores if not s.hand_filled]
    litres = sum(storage.total_l(s) for s in alike)
    return Answer(_stood(a, store),
                  f"{_show(a, litres, 'volume')}; {_of_store(a, 'full_mass', store)} when full, "
                  f"{_of_store(a, 'bearing', store)} under each. " + backup_words(a))


def _tank(a: Assessment) -> Answer:
    tank = next(s for s in a.garden.stores if s.hand_filled)
    every, carried = (_figure(a, "store", f"{key}_{tank.id}")
                      for key in ("filled_every", "carried"))
    return Answer(_stood(a, tank), f"In high summer it is filled every {every}, {carried} a year "
                                   "by hand.")


def _tap(a: Assessment) -> Answer:
    tap = a.garden.taps[0]
    return Answer(_drawn(
        "The tap and a bucket", svg.path(f"M20 {H - 16}H{W - 20}", "d-ground"),
        svg.path("M120 134V48h44v14M150 40v12M142 40h16", "d-ink", stroke_width=3, fill="none"),
        svg.path("M164 66v34", "d-pipe d-pipe-tap"), svg.path("M140 100h48l-6 34h-36z", "d-barrel"),
        svg.rect(145, 114, 38, 19, "d-water"),
        svg.text(206, 122, f"{_show(a, tap.bucket_l, 'volume', 1)} in {tap.bucket_s:.0f} s",
                 "d-dim")),
        f"It gives up to {_figure(a, 'catch', f'tap_flow_{tap.id}')} at "
        f"{_figure(a, 'catch', f'tap_head_{tap.id}')}."
        + ("" if tap.tops_up else " Hoses and lines hang on it."))


def _well(a: Assessment) -> Answer:
    well = a.garden.wells[0]
    return Answer(_drawn(
        "The well", svg.path(f"M20 50H150M230 50H{W - 20}", "d-ground"),
        svg.path("M150 36V140H230V36", "d-ink", stroke_width=2.4, fill="none"),
        svg.rect(151, 96, 78, 43, "d-water"), svg.path("M190 20v104", "d-pipe d-pipe-well"),
        svg.text(242, 104, _show(a, well.recovery_l_h, "flow", 0), "d-dim"),
        svg.text(242, 122, "comes back", "d-mute")),
        f"It can {'fill in' if well.tops_up else 'give'} "
        f"{_figure(a, 'catch', f'well_day_{well.id}')} a day, and gives "
        f"{_show(a, a.season.a_year(a.season.well), 'yearly')} a year.")


def _laundry(a: Assessment) -> Answer:
    drain = a.garden.drains[0]
    if drain.school == "drum":
        return _drum(a, drain)
    parts = [svg.path(f"M20 {H - 16}H{W - 20}", "d-ground"),
             svg.path("M60 70h50v64h-50z", "d-ink", fill="none", stroke_width=2),
             svg.el("circle", cx=85, cy=106, r=15, class_="d-ink", fill="none"),
             svg.path("M110 84h40v44", "d-pipe d-pipe-grey")]
    for i in range(min(len(drain.basins), 4)):
        x = 140 + 52 * i
        parts += [svg.path(f"M{x} 134q20 16 40 0z", "d-bed"), svg.leaf(x + 18, 134, 30)]
    return Answer(_drawn(f"{drain.name} and its mulch basins", *parts),
                  f"{_figure(a, 'catch', f'grey_week_{drain.id}')} a week go straight to mulch "
                  f"basins; {_figure(a, 'catch', f'grey_area_{drain.id}')} of ground can take "
                  "them.")


def _drum(a: Assessment, drain: Drain) -> Answer:
    """The machine's pipe over the drum, through air, and the lines that leave it."""
    day = busiest_day(a, drain)
    parts = [svg.path(f"M20 {H - 16}H{W - 20}", "d-ground"),
             svg.path("M40 70h50v64h-50z", "d-ink", fill="none", stroke_width=2),
             svg.el("circle", cx=65, cy=106, r=15, class_="d-ink", fill="none"),
             svg.path("M78 70V30H176v14", "d-pipe d-pipe-grey"),
             svg.rect(150, 58, 54, 76, "d-barrel", rx=3), svg.rect(151, 84, 52, 49, "d-grey-fill"),
             svg.text(216, 52, "through air", "d-mute"),
             svg.path("M190 126v-20h36v22h112", "d-pipe d-pipe-grey"),
             *(svg.path(f"M{x} 128v6", "d-pipe d-pipe-grey") for x in range(246, 340, 22)),
             svg.text(216, 76, _show(a, drain.drum_l, "volume"), "d-dim")]
    keeps = (f"on the busiest day {_show(a, day.spilled_l, 'drop')} run over"
             if day.spilled_l > 0.05 else "it never runs over")
    return Answer(_drawn(f"{drain.name} and its lines", *parts),
                  f"{_figure(a, 'catch', f'grey_week_{drain.id}')} a week go out as they come; "
                  f"{keeps}.")


def _levels(a: Assessment, given: Answers) -> Answer:
    """The section: what the lines draw from at the left, the plants at the right."""
    first = a.garden.sources[0]
    source = first.drum if isinstance(first, Drain) else first
    up = source.stand_m + source.height_m if isinstance(source, Store) else source.height_m
    span = abs(given.fall_m) + up + 0.3
    scale = min(104 / span, 80)
    highest = max(source.ground_m, source.ground_m - given.fall_m)
    y = [H - 14 - (z - highest + abs(given.fall_m)) * scale
         for z in (source.ground_m, source.ground_m - given.fall_m)]
    wide, marked = 12.0, pieces.kind_of_water(a.garden, first.id)
    parts = [svg.path(f"M16 {y[0]:.1f}H150V{y[1]:.1f}H{W - 16}V{H}H16Z", "", fill="url(#earth)"),
             svg.path(f"M16 {y[0]:.1f}H150V{y[1]:.1f}H{W - 16}", "d-ground")]
    if isinstance(source, Store):
        wide = max(storage.width_m(source) * scale, 12)
        top = y[0] - up * scale
        parts += [svg.rect(70, top, wide, source.height_m * scale, "d-barrel", rx=2),
                  svg.rect(71, top + 3, wide - 2, source.height_m * scale - 4, "d-water"),
                  svg.path(f"M68 {y[0]:.1f}v{-source.stand_m * scale:.1f}h{wide + 4:.1f}"
                           f"v{source.stand_m * scale:.1f}", "d-ink", stroke_width=2.4)]
    else:
        parts += [svg.path(f"M70 {y[0]:.1f}v{-max(up * scale, 26):.1f}h12v9", "d-ink", fill="none",
                           stroke_width=2.4),
                  svg.path(f"M82 {y[0] - max(up * scale, 26) + 10:.1f}V{y[0] - 3:.1f}H214"
                           f"V{y[1] - 3:.1f}", pieces.pipe_class(a.garden, first.id))]
    parts += [svg.rect(220, y[1] - 9, 66, 9, "d-bed"), svg.leaf(234, y[1] - 9, 16),
              svg.leaf(262, y[1] - 9, 16),
              *([svg.upright(352, y[0], y[1]),
                 svg.text(346, max((y[0] + y[1]) / 2 + 4, 24), _show(a, given.fall_m, "length"),
                          "d-dim", "end")] if abs(y[0] - y[1]) > 6 else []),
              svg.across(70 + wide, 220, max(min(y) - 30, 22)),
              svg.text(145 + wide / 2, max(min(y) - 36, 16), _show(a, given.distance_m, "length"),
                       "d-dim", "middle")]
    head = _figure(a, "push", "least_head")
    reach = ("every outlet gets what it needs" if all(
        levels["low"].short_m <= 0 for levels in a.flows.values()) else
        "it falls short; the next page says what cures it")
    water = " with the barrel nearly empty" if a.garden.stores else ""
    there = {"tap": "the tap", "well": "the well"}.get(marked, "the water")
    return Answer(_drawn(f"Levels from {there} to the plants", *parts),
                  f"{head} at the weakest outlet{water}: {reach}.")


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


def backup_words(a: Assessment) -> str:
    """What a tap gives that fills in, or what it would be for."""
    if any(tap.tops_up for tap in a.garden.taps):
        days = units.show(tap_days(a), "days", a.garden.units)
        litres = _figure(a, "store", "tap_year")
        return f"The tap gives {litres} a year, on {days} of a typical one."
    days = _figure(a, "prove", "short_days")
    return f"As it is, {days} of a typical year are short of water."
