"""Drawings as SVG of their own, with the look of the page written into it.

Drawing programs know neither style sheets beside a file nor variables, so the rules of the classes
in use are taken from the app's own style sheet, their colours put in.
"""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path

from euhydra.core.assessment.assess import Assessment
from euhydra.web import svg
from euhydra.web.drawings import plan
from euhydra.web.fields import Fields
from euhydra.web.sheet import Sheet

STYLES = Path(__file__).parents[1] / "static" / "app.css"
RULE = re.compile(r"([^{}]*)\{([^{}]*)\}")
GROUND = "svg{font-family:sans-serif;background:#f2f0e6}"  # plain letters on the app's ground
FONT_AT_ONCE = re.compile(r"font:(?:(\d+) )?([\d.]+px) ([^;}]+)")
PLAIN_FONTS = {"font-sans": "sans-serif", "font-title": "sans-serif", "font-mono": "monospace"}
PAPER_FONTS = {"font-sans": "Words", "font-title": "Title", "font-mono": "Figures"}
PAPER_WHITE = 235


def plan_svg(assessment: Assessment) -> str:
    """The plan with its lines and wetted ground; nothing picked, nothing to type in."""
    sheet = Sheet(assessment, Fields(assessment.garden, assessment.library))
    drawing = standing_alone(str(plan.lay(sheet)), GROUND)
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{drawing}\n'


def standing_alone(drawing: str, more: str = "", *, on_paper: bool = False) -> str:
    """A drawing with the rules of its classes written into it, and nothing of the page's left.

    On paper it is in greys.
    """
    drawing = drawing.replace("</title>", f"</title>{svg.EARTH}", 1)
    used = set(re.findall(r"\b[ad]-[a-z-]+", drawing))
    head, rest = drawing.split(">", 1)
    for mine in re.findall(r' (?:data-[a-z0-9-]+|tabindex|aria-pressed|role)="[^"]*"', rest):
        rest = rest.replace(mine, "")
    head = re.sub(r' (?:data-[a-z0-9-]+|class)="[^"]*"', "", head)
    if on_paper:
        more += "text{font-family:Words}"
    rules = _rules(frozenset(used), on_paper)
    return f'{head} xmlns="http://www.w3.org/2000/svg"><style>{more}{rules}</style>{rest}'


@lru_cache(maxsize=32)
def _rules(used: frozenset[str], on_paper: bool) -> str:
    """The rules of these classes, by day, with the colours in the place of their names."""
    css = _on_screen(STYLES.read_text(encoding="utf-8"))
    values = dict(PAPER_FONTS if on_paper else PLAIN_FONTS)
    for name, colour in re.findall(r"--([a-z-]+):(#[0-9a-f]{3,8})", css):
        values.setdefault(name, grey(colour) if on_paper else colour)  # the day's come first
    rules = []
    for selectors, body in RULE.findall(css):
        mine = [s for s in selectors.split(",")
                if re.fullmatch(r"\.[ad]-[a-z-]+(?:\.d-[a-z-]+)?", s) and set(
                    s.strip(".").split(".")) <= used]
        if mine:
            body = re.sub(r"var\(--([a-z-]+)\)", lambda m: values.get(m[1], "#000"), body)
            rules.append(f"{','.join(mine)}{{{FONT_AT_ONCE.sub(_font_in_parts, body)}}}")
    return "".join(rules)


def _font_in_parts(at_once: re.Match[str]) -> str:
    """``font: 650 15px x`` as what drawing programs read, weights as plain or bold."""
    weight, size, family = at_once.groups()
    bold = "bold" if int(weight or 400) >= 600 else "normal"
    return f"font-weight:{bold};font-size:{size};font-family:{family}"


def grey(colour: str) -> str:
    """A colour as the grey of its lightness; the paler ones become white, as paper is."""
    digits = colour.lstrip("#")
    digits = "".join(d * 2 for d in digits) if len(digits) == 3 else digits[:6]
    red, green, blue = (int(digits[i:i + 2], 16) for i in (0, 2, 4))
    light = round(0.2126 * red + 0.7152 * green + 0.0722 * blue)
    light = 255 if light > PAPER_WHITE else light
    return f"#{light:02x}{light:02x}{light:02x}"


def _on_screen(css: str) -> str:
    """The sheet without what it says of print and of small screens."""
    out, at = [], 0
    for found in re.finditer(r"@media[^{]*\{", css):
        if found.start() < at:
            continue
        out.append(css[at:found.start()])
        at, deep = found.end(), 1
        while deep:
            deep += {"{": 1, "}": -1}.get(css[at], 0)
            at += 1
    return "".join([*out, css[at:]])
