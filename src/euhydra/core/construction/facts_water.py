"""The facts of what catches, stores, joins and lifts the water, for its kits."""

from __future__ import annotations

import math
from collections.abc import Iterator

from euhydra.core import storage
from euhydra.core.construction import setting_out
from euhydra.core.construction.facts import Built
from euhydra.core.construction.joining import run_of
from euhydra.core.construction.parts import LITRE_PRICE, VESSEL_PRICE
from euhydra.core.garden.model import Drain, Garden, Joint, Lift, Roof, Standpipe, Store
from euhydra.core.hydraulics.pump_duty import USABLE_BATTERY, watts_of
from euhydra.core.layout.heads import hanging_on
from euhydra.core.library import Library
from euhydra.core.statements.figures import NONE, Amount, Phrase, quoted, say
from euhydra.core.storage.banks import banks_of
from euhydra.core.storage.inflow import winters_of
from euhydra.core.storage.shapes import SHAPES
from euhydra.core.storage.vessel import length_m, width_m
from euhydra.core.supply.runoff import flush_chamber_l, flush_l
from euhydra.core.weather.frost import timer_days

SLAB_M = 0.4
STEADY_SHARE = 0.25  # of a barrel's water that keeps it from being blown over, from memory
TEST_OVER_M = 0.1  # a spigot is tried under so much water, from memory
AIR_GAP_M = 0.05  # twice the bore of a 25 mm hose and never under 25 mm, common practice
FLOAT_SLACK_M = 0.3  # of hose beyond a vessel's height, so that a floating intake lies free
PLANTER_MIX = "potting-mix"
PIT_GRAVEL = 0.5  # of a buried chamber's volume is gravel round it, from memory
LEAST_SUCTION_M = 0.5


def yes(holds: bool) -> Amount:
    """A fact that is so, or is not."""
    return Amount(float(holds), "count")


def count(n: float) -> Amount:
    """So many."""
    return Amount(n, "count")


def store_group(garden: Garden, library: Library, store: Store) -> list[Built]:
    """A store, with the downspouts that are led to it, or the one pipe that they merge into."""
    spouts = setting_out.spouts_into(garden, store)
    if store.merges:
        return [_store(garden, library, store), *([_merged(garden, store)] if spouts else [])]
    return [_store(garden, library, store), *_diverters(garden, store)]


def _store(garden: Garden, library: Library, store: Store) -> Built:
    floating, planted = store.intake == "floating", store.lid == "planter"
    between = store.count - 1
    slabs = math.ceil(length_m(store) / SLAB_M) * math.ceil(width_m(store) / SLAB_M)
    return Built("store", store.shape, store.id, store.name, store.name, {
        "barrels": count(store.count), "volume": Amount(store.volume_l, "volume"),
        "price": Amount(round(VESSEL_PRICE + LITRE_PRICE * store.volume_l), "money"),
        "stands": yes(store.stand_m > 0), "stand": Amount(store.stand_m, "length"),
        "stand_high": Amount(store.stand_m, "small"),
        "slabs": count(slabs * store.count if store.stand_m > 0 else 0),
        "base": Amount(storage.footprint_m2(store), "area"),
        "mass": Amount(storage.full_mass_kg(store), "mass"),
        "links": count(between if store.linked == "link" else 0),
        "siphons": count(between if store.linked == "siphon" else 0),
        "between": count(between), "link": Amount(store.link_m, "length"),
        "link_bore": Amount(store.link_mm, "hole"),
        "second_spigot": yes(store.hose_m > 0),
        "outlet": Amount(store.outlet_m, "small"),
        "tested_at": Amount(min(store.outlet_m + TEST_OVER_M, store.height_m), "small"),
        "steady": Amount(STEADY_SHARE * store.volume_l, "volume", 0),
        "overflow_bore": Amount(store.overflow_mm, "hole"),
        "full": Amount(storage.full_dip_m(store), "length"),
        "screens": count(store.count + 1), "floating": yes(floating),
        "float_hose": Amount(store.height_m + FLOAT_SLACK_M if floating else 0.0, "length"),
        "freezes": yes(drained_for_frost(garden, store)),
        "planted": count(store.count if planted else 0),
    }, {"sold_as": Phrase(SHAPES[store.shape].sold_as), "vessel": Phrase(garden.vessel),
        "each": Phrase(" for each" if store.count > 1 else ""),
        "planter_mix": Phrase(library.soils[PLANTER_MIX].name),
        "marks": _marks(garden, store)})


