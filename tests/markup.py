"""A page's markup however its template breaks lines."""

import re


def plain(page):
    """Blanks within and between tags as one, and none between two tags."""
    return re.sub(r"\s+", " ", page).replace("> <", "><")
