"""What else changes in a garden's tree when a thing goes that others name."""

from __future__ import annotations

from typing import Any

KEPT = {"plots": "A garden keeps at least one bed or row of pots. Change this one instead, or "
                 "start another garden.",
        "plantings": "A plot grows one crop at least: change that crop instead.",
        "downspouts": "A roof keeps at least one downspout: lead it elsewhere instead."}
LAST_WATER = ("Nothing would be left to water from. Add a tap or another store first, then take "
              "this one away.")


def ends_a_source(parts: list[str], value: Any) -> bool:
    """Whether lines can draw no more from a tap, a well, or a drain's drum."""
    ends = ("taps", "tops_up"), ("wells", "tops_up"), ("drains", "school")
    return (parts[0], parts[-1]) in ends and (
        value == "basins" if parts[0] == "drains" else bool(value))


def without_source(tree: dict[str, Any], store: str) -> dict[str, Any]:
    """The garden's tree with nothing left that names a store, tap or well about to go.

    Taps and wells top up the first store that is left; with none left they feed the lines.
    """
    for roof in tree["roofs"]:
        for spout in roof["downspouts"]:
            spout["to"] = "" if spout["to"] == store else spout["to"]
    for plot in tree["plots"]:
        plot["fed_by"] = "" if plot["fed_by"] == store else plot["fed_by"]
    left = next((s["id"] for s in tree["stores"] if s["id"] != store), "")

    def moved(sources: list[dict[str, Any]]) -> list[dict[str, Any]]:
        return [s | {"tops_up": left if s["tops_up"] == store else s["tops_up"]} for s in sources]

    return tree | {
        "lifts": [lift for lift in tree["lifts"] if lift["draws_from"] != store],
        "taps": moved(tree["taps"]),
        "wells": moved(tree["wells"]),
        "joints": [j for j in tree["joints"] if store not in (j["a"], j["b"])],
        "zones": [z for z in tree["zones"] if z["source"] != store]}


def without_roof(roofs: tuple[dict[str, Any], ...], gone: str) -> tuple[dict[str, Any], ...]:
    """The roofs left, none of them sharing the gutter of the one that went."""
    return tuple(roof | {"gutter_of": ""} if roof["gutter_of"] == gone else roof for roof in roofs)


def without_plot(plots: tuple[dict[str, Any], ...], gone: str) -> tuple[dict[str, Any], ...]:
    """The plots left, none of them put with the one that went, or led on from it."""
    return tuple(plot | {key: "" for key in ("opens_with", "after") if plot.get(key) == gone}
                 for plot in plots)


def opened_by(zones: tuple[dict[str, Any], ...], was: str, now: str) -> tuple[dict[str, Any], ...]:
    """The zones, those that one timer (or, for "", a hand) opened given to another."""
    return tuple(zone | {"timer": now} if zone["timed"] and zone["timer"] == was else zone
                 for zone in zones)
