"""Store, how each vessel stands: load, tipping, children, mosquitoes, burial, drilling."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core import storage
from euhydra.core.construction import setting_out
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Store
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Remedy

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

DECK_KPA = 1.9
# Residential code, recalled: 1,500 psf clay, 2,000 sand, 3,000 gravel.
BEARS_KPA = {"clay": 72.0, "clay-loam": 72.0, "silt-loam": 72.0}
SAND_KPA = 96.0
TIPPY = 3.0


def bears_kpa(soil: str) -> float:
    """What a soil bears."""
    return BEARS_KPA.get(soil, SAND_KPA)


def findings(r: Results) -> list[Finding]:
    """Every rule on every store by itself."""
    found: list[Finding] = []
    for store in r.garden.stores:
        found += [*_deck(store), *_children(store), *_mosquitoes(r, store), *_over_gutter(r, store),
                  *_buried(store), *_tipping(r, store), *_soil(r, store)]
    return [*found, _lids(r), _screens(r), _weight(r)]


def _deck(store: Store) -> list[Finding]:
    if store.footing != "deck" or storage.bearing_kpa(store) <= DECK_KPA:
        return []
    return [Finding(
        "store.deck-load", "stop",
        say(f"{quoted(store.name)} presses " + "{p}; a deck bears {most}",
            p=Amount(storage.bearing_kpa(store), "pressure"), most=Amount(DECK_KPA, "pressure")),
        Phrase("An ordinary deck is built for people, 1.9 kPa (40 psf, residential code, "
               "recalled). Stand it on the ground, or have the deck checked by a licensed "
               "engineer."),
        (Remedy(f"on-paving-{store.id}", Phrase("Stand it on paving"), Phrase("off the deck"),
                SetValue(f"stores/{store.id}/footing", "paving")),), caution=True)]


def _soil(r: Results, store: Store) -> list[Finding]:
    most = bears_kpa(r.garden.site.soil)
    if store.footing != "soil" or storage.bearing_kpa(store) <= most:
        return []
    return [Finding(
        "store.soil-load", "stop",
        say(f"{quoted(store.name)} presses " + "{p}; this soil bears {most}",
            p=Amount(storage.bearing_kpa(store), "pressure"), most=Amount(most, "pressure")),
        Phrase("1,500 pounds a square foot for clay, 2,000 for sand (residential code, recalled). "
               "Spread the load on a slab; ask locally."), caution=True)]


def _weight(r: Results) -> Finding:
    heaviest = max(r.garden.stores, key=storage.full_mass_kg)
    return Finding(
        "store.weight", "note",
        say(f"Full, {quoted(heaviest.name)} weighs " + "{m}",
            m=Amount(storage.full_mass_kg(heaviest), "mass")),
        say("{p} on the ground under each vessel. Level, firm ground with slabs or tamped gravel a "
            "hand's width wider all round and a braced stand, or it sinks and tilts. Put some "
            "water in as soon as it stands, so wind cannot tip it.",
            p=Amount(storage.bearing_kpa(heaviest), "pressure")), caution=True)


def _tipping(r: Results, store: Store) -> list[Finding]:
    if storage.slenderness(store) <= TIPPY:
        return []
    low = max(0.0, round(TIPPY * storage.width_m(store) - store.height_m - 0.02, 2))
    edit = SetValue(f"stores/{store.id}/stand_m", low)
    remedies = (Remedy(f"lower-stand-{store.id}", say("Stand to {h}", h=Amount(low, "length")),
                       say("{x} times its width", x=Amount(
                           storage.slenderness(r.after(edit).garden.store_of(store.id)), "ratio",
                           1)), edit),) if low < store.stand_m else ()
    return [Finding(
        "store.tipping", "care",
        say(f"{quoted(store.name)}: the top stands " + "{x} times its width", x=Amount(
            storage.slenderness(store), "ratio", 1)),
        Phrase("Over about three times (from memory) a push or a gale can tip it. Strap it to the "
               "wall, widen the stand, or lower it."), remedies, caution=True)]


def _children(store: Store) -> list[Finding]:
    if store.lid_locked:
        return []
    return [Finding(
        "store.children", "stop", Phrase(f"{quoted(store.name)}: the lid is not locked"),
        say("{d} of open water drowns a child. Lock every lid.",
            d=Amount(store.height_m, "length")),
        (Remedy(f"lock-lids-{store.id}", Phrase("Lock the lid"), Phrase("shut"),
                SetValue(f"stores/{store.id}/lid_locked", True)),), caution=True)]


def _lids(r: Results) -> Finding:
    deepest = max(store.height_m for store in r.garden.stores)
    return Finding("store.lids", "note", Phrase("Keep the lids locked"),
                   say("{d} of water drowns a child.", d=Amount(deepest, "length")), caution=True)


def _openings(store: Store) -> int:
    return 1 + store.count


def _mosquitoes(r: Results, store: Store) -> list[Finding]:
    if store.screened:
        return []
    return [Finding(
        "store.mosquitoes", "care", Phrase(f"{quoted(store.name)}: openings stand unscreened"),
        say("{n} inlets and overflows let mosquitoes breed and leaves in.",
            n=Amount(_openings(store), "count")),
        (Remedy(f"fit-screens-{store.id}", Phrase("Screen them"), Phrase("closed"),
                SetValue(f"stores/{store.id}/screened", True)),), caution=True)]


def _screens(r: Results) -> Finding:
    openings = sum(_openings(store) for store in r.garden.stores)
    return Finding("store.screens", "note", Phrase("Screen every opening"),
                   say("{n} inlets and overflows are a way in for mosquitoes and leaves, unused "
                       "holes too.", n=Amount(openings, "count")), caution=True)


def _over_gutter(r: Results, store: Store) -> list[Finding]:
    over = setting_out.over_gutter_m(r.garden, store)
    if over <= 0:
        return []
    lower = round(store.stand_m - over - setting_out.BELOW_MARK_M, 2)
    remedies = (Remedy(f"under-gutter-{store.id}", say("Stand to {h}", h=Amount(lower, "length")),
                       Phrase("under the gutter"),
                       SetValue(f"stores/{store.id}/stand_m", lower)),) if lower >= 0 else ()
    return [Finding(
        "store.over-gutter", "stop",
        say(f"{quoted(store.name)} stands " + "{h} higher than the gutter that is to fill it",
            h=Amount(over, "length")),
        Phrase("Water does not run up. Lower the stand, use a lower vessel, or fill it from a "
               "higher roof."), remedies)]


def _buried(store: Store) -> list[Finding]:
    if not store.buried:
        return []
    if not store.burial_rated:
        return [Finding(
            "store.buried", "stop",
            Phrase(f"{quoted(store.name)} is not made to be buried"),
            say("Soil pushes in on {h} of wall, and an empty tank floats up in wet ground: it "
                "caves in. Only tanks rated for burial go under, others need a shell. Call before "
                "you dig; a trench can collapse; your local code and a licensed builder decide.",
                h=Amount(store.height_m, "length")),
            (Remedy(f"above-ground-{store.id}", Phrase("Stand it above ground"), Phrase("dry"),
                    SetValue(f"stores/{store.id}/buried", False)),), caution=True)]
    return [Finding(
        "store.buried", "care", Phrase(f"{quoted(store.name)}: a buried tank floats and crushes"),
        say("Empty, ground water lifts it with up to {m}. Anchor it as its maker says, call before "
            "you dig, and shore the pit; your local code and a licensed builder decide.",
            m=Amount(storage.total_l(store), "mass")), caution=True)]
