"""The letters of what goes on paper: the shipped web fonts as TrueType of one weight each.

``python scripts/paper_fonts.py WHERE`` writes them, with ``--check`` says which of those that lie
there are others; the same sources give the same bytes.
"""

from __future__ import annotations

import sys
from pathlib import Path
from tempfile import TemporaryDirectory

from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

SOURCES = Path(__file__).parents[1] / "src/euhydra/web/static/fonts"
LETTERS = {"words": ("Words", "atkinson-hyperlegible-next", (400, 700)),
           "title": ("Title", "bricolage-grotesque", (700,)),
           "figures": ("Figures", "spline-sans-mono", (400, 700))}
STYLES = {400: "Regular", 700: "Bold"}


def of_one_weight(source: Path, weight: int) -> TTFont:
    """A variable font's letters at a weight, without what only a screen or a layout engine asks."""
    font = TTFont(source, recalcTimestamp=False)
    made = instantiateVariableFont(font, {"wght": weight})
    for table in ("STAT", "MVAR", "HVAR", "avar"):
        if table in made:
            del made[table]
    return made


def letters(family: str, stem: str, weight: int) -> TTFont:
    """Both files of a family, plain and extended Latin, as one font with a name of its own."""
    with TemporaryDirectory() as apart:
        parts = []
        for part in ("latin", "latin-ext"):
            at = Path(apart) / f"{part}.ttf"
            font = of_one_weight(SOURCES / f"{stem}-{part}.woff2", weight)
            font.flavor = None
            font.save(at)
            parts.append(str(at))
        font = Merger().merge(parts)
    named(font, family, weight)
    return font


def named(font: TTFont, family: str, weight: int) -> None:
    """Name a font so that it is found by its family and weight alone."""
    style = STYLES[weight]
    names = font["name"]
    for n in (16, 17, 21, 22, 25):
        names.removeNames(nameID=n)
    for n, words in ((1, family), (2, style), (3, f"{family} {style}"), (4, f"{family} {style}"),
                     (6, f"{family}-{style}")):
        names.setName(words, n, 3, 1, 0x409)
        names.removeNames(nameID=n, platformID=1)
    font["OS/2"].usWeightClass = weight
    bold = weight >= 700
    font["OS/2"].fsSelection = 0x20 if bold else 0x40
    font["head"].macStyle = int(bold)


def write(where: Path) -> list[Path]:
    """Every font."""
    made = []
    for stem, (family, source, weights) in LETTERS.items():
        for weight in weights:
            font = letters(family, source, weight)
            font.recalcTimestamp = False
            font["head"].created = font["head"].modified = 0
            made.append(where / f"{stem}-{STYLES[weight].lower()}.ttf")
            font.save(made[-1])
    return made


def main() -> int:
    """Write, or check."""
    where = Path(sys.argv[-1])
    if "--check" not in sys.argv:
        write(where)
        return 0
    with TemporaryDirectory() as apart:
        other = [at.name for at in write(Path(apart)) if not (where / at.name).exists()
                 or at.read_bytes() != (where / at.name).read_bytes()]
    if other:
        print("not what their sources give:", *other)
    return len(other)


if __name__ == "__main__":
    sys.exit(main())