def drained_for_frost(garden: Garden, store: Store) -> bool:
    """Whether the season has a store empty in winter, its rain running by."""
    banks = banks_of(garden)
    winters = winters_of(banks, timer_days(garden.site))
    return bool(winters[banks.of_store[store.id]].any())


def _marks(garden: Garden, store: Store) -> Phrase:
    marks = [m for m in setting_out.marks(garden, store) if m.over_base_m is not None]
    words = "; ".join(f"{quoted(m.what)} {{h{i}}} over the base, {{d{i}}}"
                      for i, m in enumerate(marks))
    return Phrase(words, {f"h{i}": Amount(m.over_base_m or 0.0, "length")
                          for i, m in enumerate(marks)}
                  | {f"d{i}": Amount(m.drill_mm, "hole") for i, m in enumerate(marks)})


def _diverters(garden: Garden, store: Store) -> Iterator[Built]:
    marks = setting_out.marks(garden, store)
    drills = [m for m in marks if m.what.startswith("drill for")]
    for (roof, spout), drill in zip(setting_out.spouts_into(garden, store), drills, strict=True):
        yield Built("downspout", "", f"{roof.id}-{spout.id}", spout.name, store.name, {
            "bore": Amount(drill.drill_mm, "hole"),
            "over_ground": Amount(drill.over_ground_m, "length"),
            "restrictors": yes(spout.restrictor_l_h > 0),
            "restricted": Amount(spout.restrictor_l_h, "flow"),
            "freezes": yes(drained_for_frost(garden, store)),
        }, {"roof": Phrase(quoted(roof.name))})


def _merged(garden: Garden, store: Store) -> Built:
    led = setting_out.spouts_into(garden, store)
    litres = flush_chamber_l(garden.roofs, store.id)
    days = min(roof.flush_days for roof, _ in led)
    buried = store.flush_buried and litres > 0
    return Built("merged", "", store.id, store.name, store.name, {
        "spouts": count(len(led)), "wyes": count(len(led) - 1),
        "bore": Amount(store.merged_mm, "hole"), "pipe": Amount(store.merged_m, "length"),
        "buried": yes(buried),
        "above_ground": yes(litres > 0 and not buried),
        "chamber": Amount(litres, "volume", 0), "drip": Amount(litres / (24 * days), "flow"),
        "days": Amount(days, "days"),
        "pit_gravel": Amount(PIT_GRAVEL * litres / 1000 if buried else 0.0, "bulk")},
        {"id": Phrase(store.id)})


def roof(garden: Garden, library: Library, on: Roof) -> Built:
    """A roof: its guard, and the first flush of what of it does not merge."""
    led = [s for s in on.downspouts if s.to and s.to not in garden.merging]
    eave = max(on.width_m, on.depth_m)
    flushed = flush_l(on) if led else 0.0
    return Built("roof", "", on.id, on.name, on.name, {
        "flushes": yes(flushed > 0), "chamber": Amount(flushed, "volume", 0),
        "turned_away": yes(flush_l(on) > 0),
        "guarded": Amount(eave if on.guard != "none" else 0.0, "length"),
        "unguarded": Amount(eave if on.guard == "none" else 0.0, "length"),
    }, {"id": Phrase(on.id), "guard": Phrase(library.guards[on.guard].name.lower())})


def joint(garden: Garden, between: Joint) -> Built:
    """What joins two stores."""
    a, b = (quoted(garden.store_of(x).name) for x in (between.a, between.b))
    return Built("joint", between.kind, between.id, between.name, "Joining", {
        "hose": Amount(between.length_m, "length"), "bore": Amount(between.bore_mm, "hole"),
    }, {"a": Phrase(a), "b": Phrase(b), "run": run_of(garden, between)})


