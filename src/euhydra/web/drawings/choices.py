"""What First pour offers to touch, each drawn as it looks: waters, and what is watered."""

from __future__ import annotations

from collections.abc import Iterable

from markupsafe import Markup

from euhydra.web import svg

W, H, GROUND = 120.0, 74.0, 66.0


def _drawn(*parts: object) -> Markup:
    """A drawing that says nothing of its own: the words beside it do."""
    return svg.el("svg", svg.path(f"M4 {GROUND}H116", "d-ground"), *parts, class_="drawing",
                  viewBox=f"0 0 {W:g} {H:g}", aria_hidden="true")


def _ink(d: str) -> Markup:
    return svg.path(d, "d-ink", stroke_width=1.8, fill="none")


def _vessel(x: float, y: float, width: float, height: float) -> list[Markup]:
    return [svg.rect(x, y, width, height, "d-barrel", rx=3),
            svg.rect(x + 1, y + height * 0.35, width - 2, height * 0.65 - 1, "d-water")]


def _buckets(at: Iterable[float], top: float, foot: float) -> list[Markup]:
    return [part for x in at for part in (
        svg.path(f"M{x} {top}h22l-3 {foot - top}h-16z", "d-bed"), svg.leaf(x + 9, top, 17))]


WATERS: dict[str, Markup] = {
    "roof": _drawn(_ink("M10 66V34L52 18V66"), svg.path("M6 36L56 16", "d-ink", stroke_width=4.5),
                   svg.path("M57 18v10h14v10", "d-pipe"), *_vessel(62, 36, 26, 30)),
    "tap": _drawn(_ink("M22 66V26h16M38 22v10M34 22h8"),
                  svg.path("M38 32c0 14 14 12 14 22s26 8 30 2 16-8 20 4", "d-pipe d-pipe-tap")),
    "laundry": _drawn(_ink("M14 28h34v38h-34zM21 49a10 10 0 1 0 20 0a10 10 0 1 0-20 0"),
                      svg.path("M48 34h14v18", "d-pipe d-pipe-grey"), _ink("M58 54h34l-4 12H62z")),
    "well": _drawn(_ink("M30 66V50h40v16M36 50V28h28v22M32 28l18-12 18 12"),
                   svg.path("M50 28v30", "d-pipe d-pipe-well")),
    "tank": _drawn(_ink("M40 66V56h40v10M20 22l14-6 4 8-14 6z"), *_vessel(42, 24, 36, 32),
                   svg.path("M38 22q8 0 10 8", "d-pipe")),
}

WATERED: dict[str, Markup] = {
    "beds": _drawn(svg.rect(14, 44, 92, 22, "d-bed"),
                   *(svg.leaf(x, 44, 19) for x in (24, 41, 58, 75, 92))),
    "border": _drawn(svg.path("M8 66q52-16 104 0z", "d-bed"), svg.leaf(30, 59, 20),
                     svg.leaf(56, 58, 30), svg.leaf(84, 60, 18)),
    "trees": _drawn(_ink("M50 66V40"), svg.el("circle", cx=50, cy=28, r=20, class_="d-cover"),
                    svg.leaf(90, 66, 26)),
    "pots": _drawn(*_buckets((16, 48, 80), 46, 66)),
    "towers": _drawn(*(svg.path(f"M{x} {y}h22l3 12h-28z", "d-bed")
                       for x in (32, 70) for y in (18, 34, 50))),
    "gutter": _drawn(svg.rect(8, 54, 104, 10, "d-water"), *_buckets((14, 49, 84), 28, 54)),
    "chain": _drawn(_ink("M8 46h18v20h-18z"), *_buckets((34, 62, 90), 38, 66),
                    svg.path("M26 61h80", "d-pipe")),
    "float-pots": _drawn(*_vessel(8, 20, 22, 22), svg.path("M30 38q8 0 8 24h8", "d-pipe"),
                         svg.rect(40, 59, 34, 7, "d-water"), svg.rect(78, 59, 34, 7, "d-water"),
                         *_buckets((46, 84), 34, 59)),
    "lawn": _drawn(*(svg.leaf(x, 66, 14) for x in range(10, 112, 9))),
}
