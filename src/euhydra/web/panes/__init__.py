"""What stands on the left of each station: its ways of looking, each a list of panes."""

from euhydra.web.panes import catch, garden, place, store
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
    "grow": (View("plots", "Beds and pots", garden.plots),
             View("thirst", "Thirst through the year", garden.thirst)),
    "lay": (View("plan", "Ground plan", garden.lay),),
    "push": (View("section", "Section", garden.section),
             View("outlets", "Every outlet", garden.outlets)),
    "time": (View("week", "The week", garden.week),
             View("season", "Month by month", garden.season)),
    "prove": (View("tank", "The barrels through the year", garden.tank),),
    "build": (View("parts", "Heads and parts", garden.build),
              View("cuts", "Cut list", garden.cuts)),
}
