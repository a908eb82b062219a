"""The ground plan as an SVG file of its own, with the look of the page written into it.

Drawing programs know neither style sheets beside a file nor variables, so the rules of the classes
in use are taken from the app's own style sheet, their colours put in.
"""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path

from euhydra.core.assess import Assessment
from euhydra.web.drawings import plan
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.fields import Fields

STYLES = Path(__file__).parents[1] / "static" / "app.css"
RULE = re.compile(r"([^{}]*)\{([^{}]*)\}")
FONT = "font-family:sans-serif"


def plan_svg(assessment: Assessment) -> str:
    """The plan with its lines and wetted ground; nothing picked, nothing to type in."""
    sheet = Sheet(assessment, Fields(assessment.garden, assessment.library))
    drawing = str(plan.lay(sheet))
    used = set(re.findall(r"\bd-[a-z-]+", drawing))
    head, rest = drawing.split(">", 1)
    for mine in re.findall(r' (?:data-[a-z0-9]+|tabindex|aria-pressed|role)="[^"]*"', rest):
        rest = rest.replace(mine, "")
    head = re.sub(r' (?:data-[a-z0-9-]+|class)="[^"]*"', "", head)
    return (f'<?xml version="1.0" encoding="UTF-8"?>\n{head} xmlns="http://www.w3.org/2000/svg">'
            f"<style>svg{{{FONT};background:#f2f0e6}}{_rules(frozenset(used))}</style>{rest}\n")


@lru_cache(maxsize=8)
def _rules(used: frozenset[str]) -> str:
    """The rules of these classes, by day, with the colours in the place of their names."""
    css = _on_screen(STYLES.read_text(encoding="utf-8"))
    values = {"font-sans": "sans-serif", "font-title": "sans-serif", "font-mono": "monospace"}
    for name, colour in re.findall(r"--([a-z-]+):(#[0-9a-f]{3,8})", css):
        values.setdefault(name, colour)  # the day's come first
    rules = []
    for selectors, body in RULE.findall(css):
        mine = [s for s in selectors.split(",")
                if re.fullmatch(r"\.d-[a-z-]+(?:\.d-[a-z-]+)?", s) and set(
                    s.strip(".").split(".")) <= used]
        if mine:
            body = re.sub(r"var\(--([a-z-]+)\)", lambda m: values.get(m[1], "#000"), body)
            rules.append(f"{','.join(mine)}{{{body}}}")
    return "".join(rules)


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
