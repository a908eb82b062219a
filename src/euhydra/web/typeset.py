"""Sets what is written on sheets: ``python -m euhydra.web.typeset``, a process of its own.

It reads JSON, which ``sheets`` of ``papers/`` and what they tell, and writes the PDF. The letters
are the fonts beside the sheets; the system's own serve where those lack one.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

import typst

PAPERS = Path(__file__).parent / "papers"


def pdf(sheets: str, told: str) -> bytes:
    """What is told, as JSON, on those sheets."""
    return typst.compile(PAPERS / f"{sheets}.typ", root=PAPERS, font_paths=[PAPERS],
                         sys_inputs={"told": told})


def png(sheets: str, told: str) -> bytes:
    """What is told, as JSON, on the first of those sheets, as a fine image."""
    made = typst.compile(PAPERS / f"{sheets}.typ", root=PAPERS, font_paths=[PAPERS],
                         sys_inputs={"told": told}, format="png", ppi=144.0)
    return made if isinstance(made, bytes) else made[0]


MAKERS = {"pdf": pdf, "png": png}


def main() -> int:
    """Set what stands on the standard input."""
    asked = json.load(sys.stdin.buffer)
    made = MAKERS[asked["form"]](asked["sheets"], json.dumps(asked["told"]))
    sys.stdout.buffer.write(made)
    return 0


if __name__ == "__main__":
    sys.exit(main())
