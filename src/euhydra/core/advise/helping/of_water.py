"""Changes of what holds and brings the water: barrels, roofs, stands, pumps, taps and wells."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core.advise.bounds import HIGHEST_STAND_M, MOST_BARRELS, WIDE_LINK_MM
from euhydra.core.advise.helping.moves import Move, plots_on
from euhydra.core.advise.pump_choice import suits
from euhydra.core.editing.edits import Add, Together
from euhydra.core.editing.pump_edits import power_of
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Store
from euhydra.core.results.results import Results
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

MORE_BARRELS = (1, 2, 3)
TANKS_L = (500, 1000, 2000, 3000)  # as they are sold, common practice
LIFTS_M = (0.3, 0.6, 1.0)
TAP_CAUTION = ("The tap's own pipe, and what keeps garden water out of the drinking water, are for "
               "licensed hands where local code says so.")
POWER_CAUTION = "A socket outdoors is for a licensed electrician; never work on mains yourself."


def of_water(r: Results) -> Iterator[Move]:
    """All of them."""
    for store in r.garden.stores:
        yield from _barrels(store)
        yield from _stand(r, store)
        yield from _pump(r, store)
        if store.count > 1 and store.link_mm < WIDE_LINK_MM:
            yield Move(f"link-{store.id}", say(f"Wider links in {quoted(store.name)}: " + "{d}",
                                               d=Amount(WIDE_LINK_MM, "bore")),
                       SetValue(f"stores/{store.id}/link_mm", WIDE_LINK_MM),
                       frozenset({store.id}), 1.0)
    yield from _led(r)
    yield from _tops(r)


def _barrels(store: Store) -> Iterator[Move]:
    """More like them, or one tank in their place."""
    mine = frozenset({store.id})
    for more in MORE_BARRELS:
        if store.count + more <= MOST_BARRELS:
            yield Move(f"barrels-{store.id}-{more}", say(
                "{n} more like " + quoted(store.name), n=Amount(more, "count")),
                SetValue(f"stores/{store.id}/count", store.count + more), mine, 2.0 * more)
    holds = store.volume_l * store.count
    for litres in [size for size in TANKS_L if size > 1.2 * holds][:2]:
        yield Move(f"tank-{store.id}-{litres}", say(
            "One tank of {v} in place of " + quoted(store.name), v=Amount(litres, "volume")),
            Together((SetValue(f"stores/{store.id}/count", 1),
                      SetValue(f"stores/{store.id}/volume_l", float(litres)))), mine, 4.0)


def _stand(r: Results, store: Store) -> Iterator[Move]:
    """A higher stand: more pressure for what is fed from it."""
    if store.buried or store.stand_m >= HIGHEST_STAND_M or r.garden.lift_on(store.id):
        return
    mine = frozenset({store.id})
    for more in LIFTS_M:
        high = round(min(store.stand_m + more, HIGHEST_STAND_M), 2)
        if high > store.stand_m:
            yield Move(f"stand-{store.id}-{round(100 * high)}", say(
                f"{quoted(store.name)} on a stand of " + "{h}", h=Amount(high, "length")),
                SetValue(f"stores/{store.id}/stand_m", high), mine, 3.0)


def _pump(r: Results, store: Store) -> Iterator[Move]:
    """The cheapest pump that serves all its lines."""
    if not any(zone.source == store.id for zone in r.garden.zones):
        return
    fit = suits(r.garden, r.library, store, r.demand.drinks)
    lift = r.garden.lift_on(store.id)
    if fit and not (lift and lift.kind == fit.kind):
        kind = r.library.pumps[fit.kind]
        yield Move(f"pump-{store.id}", Phrase(f"{kind.name} on {quoted(store.name)}"), fit,
                   frozenset({store.id}), 3.0, frozenset({"power"}),
                   POWER_CAUTION if power_of(r.library, fit.kind) == "mains" else "")


def _led(r: Results) -> Iterator[Move]:
    """Downspouts that run away, led to a store; hoses to a store as wide as they are sold."""
    for roof in r.garden.roofs:
        for spout in roof.downspouts:
            at = f"roofs/{roof.id}/downspouts/{spout.id}"
            name = (quoted(roof.name) if len(roof.downspouts) == 1 else
                    f"{quoted(spout.name)} of {quoted(roof.name)}")
            touched = frozenset({roof.id})
            if not spout.to:
                for store in r.garden.stores:
                    yield Move(f"lead-{roof.id}-{spout.id}-{store.id}", Phrase(
                        f"Lead {name} to {quoted(store.name)}"), SetValue(f"{at}/to", store.id),
                        touched | {store.id}, 2.0)
            elif spout.restrictor_l_h > 0:
                yield Move(f"free-{roof.id}-{spout.id}", Phrase(f"Take the restrictor from {name}"),
                           SetValue(f"{at}/restrictor_l_h", 0.0), touched, 0.5)


def _tops(r: Results) -> Iterator[Move]:
    """A tap that tops the store up, a well there is that does."""
    garden = r.garden
    if not garden.taps and garden.stores:
        yield Move("tap", Phrase("Top up from a tap"), Add("tap"),
                   frozenset({garden.store.id}), 2.0, frozenset({"mains"}), TAP_CAUTION)
    for tap in garden.taps:
        if not tap.tops_up and garden.stores:
            yield Move(f"tops-{tap.id}", Phrase(
                f"{quoted(tap.name)} tops up {quoted(garden.store.name)}"),
                SetValue(f"taps/{tap.id}/tops_up", garden.store.id),
                frozenset({tap.id, garden.store.id, *plots_on(garden, tap.id)}), 1.0,
                frozenset({"mains"}), TAP_CAUTION)
    for well in garden.wells:
        if not well.tops_up and garden.stores and len(garden.sources) > 1:
            yield Move(f"tops-{well.id}", Phrase(
                f"{quoted(well.name)} fills {quoted(garden.store.name)}"),
                SetValue(f"wells/{well.id}/tops_up", garden.store.id),
                frozenset({well.id, garden.store.id, *plots_on(garden, well.id)}), 1.0)
