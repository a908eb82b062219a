"""Store's panes."""

from __future__ import annotations

from euhydra.web import charts
from euhydra.web.drawings import store
from euhydra.web.drawings.sheet import Sheet
from euhydra.web.panes.base import Pane, Table


def bank(sheet: Sheet) -> list[Pane]:
    """The stores in elevation."""
    return [Pane(drawing=store.elevation(sheet))]


def sizing(sheet: Sheet) -> list[Pane]:
    """What each barrel buys, and what the rules of thumb would buy."""
    a, kept = sheet.assessment, sheet.assessment.sizing
    rows = tuple((
        f"{n}{' (yours)' if i == a.own else ''}",
        sheet.show(float(kept.size_l[:, i].sum()), "volume"),
        sheet.show(float(kept.reliability[i]), "share"),
        sheet.show(float(kept.day_reliability[i]), "share"),
        sheet.show(float(kept.unmet_l[i]) / a.years, "yearly"),
        sheet.show(float(kept.overflow_share[i]), "share"),
        sheet.show(int(kept.longest_dry_run[i]), "days")) for i, n in enumerate(a.counts))
    rules = tuple((RULES[rule.key], sheet.show(rule.size_l, "volume"),
                   f"{rule.barrels:.1f}", sheet.show(rule.reliability, "share"))
                  for rule in a.rules)
    lacking = "Tap a year" if sheet.garden.taps else "Lacking a year"
    return [Pane(chart=charts.sizing_curve(sheet)), Pane(table=Table(
        "What each barrel buys", ("Barrels", "Usable", "Given by rain", "Days met", lacking,
                                  "Spills", "Longest dry run"), rows,
        frozenset(range(1, 7)))), Pane(table=Table(
            "What rules of thumb would have you buy", ("Rule", "Usable", "Barrels like these",
                                                       "Given by rain"), rules,
            frozenset({1, 2, 3})))]


RULES = {"five-percent": "5 % of a year's yield or need, whichever is less (EN 16941-1, recalled)",
         "dry-spell": "Bridge the usual longest dry spell at the thirstiest month's pace",
         "never-fails": "Never fail in these thirty years (sequent peak)"}
