"""Build: the head assembly exploded in order, each part drawn as itself."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core.construction.joints import HeadPart, head_assembly
from euhydra.web import svg
from euhydra.web.sheet import Sheet

CELL, TALL, IN_A_ROW = 114.0, 184.0, 6
GLYPHS = {
    "inlet": "M18 6h18v26M18 20h-14M36 12h10v6h-10M18 32h18v8h-18Z",
    "splitter": "M24 2v14M24 16c0 8-16 6-16 18v6M24 16c0 8 16 6 16 18v6M4 28h8M36 28h8",
    "timer": "M6 4h36v36H6ZM24 14a8 8 0 1 0 .1 0M24 22l5-5M24 40v6M24 -2v6",
    "filter": "M10 4h28M14 4v30l10 10 10-10V4M18 10v22M24 10v28M30 10v22M16 16h16M16 24h16",
    "backflow": "M6 24h36M24 6v10M14 16h20l-10 16ZM12 34h24M24 34v8",
    "regulator": "M4 26h12v-8h16v8h12M24 18v-12M16 6h16M18 34h12",
    "valve": "M4 26h10M34 26h10M14 18h20v16h-20ZM24 18v-8M12 10h24",
    "check": "M4 26h10M34 26h10M14 14v24l20-12ZM34 14v24",
    "pump": "M24 8a18 18 0 1 0 .1 0M24 26l9-9M24 26l-12 4M24 26l4 12M42 26h6M24 8V0",
    "spare": "M4 26h40M24 26v14M18 40h12M20 44h8",
    "thread": "M6 12h16v20H6ZM10 12v20M14 12v20M18 12v20M22 17h18v10H22M28 17v10M34 17v10",
    "adapter": "M8 12h14v20H8ZM22 16h20M22 28h20M28 13v18M34 13v18M40 13v18",
}


def heads(sheet: Sheet) -> Markup:
    """From the source to the pipe. Zones whose heads are alike share one drawing."""
    a, y = sheet.assessment, 30.0
    alike: dict[tuple[tuple[HeadPart, ...], str, str], list[str]] = {}
    for zone in a.garden.zones:
        source = ("tap" if a.garden.on_mains(zone.source) else
                  "well" if a.garden.well_of(zone.source) else a.garden.vessel_of(zone.source))
        key = (head_assembly(a.garden, a.library, zone), zone.supply_tube, source)
        alike.setdefault(key, []).append(zone.name)
    parts = []
    for (head, tube, source), names in alike.items():
        times = "" if len(names) == 1 else f", {len(names)} of these"
        parts += [svg.text(20, y, f"Head assembly in order, from the {source}{times}", "d-title"),
                  svg.text(20, y + 20, "for " + svg.clipped("; ".join(names), 40), "d-mute"),
                  *_rows(head, a.library.tubes[tube].name, y + 34)]
        y += TALL * -(-len(head) // IN_A_ROW) + 34
    return svg.svg(850, y - 20, "Head assembly of each zone in order", parts)


def _rows(head: tuple[HeadPart, ...], tube: str, y: float) -> list[Markup]:
    parts: list[Markup] = []
    for first in range(0, len(head), IN_A_ROW):
        row = head[first:first + IN_A_ROW]
        end = 20 + len(row) * CELL
        last = first + len(row) == len(head)
        parts += [svg.path(f"M20 {y + 46:.1f}H{end + (110 if last else 0):.1f}", "d-pipe",
                           stroke_dasharray="10 5"), *_row(row, first, y)]
        parts += _wrapped(tube, end + 60, y + 70) if last else [
            svg.text(end + 6, y + 50, "goes on below", "d-mute")]
        y += TALL
    return parts


def _row(row: tuple[HeadPart, ...], first: int, y: float) -> list[Markup]:
    parts: list[Markup] = []
    for i, part in enumerate(row):
        x = 20 + i * CELL
        glyph = GLYPHS.get(part.role, GLYPHS["adapter"])
        parts += [svg.rect(x + 14, y + 10, 78, 72, "d-white"),
                  svg.el("g", svg.path(glyph, "d-ink", stroke_width=2),
                         transform=f"translate({x + 29:.1f} {y + 24:.1f})"),
                  svg.text(x + 18, y + 24, str(first + i + 1), "d-dim"),
                  *_wrapped(part.name, x + 53, y + 102)]
    return parts


def _wrapped(name: str, cx: float, y: float) -> list[Markup]:
    lines, line = [], ""
    for word in name.split():
        if line and len(line) + len(word) > 16:
            lines.append(line)
            line = word
        else:
            line = f"{line} {word}".strip()
    return [svg.text(cx, y + i * 16, text, "d-lab", "middle")
            for i, text in enumerate([*lines, line][:4])]
