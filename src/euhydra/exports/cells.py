"""Cells of tables that spreadsheets open: none of them begins like a formula."""

from __future__ import annotations

import re

FORMULA = re.compile(r"'*[=+\-@\t\r]")


def guarded(cell: object) -> object:
    """A cell with an apostrophe before it where a spreadsheet would take its text for a formula.

    Numbers stay numbers.
    """
    return f"'{cell}" if isinstance(cell, str) and FORMULA.match(cell) else cell


def unguarded(cell: str) -> str:
    """The text that was guarded, and any other as it is."""
    return cell[1:] if cell.startswith("'") and FORMULA.match(cell) else cell
