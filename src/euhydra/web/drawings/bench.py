"""The stand-in devices drawn: the store with its gauge, the valve, the meter, the weather."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core import units
from euhydra.core.garden.base import WEEK
from euhydra.core.units import System
from euhydra.standins import Bench
from euhydra.web import svg
from euhydra.web.words import held

TANK_TOP, TANK_TALL = 60.0, 150.0


def devices(bench: Bench, system: System) -> Markup:
    """All of them at the minute that it is."""
    now = bench.reading()
    day, at = divmod(now.minute, 1440)
    clock = f"{WEEK[day % 7]} {at // 60}:{at % 60:02d}"
    runs = bool(bench.open)
    parts = [svg.text(20, 30, f"Day {day + 1}, {clock}", "d-title"), *_weather(now.rain_mm, system)]
    if bench.usable_l > 0:
        parts += _tank(bench, now.gauge_l, system)
    parts += [svg.path("M250 196H330", "d-pipe"), _valve(open_=runs),
              svg.path("M386 196H470", "d-pipe" if runs else "d-ghost"),
              svg.rect(470, 162, 150, 66, "d-white"),
              svg.text(482, 182, "M  meter", "d-mute"),
              svg.text(608, 212, units.show(now.meter_l, "drop", system), "d-title", "end"),
              svg.path("M620 196H820", "d-pipe" if runs else "d-ghost")]
    names = {z.id: z.name for z in bench.r.garden.zones}
    told = "; ".join(names[z] for z in now.open_zone.split(",") if z) or "nothing is open"
    parts.append(svg.text(820, 182, told if len(told) <= 34 else told[:33] + "…", "d-name", "end"))
    words = f"{clock}: {told}, meter {units.show(now.meter_l, 'drop', system)}"
    return svg.svg(850, 250, words, parts)


def _weather(rain_mm: float, system: System) -> list[Markup]:
    drops = min(round(rain_mm / 2), 8)
    falling = "".join(f"M{660 + i * 18} {62 + i % 2 * 8}l-6 14" for i in range(drops))
    return [svg.path("M652 44a14 14 0 0 1 24 -12a18 18 0 0 1 34 2a12 12 0 0 1 6 22H660a11 11 0 0 "
                     "1 -8 -12Z", "d-cover"), svg.path(falling, "d-pipe", stroke_width=2),
            svg.text(730, 48, f"{units.show(rain_mm, 'rain', system)} in two days", "d-lab")]


def _tank(bench: Bench, gauge_l: float, system: System) -> list[Markup]:
    letter = held(bench.r.banks.banks[bench.bank].stores)
    share = min(max(gauge_l / bench.usable_l, 0.0), 1.0)
    top = TANK_TOP + TANK_TALL * (1 - share)
    return [svg.rect(150, TANK_TOP, 100, TANK_TALL, "d-barrel", rx=5),
            svg.rect(151, top, 98, TANK_TOP + TANK_TALL - top - 1, "d-water", rx=4),
            svg.el("circle", cx=140, cy=top, r=6, class_="d-handle"),
            svg.text(128, top + 4, units.show(gauge_l, "volume", system), "d-dim", "end"),
            svg.text(250, TANK_TOP - 10, f"{letter}  gauge", "d-mute", "end")]


def _valve(*, open_: bool) -> Markup:
    lever = "M358 196V160" if not open_ else "M340 172H376"
    return svg.el("g", svg.path("M330 180l28 16l-28 16ZM386 180l-28 16l28 16Z",
                                "d-rain" if open_ else "d-white"),
                  svg.path(lever, "d-ink", stroke_width=4),
                  svg.text(358, 236, "open" if open_ else "shut", "d-lab", "middle"))
