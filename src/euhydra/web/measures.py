"""The list twin: every value that may be typed at a station, under the thing it belongs to."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from euhydra.core.garden.model import (
    AnyPlot,
    Bed,
    Garden,
    Thing,
    Tree,
    Wicking,
    Zone,
)
from euhydra.core.garden.today import MEASURES_OF
from euhydra.core.layout.rows import openings_offered, tube_of
from euhydra.core.library import Library
from euhydra.web.fields import Field, Fields

Paths = tuple[str, str, list[str]]


@dataclass(frozen=True)
class Group:
    """Fields under one head; ``gone`` is the path that takes the thing away, empty if none does."""

    head: str
    fields: tuple[Field, ...]
    gone: str = ""


def listed(station: str, fields: Fields) -> list[Group]:
    """Groups of fields with their heads, in the order of the drawing."""
    return [Group(head, tuple(replace(fields.at(path, head), in_list=True) for path in paths), gone)
            for head, gone, paths in _paths(station, fields)]


SKETCH_KEYS = ("wide_m", "turn_deg", "faded", "at/x_m", "at/y_m", "cut_left", "cut_right",
               "cut_top", "cut_bottom", "on_paper")
OWN_KEYS = ("own_l_day", "own_mm_week", "own_min_day", "run_by")
LIFT_KEYS = ("name", "draws_from", "kind", "points", "over_outlet_m", "suction_m", "suction_mm",
             "reserve_m", "regulator_kpa", "control", "power", "watts", "battery_wh", "panel_w",
             "residual_current")
PRESSED = ("static_kpa", "bucket_l", "bucket_s", "backflow", "regulator_kpa", "height_m",
           "level_from", "ground_m")
STORE_KEYS = ("name", "count", "volume_l", "shape", "height_m", "stand_m", "outlet_m", "hose_m",
              "merged_mm", "merged_m", "flush_buried", "overflow_down_m", "overflow_mm",
              "overflow_to", "linked", "link_mm", "intake", "feed_ml_l", "shell_kg", "footing",
              "hand_filled", "refill_at", "leak_l_day",
              "level_from", "ground_m", "buried", "indoors",
              "burial_rated", "lid", "lid_locked", "screened", "at/x_m", "at/y_m")


def _of(thing: Thing, path: str, keys: Iterable[str], *, stays: bool = False) -> Paths:
    return thing.name, "" if stays else path, [f"{path}/{key}" for key in keys]


def _paths(station: str, fields: Fields) -> Iterable[Paths]:
    return STATIONS[station](fields) if station in STATIONS else ()


def _place(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    yield garden.name, "", ["name", "site/place", "site/climate/archetype", "site/latitude_deg",
                            "site/altitude_m", "site/soil", "site/last_frost",
                            "site/first_frost", "site/local_rules", "site/years", "site/seed",
                            "site/reckon_with", "site/lie"]
    for spot in garden.site.spots:
        yield _of(spot, f"site/spots/{spot.id}", ("name", "at/x_m", "at/y_m", "level_m"))


def _grow(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    yield "All plots", "", ["thirst"]
    for plot in garden.plots:
        yield _of(plot, f"plots/{plot.id}", _plot_keys(fields.garden, plot, "grow",
                                                           fields.library))
    for crop in garden.crops:
        yield _of(crop, f"crops/{crop.id}", [key for key in type(crop).model_fields
                                             if key != "id"])


def _lay(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    for plot in garden.plots:
        yield _of(plot, f"plots/{plot.id}", _plot_keys(fields.garden, plot, "lay",
                                                           fields.library), stays=True)
    yield from _grounds(garden)
    if garden.sketch:
        yield "The picture under the plan", "", [f"sketch/{key}" for key in SKETCH_KEYS]


def _push(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    for store in garden.stores:
        yield _of(store, f"stores/{store.id}", ("stand_m", "ground_m"), stays=True)
    for drain in garden.drums:
        yield _of(drain, f"drains/{drain.id}", ("stand_m", "ground_m"), stays=True)
    yield from _kinds_of_timers(garden)
    for zone in garden.zones:
        yield _of(zone, f"zones/{zone.id}", ("supply_tube", "filter", "filter_blocked"),
                  stays=True)
    for lift in garden.lifts:
        yield _of(lift, f"lifts/{lift.id}", LIFT_KEYS)
    for plot in garden.plots:
        yield _of(plot, f"plots/{plot.id}", ("ground_m", *(
            ("rim_m",) if isinstance(plot, Bed) else ())), stays=True)


def _kinds_of_timers(garden: Garden) -> Iterable[Paths]:
    for timer in garden.timers:
        yield _of(timer, f"timers/{timer.id}", ("kind",), stays=True)


def _read(garden: Garden, zone: Zone) -> tuple[str, ...]:
    """The flow read off, and where it falls with the water how full the barrels were."""
    return ("read_l_h", *(() if garden.tap_of(zone.source) else ("read_at",)), "falls_a_week")


def _time(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    yield "All timers", "", ["every_days", "longer", "rain_hold_mm"]
    for timer in garden.timers:
        marks = ("marks_h", "marks_min") if not fields.library.timers[timer.kind].weekdays else ()
        yield _of(timer, f"timers/{timer.id}", (
            "name", "kind", "opens", "from_h", "until_h", "hoses", *marks))
    for zone in garden.zones:
        opener = garden.timer_of(zone)
        moved = opener is not None and opener.moved
        yield _of(zone, f"zones/{zone.id}", (
            *(("timer",) if zone.timed else ()), *(("days",) if moved else ()), "longer",
            *_read(garden, zone)), stays=True)


def _prove(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    yield "Until now", "", [f"today/{key}" for key in ("way", *MEASURES_OF[garden.today.way])]
    for store in garden.stores:
        yield _of(store, f"stores/{store.id}", ("count", "volume_l"), stays=True)


def _plot_keys(garden: Garden, plot: AnyPlot, station: str, library: Library) -> list[str]:
    keys = ["name", *plot.own_measures, "level_from", "ground_m", "fed_by",
            *(() if isinstance(plot, Wicking) else ("watered",)),
            *(("open_in",) if garden.drum_of(garden.source_of(plot)) else (
                "own_valve", "opens_with")), "soil"]
    keys.append("method" if isinstance(plot, (Bed, Tree)) else "compost")
    if station == "grow":
        keys += ["seedlings", "mulch", "shade", "shade_h", "exposure", "cover", *OWN_KEYS]
        return keys + [f"plantings/{p.id}/{key}" for p in plot.plantings
                       for key in ("crop", "planted", "share", "count", "spacing_m")]
    keys += ["corner/x_m", "corner/y_m", "turn_deg"]
    if isinstance(plot, Bed):
        rows = library.methods[plot.method].rows
        keys += ["layout", *([] if rows == "plants" else ["apart_m"]),
                 *(["openings_m"] if openings_offered(plot, library) else []),
                 *pipe_keys(plot, library)]
        if plot.laid == "hand":
            keys += [f"rows/{row.id}/{key}" for row in plot.rows
                     for key in ("across_m", "from_m", "to_m", "pinned")]
    return keys + [f"drippers/{d.id}/{key}" for d in plot.drippers
                   for key in ("along_m", "across_m", "kind", "count", "apart_m", "pinned")]


def pipe_keys(bed: Bed, library: Library) -> tuple[str, ...]:
    """What is asked of a bed's rows by what they are of: a hose, or pipe with holes."""
    goes_on = bed.after or library.methods[bed.method].lies == "s-curve"
    return (*(("after",) if goes_on else ()),
            *(("hole_mm", "end") if tube_of(bed, library).outlet == "hole" else ()))


