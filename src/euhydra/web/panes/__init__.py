"""What stands on the left of each station: its ways of looking, each a list of panes."""

from euhydra.web.panes import build, catch, grow, keep, lay, place, prove, push, store, time, watch
from euhydra.web.panes.base import Links, Pane, Table, View

__all__ = ["VIEWS", "Links", "Pane", "Table", "View"]

VIEWS: dict[str, tuple[View, ...]] = {
    "place": (View("year", "Rain against thirst", place.year),
              View("climates", "Pick a climate", place.climates),
              View("months", "Twelve months", place.months),
              View("file", "Daily file", place.file), View("years", "The years", place.years),
              View("levels", "Levels", place.levels)),
    "catch": (View("roofs", "Roofs", catch.roofs), View("storm", "A storm", catch.a_storm),
              View("used", "Laundry and drains", catch.used_water),
              View("supply", "Taps and wells", catch.taps_and_wells)),
    "store": (View("bank", "The stores", store.bank),
              View("sizing", "One barrel to many", store.sizing),
              View("marking", "Marking out", store.marking_out),
              View("overflow", "Overflow and wet ground", store.overflow)),
    "grow": (View("plots", "Beds and pots", grow.plots),
             View("today", "Today", grow.today),
             View("thirst", "Thirst through the year", grow.thirst),
             View("plantings", "What grows where", grow.plantings),
             View("habits", "Habits", grow.habits),
             View("wicking", "Self-watering", grow.self_watering)),
    "lay": (View("plan", "Ground plan", lay.plan), View("layings", "Three layings", lay.layings),
            View("pieces", "Every piece", lay.pieces), View("files", "Open formats", lay.files)),
    "push": (View("section", "Section", push.section),
             View("outlets", "Every outlet", push.outlets),
             View("schools", "Gravity against pump", push.schools),
             View("balance", "Balance", push.balance),
             View("day", "Through a watering", push.through_the_day)),
    "time": (View("week", "The week", time.week),
             View("zones", "Zones", time.zones),
             View("season", "Month by month", time.season),
             View("cards", "Cards and calendar", time.timer_cards),
             View("watch", "Watch a run", watch.watch)),
    "prove": (View("tank", "The barrels through the year", prove.tank, at_once=True),
              View("thirst", "Thirst by plot", prove.thirst),
              View("ledger", "Every litre", prove.ledger),
              View("away", "Days away", prove.away),
              View("variants", "Another way", prove.variants)),
    "build": (View("parts", "What to buy", build.buy),
              View("steps", "Step by step", build.how),
              View("heads", "Head assemblies", build.heads),
              View("cuts", "Cut list", build.cuts)),
    "keep": (View("log", "The log", keep.log), View("care", "What falls due", keep.care)),
}