def standpipe(garden: Garden, library: Library, tap: Standpipe) -> Built:
    """A tap, or a well with its pump: a backflow preventer for each head behind it."""
    heads = sum(one.heads for one in hanging_on(garden, library, tap.id))
    return Built("standpipe", "mains" if garden.on_mains(tap.id) else "well", tap.id, tap.name,
                 tap.name, {
        "heads": count(max(1, heads)), "air_gap": yes(bool(tap.tops_up)),
        "feeds_lines": yes(not tap.tops_up),
        "regulators": count(heads if not tap.tops_up and tap.regulator_kpa > 0 else 0),
    }, {"fills": Phrase(quoted(garden.store_of(tap.tops_up).name) if tap.tops_up else "")})


def drain_group(drain: Drain) -> list[Built]:
    """A drain with its drum, or with its basins."""
    found = [Built("drain", drain.school, drain.id, drain.name, drain.name, {
        "drum": Amount(drain.drum_l, "volume"), "stands": yes(drain.stand_m > 0),
        "stand_high": Amount(drain.stand_m, "small"),
        "a_week": Amount(drain.litres_a_use * sum(drain.uses), "volume"),
        "gap": Amount(AIR_GAP_M, "small"), "outlet": Amount(drain.drum_outlet_m, "small"),
        "chips": Amount(1000 * sum(
            b.length_m * b.width_m * b.depth_m for b in drain.basins), "volume")})]
    if drain.school == "drum":
        return found
    return found + [Built("basin", "", f"{drain.id}-{basin.id}", basin.name, drain.name, {
        "long": Amount(basin.length_m, "length"), "wide": Amount(basin.width_m, "length"),
        "deep": Amount(basin.depth_m, "length")}) for basin in drain.basins]


def lift(garden: Garden, library: Library, pump: Lift) -> Built:
    """A pump, with its suction and its power."""
    kind = library.pumps[pump.kind]
    heads = sum(one.heads for one in hanging_on(garden, library, pump.draws_from))
    draws, own_power = kind.family != "submersible", pump.power != "mains"
    return Built("lift", kind.family, pump.id, pump.name, pump.name, {
        "suction": Amount(max(pump.suction_m, LEAST_SUCTION_M) if draws else 0.0, "length"),
        "suction_bore": Amount(pump.suction_mm, "hole"), "draws": yes(draws),
        "hangs": yes(not draws), "float_switch": yes(draws),
        "pressure_switch": yes(pump.control == "pressure-switch" and kind.family == "transfer"),
        "regulators": count(heads if pump.regulator_kpa > 0 else 0),
        "mains": yes(not own_power), "battery": yes(own_power),
        "panel": yes(pump.power == "panel"),
        "reserve": Amount(pump.reserve_m, "small"), "price": Amount(kind.price, "money"),
    }, {"kind": Phrase(kind.name), "key": Phrase(pump.kind),
        "store": Phrase(quoted(garden.store_of(pump.draws_from).name)),
        "vessel": Phrase(garden.vessel_of(pump.draws_from)),
        "lasts": _lasts(watts_of(pump, kind), pump.battery_wh),
        "battery_size": Phrase(f"Battery, 12 V, {pump.battery_wh:.0f} Wh" if pump.battery_wh > 0
                               else "Battery, 12 V"),
        "panel_size": Phrase(f"Panel, {pump.panel_w:.0f} W" if pump.panel_w > 0 else "Panel")})


def _lasts(watts: float, battery_wh: float) -> Phrase:
    """How long a battery runs a pump on end, half of it drawn."""
    if battery_wh <= 0:
        return NONE
    return say("{lasts_wh} run a pump of {lasts_w} for {lasts_h}, half of them drawn.",
               lasts_wh=Amount(battery_wh, "energy"), lasts_w=Amount(watts, "power"),
               lasts_h=Amount(USABLE_BATTERY * battery_wh / watts, "hours"))
