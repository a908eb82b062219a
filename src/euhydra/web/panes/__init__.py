"""What stands on the left of each station: its ways of looking, each a list of panes."""

from dataclasses import replace
from functools import partial

from euhydra.core.garden.model import Garden
from euhydra.web.panes import (
    build,
    catch,
    grow,
    helps,
    keep,
    kits,
    lay,
    layings,
    learnt,
    place,
    prove,
    push,
    push_schools,
    store,
    time,
    timers,
    watch,
    wrong,
)
from euhydra.web.panes.base import Links, Pane, Table, View
from euhydra.web.sheet import Sheet

__all__ = ["VIEWS", "Links", "Pane", "Table", "View", "view_of", "views_of"]

VIEWS: dict[str, tuple[View, ...]] = {
    "place": (View("year", "Rain against thirst", place.year),
              View("climates", "Pick a climate", place.climates),
              View("months", "Twelve months", place.months),
              View("file", "Daily file", place.file, needs=("reading",)),
              View("years", "The years", place.years),
              View("levels", "Levels", place.levels)),
    "catch": (View("roofs", "Roofs", catch.roofs, of="roofs"),
              View("storm", "A storm", catch.a_storm, of="roofs"),
              View("used", "Laundry and drains", catch.used_water, of="drains"),
              View("supply", "Taps and wells", catch.taps_and_wells)),
    "store": (View("bank", "The stores", store.bank),
              View("sizing", "One {vessel} to many", store.sizing, heavy=True, of="stores"),
              View("marking", "Marking out", store.marking_out, of="stores"),
              View("overflow", "Overflow and wet ground", store.overflow,
                   dry="Wet ground")),
    "grow": (View("plots", "Beds and pots", grow.plots),
             View("today", "Today", grow.today),
             View("thirst", "Thirst through the year", grow.thirst),
             View("plantings", "What grows where", grow.plantings),
             View("habits", "Habits", grow.habits, heavy=True),
             View("wicking", "Self-watering", grow.self_watering)),
    "lay": (View("plan", "Ground plan", lay.plan),
            View("layings", "Three layings", layings.layings, heavy=True),
            View("pieces", "Every piece", lay.pieces), View("files", "Open formats", lay.files)),
    "push": (View("section", "Section", push.section),
             View("outlets", "Every outlet", push.outlets),
             View("schools", "Gravity against pump", push_schools.schools, heavy=True),
             View("balance", "Balance", push.balance),
             View("day", "Through a watering", push.through_the_day, heavy=True)),
    "time": (View("week", "The week", time.week),
             View("timers", "Timers", timers.hung),
             View("zones", "Zones", time.zones),
             View("season", "Month by month", time.season, heavy=True),
             View("cards", "Cards and calendar", timers.timer_cards),
             View("watch", "Watch a run", watch.watch, needs=("bench",))),
    "prove": (View("tank", "The {vessel}s through the year", prove.tank, of="stores"),
              View("thirst", "Thirst by plot", prove.thirst),
              View("ledger", "Every litre", prove.ledger),
              View("helps", "What helps", helps.helps, needs=("wish",)),
              View("away", "Days away", prove.away, heavy=True),
              View("variants", "Another way", prove.variants, needs=("gardens",))),
    "build": (View("parts", "What to buy", build.buy),
              View("steps", "Step by step", build.how, needs=("ticked",)),
              View("kits", "Kits and holes", kits.whole_kits),
              View("heads", "Heads and cuts", build.heads),
             View("more", "A few more pots", build.more),
             View("paper", "On paper", build.on_paper, heavy=True)),
    "keep": (View("log", "The log", keep.log, needs=("photos",)),
             View("one", "One bed or {vessel}", keep.one, needs=("photos",),
                  dry="One bed or valve"),
             View("season", "The season", keep.season),
             View("year", "The year", keep.year), View("care", "What falls due", keep.care),
             View("learnt", "What readings teach", learnt.learnt, needs=("lessons",)),
             View("trouble", "What is wrong", wrong.wrong, needs=("case",))),
}


def views_of(station: str, garden: Garden) -> tuple[View, ...]:
    """A station's ways of looking at a garden, in its words; one without any shows what it says."""
    every = VIEWS.get(station) or (View("figures", "Figures", partial(figures, station)),)
    return tuple(_named(v, garden) for v in every if not v.of or getattr(garden, v.of))


def _named(view: View, garden: Garden) -> View:
    return replace(view, label=view.dry if view.dry and not garden.stores else
                   view.label.format(vessel=garden.vessel))


def view_of(station: str, key: str, garden: Garden) -> View:
    """The way of looking asked for, else the first that a garden has."""
    return next((_named(v, garden) for v in VIEWS.get(station, ()) if v.key == key),
                views_of(station, garden)[0])


def figures(station: str, sheet: Sheet) -> list[Pane]:
    """A station's figures, and what makes each."""
    told = sheet.assessment.station(station).figures
    rows = tuple((f.name, f.amount.show(sheet.system), f.working.formula) for f in told)
    return [Pane(table=Table("Figures", ("What", "Figure", "How"), rows, frozenset({1})))]
