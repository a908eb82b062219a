"""What stands on the left of each station: its ways of looking, each a list of panes."""

from functools import partial

from euhydra.web.panes import (
    build,
    catch,
    grow,
    keep,
    lay,
    place,
    prove,
    push,
    push_schools,
    store,
    time,
    watch,
)
from euhydra.web.panes.base import Links, Pane, Table, View
from euhydra.web.sheet import Sheet

__all__ = ["VIEWS", "Links", "Pane", "Table", "View", "views_of"]

VIEWS: dict[str, tuple[View, ...]] = {
    "place": (View("year", "Rain against thirst", place.year),
              View("climates", "Pick a climate", place.climates),
              View("months", "Twelve months", place.months),
              View("file", "Daily file", place.file, needs=("reading",)),
              View("years", "The years", place.years),
              View("levels", "Levels", place.levels)),
    "catch": (View("roofs", "Roofs", catch.roofs), View("storm", "A storm", catch.a_storm),
              View("used", "Laundry and drains", catch.used_water),
              View("supply", "Taps and wells", catch.taps_and_wells)),
    "store": (View("bank", "The stores", store.bank),
              View("sizing", "One barrel to many", store.sizing, heavy=True),
              View("marking", "Marking out", store.marking_out),
              View("overflow", "Overflow and wet ground", store.overflow)),
    "grow": (View("plots", "Beds and pots", grow.plots),
             View("today", "Today", grow.today),
             View("thirst", "Thirst through the year", grow.thirst),
             View("plantings", "What grows where", grow.plantings),
             View("habits", "Habits", grow.habits, heavy=True),
             View("wicking", "Self-watering", grow.self_watering)),
    "lay": (View("plan", "Ground plan", lay.plan),
            View("layings", "Three layings", lay.layings, heavy=True),
            View("pieces", "Every piece", lay.pieces), View("files", "Open formats", lay.files)),
    "push": (View("section", "Section", push.section),
             View("outlets", "Every outlet", push.outlets),
             View("schools", "Gravity against pump", push_schools.schools, heavy=True),
             View("balance", "Balance", push.balance),
             View("day", "Through a watering", push.through_the_day, heavy=True)),
    "time": (View("week", "The week", time.week),
             View("zones", "Zones", time.zones),
             View("season", "Month by month", time.season, heavy=True),
             View("cards", "Cards and calendar", time.timer_cards),
             View("watch", "Watch a run", watch.watch, needs=("bench",))),
    "prove": (View("tank", "The barrels through the year", prove.tank),
              View("thirst", "Thirst by plot", prove.thirst),
              View("ledger", "Every litre", prove.ledger),
              View("away", "Days away", prove.away, heavy=True),
              View("variants", "Another way", prove.variants, needs=("gardens",))),
    "build": (View("parts", "What to buy", build.buy),
              View("steps", "Step by step", build.how, needs=("ticked",)),
              View("heads", "Head assemblies", build.heads),
              View("cuts", "Cut list", build.cuts),
             View("more", "A few more pots", build.more),
             View("paper", "On paper", build.on_paper, heavy=True)),
    "keep": (View("log", "The log", keep.log, needs=("photos",)),
             View("one", "One bed or barrel", keep.one, needs=("photos",)),
             View("season", "Through the season", keep.season),
             View("year", "The year in all", keep.year), View("care", "What falls due", keep.care),
             View("trouble", "When something is wrong", keep.trouble)),
}


def views_of(station: str) -> tuple[View, ...]:
    """A station's ways of looking; one that has none of its own shows what it says."""
    return VIEWS.get(station) or (View("figures", "Figures", partial(figures, station)),)


def figures(station: str, sheet: Sheet) -> list[Pane]:
    """A station's figures, and what makes each."""
    told = sheet.assessment.station(station).figures
    rows = tuple((f.name, f.amount.show(sheet.system), f.working.formula) for f in told)
    return [Pane(table=Table("Figures", ("What", "Figure", "How"), rows, frozenset({1})))]