def _grounds(garden: Garden) -> Iterable[Paths]:
    for path in garden.paths:
        yield _of(path, f"paths/{path.id}", ("name", "course", "width_m", "surface"))
    for solid in garden.buildings:
        yield _of(solid, f"buildings/{solid.id}", ("name", "corner/x_m", "corner/y_m", "length_m",
                                                   "width_m", "turn_deg"))
    for zone in garden.zones:
        yield _of(zone, f"zones/{zone.id}", ("supply_tube", "filter", "more_to_come", *(
            f"vias/{via.id}/at/{key}" for via in zone.vias for key in ("x_m", "y_m"))),
                  stays=True)


def _build(fields: Fields) -> Iterable[Paths]:
    yield from _kinds_of_timers(fields.garden)
    for zone in fields.garden.zones:
        yield _of(zone, f"zones/{zone.id}", ("supply_tube", "filter", "more_to_come"), stays=True)


def _keep(fields: Fields) -> Iterable[Paths]:
    yield fields.garden.name, "", ["name", "longer", "rain_hold_mm"]
    for zone in fields.garden.zones:
        yield _of(zone, f"zones/{zone.id}", (
            "filter_blocked", "longer", *_read(fields.garden, zone)), stays=True)


def _sources(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    for roof in garden.roofs:
        yield _of(roof, f"roofs/{roof.id}", (
            "name", "width_m", "depth_m", "outline", "corner/x_m", "corner/y_m", "eave_m",
            "over", "material",
            "gutter_mm", "gutter_of", "guard", "own_runoff", "first_flush_mm", "flush_days"))
        for spout in roof.downspouts:
            yield _of(spout, f"roofs/{roof.id}/downspouts/{spout.id}", (
                "name", "to", "share", "along_m", "bore_mm", "diverter_mm", "restrictor_l_h"),
                stays=len(roof.downspouts) == 1)
    for drain in garden.drains:
        yield _of(drain, f"drains/{drain.id}", (
            "name", "fixture", "litres_a_use", "use_min", *(f"uses/{i}" for i in range(7)),
            "bedrooms", "product", "way_back", "school", "soil",
            *(("drum_l", "drum_lid", "feed_ml_l", "stand_m", "drum_outlet_m", "level_from",
               "ground_m",
               "at/x_m", "at/y_m") if drain.school == "drum" else ())))
        for basin in drain.basins:
            yield _of(basin, f"drains/{drain.id}/basins/{basin.id}", (
                "name", "crop", "planted", "length_m", "width_m", "depth_m"))
    for tap in garden.taps:
        yield _of(tap, f"taps/{tap.id}", ("name", "tops_up", *PRESSED, "at/x_m", "at/y_m"))
    for well in garden.wells:
        yield _of(well, f"wells/{well.id}", (
            "name", "tops_up", *(("share",) if well.tops_up else PRESSED), "recovery_l_h",
            "standing_l", "hours", "temperature_c", "at/x_m", "at/y_m"))


def _holding(fields: Fields) -> Iterable[Paths]:
    garden = fields.garden
    for store in garden.stores:
        yield _of(store, f"stores/{store.id}", STORE_KEYS)
    for joint in garden.joints:
        yield _of(joint, f"joints/{joint.id}", ("name", "kind", "a", "b", "bore_mm", "length_m",
                                                "end_m"))
    for tap in garden.taps:
        yield _of(tap, f"taps/{tap.id}", ("tops_up",))
    for hollow in garden.rain_gardens:
        yield _of(hollow, f"rain_gardens/{hollow.id}", ("name", "length_m", "width_m", "depth_m",
                                                        "soil"))
    for wet in garden.wet_areas:
        yield _of(wet, f"wet_areas/{wet.id}", (
            "name", "length_m", "width_m", "flood_m", "months", "soil", "fall_m", "outfall_m",
            "outfall", "drain_days"))


STATIONS: dict[str, Callable[[Fields], Iterable[Paths]]] = {
    "place": _place, "catch": _sources, "store": _holding, "grow": _grow, "lay": _lay,
    "push": _push, "time": _time, "prove": _prove, "build": _build, "keep": _keep}
