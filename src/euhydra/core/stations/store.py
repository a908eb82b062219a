"""Store: what the barrels hold, weigh, and carry the garden through."""

from __future__ import annotations

from euhydra.core import storage
from euhydra.core.advice import Finding, Remedy, StationReport, worst_first
from euhydra.core.figures import Amount, Figure, Phrase, Term, Working, say
from euhydra.core.garden.edits import Add, SetValue
from euhydra.core.reckoning import Reckoning

DECK_KPA = 1.9
SOIL_KPA = 72.0
TIPPY = 3.0
WORTH_ANOTHER = 0.02  # a barrel that gains less than this share is not offered


def report(r: Reckoning) -> StationReport:
    """What Store says."""
    store, share = r.garden.store, float(r.sizing.reliability[r.own])
    usable = storage.usable_l(store)
    verdict = say("{usable} can come out, and rain alone gives {share} of what the garden drinks.",
                  usable=Amount(usable, "volume"), share=Amount(share, "share"))
    return StationReport(
        "store", "Store", verdict, say("{v}", v=Amount(usable, "volume")), _figures(r),
        worst_first([*_deck(r), *_children(r), *_mosquitoes(r), *_reliability(r), *_tipping(r),
                     *_soil(r), _weight(r), *_backflow(r), _overflow(r)]))


def _figures(r: Reckoning) -> tuple[Figure, ...]:
    store, own, sizing = r.garden.store, r.own, r.sizing
    share, mass = float(sizing.reliability[own]), storage.full_mass_kg(store)
    balance = Working(
        "each day: give what is wanted from what stood there before, add the rain, spill the rest",
        (Term("usable", Amount(storage.usable_l(store), "volume")),
         Term("comes in a year", Amount(float(sizing.inflow_l.sum()) / r.years, "yearly")),
         Term("wanted in a year", Amount(float(sizing.demand_l.sum()) / r.years, "yearly")),
         Term("given in a year", Amount(float(sizing.used_l[..., own].sum()) / r.years, "yearly"))),
        "yield after spillage, Jenkins et al. 1978, Fewkes and Butler 2000, recalled; 30 years by "
        "day", "published")
    tap = Figure("tap_year", "From the tap in a year" if r.garden.taps else "Lacking in a year",
                 Amount(r.unmet_year_l, "yearly"), balance)
    return (
        Figure("usable", "Usable water", Amount(storage.usable_l(store), "volume"), Working(
            "barrels × volume × (1 − outlet height ÷ barrel height)",
            (Term("barrels", Amount(store.count, "count")),
             Term("volume of one", Amount(store.volume_l, "volume")),
             Term("outlet above base", Amount(store.outlet_m, "small")),
             Term("barrel height", Amount(store.height_m, "length"))),
            "water below the outlet never comes out", "common practice")),
        Figure("reliability", "Given by rain alone", Amount(share, "share"), balance),
        Figure("day_reliability", "Days with the need met",
               Amount(float(sizing.day_reliability[own]), "share"), balance),
        Figure("longest_dry_run", "Longest dry run in 30 years",
               Amount(int(sizing.longest_dry_run[own]), "days"), balance),
        Figure("overflow_share", "Spills over", Amount(float(sizing.overflow_share[own]), "share"),
               balance),
        tap,
        Figure("full_mass", "Weight when full", Amount(mass, "mass"), Working(
            "1 kg a litre, and the empty barrels",
            (Term("water", Amount(storage.total_l(store), "volume")),
             Term("one empty barrel", Amount(store.shell_kg, "mass"))),
            "density of water", "physics")),
        Figure("bearing", "Pressure under a full barrel",
               Amount(storage.bearing_kpa(store), "pressure"), Working(
            "weight of one full barrel ÷ its footprint",
            (Term("footprint", Amount(storage.base_area_m2(store), "area", 2)),
             Term("one full barrel", Amount(store.volume_l + store.shell_kg, "mass"))),
            "weight over area", "physics")),
    )


def _reliability(r: Reckoning) -> list[Finding]:
    share = float(r.sizing.reliability[r.own])
    if share >= 0.95:
        return []
    store = r.garden.store
    remedies = [*_more_barrels(r)]
    if not r.garden.taps:
        remedies.append(Remedy(
            "fit-tap", Phrase("Top up from a tap"),
            say("{v} a year", v=Amount(r.unmet_year_l, "yearly")), Add("tap")))
    days = Amount(int(r.sizing.longest_dry_run[r.own]), "days")
    why = (say("The tap gives the rest, {v} a year.",
               v=Amount(r.unmet_year_l, "yearly")) if r.garden.taps else
           say("{n} of {v} give out in summer; the longest stretch without was {days}.",
               n=Amount(store.count, "count"), v=Amount(store.volume_l, "volume"), days=days))
    return [Finding("store.too-small", "care" if r.garden.taps or share > 0.6 else "stop",
                    say("Rain meets {share} of the need", share=Amount(share, "share")), why,
                    tuple(remedies))]


def _more_barrels(r: Reckoning) -> list[Remedy]:
    """One more barrel, and the largest bank shown that still gains by each."""
    gains, own = r.sizing.reliability, r.own
    offers = [own + 1]
    best = own + 1
    while best + 1 < len(gains) and gains[best + 1] - gains[best] >= WORTH_ANOTHER:
        best += 1
    if best != own + 1:
        offers.append(best)
    path = f"stores/{r.garden.store.id}/count"
    return [Remedy(f"barrels-{int(r.counts[i])}",
                   say("{n} barrels", n=Amount(int(r.counts[i]), "count")),
                   say("{share}", share=Amount(float(gains[i]), "share")),
                   SetValue(path, int(r.counts[i])))
            for i in offers if i < len(gains) and gains[i] - gains[own] >= WORTH_ANOTHER
            and r.counts[i] <= 24]


def _deck(r: Reckoning) -> list[Finding]:
    store = r.garden.store
    if store.footing != "deck" or storage.bearing_kpa(store) <= DECK_KPA:
        return []
    return [Finding(
        "store.deck-load", "stop",
        say("A full barrel presses {p}; a deck bears {most}",
            p=Amount(storage.bearing_kpa(store), "pressure"), most=Amount(DECK_KPA, "pressure")),
        Phrase("An ordinary deck is built for people, 1.9 kPa (40 psf, residential code, "
               "recalled). Stand the barrels on the ground, or have the deck checked by a "
               "licensed engineer."),
        (Remedy("on-paving", Phrase("Stand them on paving"), Phrase("off the deck"),
                SetValue(f"stores/{store.id}/footing", "paving")),), caution=True)]


def _soil(r: Reckoning) -> list[Finding]:
    store = r.garden.store
    if store.footing != "soil" or storage.bearing_kpa(store) <= SOIL_KPA:
        return []
    return [Finding("store.soil-load", "stop",
                    say("A full barrel presses {p}; clay bears {most}",
                        p=Amount(storage.bearing_kpa(store), "pressure"),
                        most=Amount(SOIL_KPA, "pressure")),
                    Phrase("1,500 pounds a square foot for clay (residential code, recalled). "
                           "Spread the load on a slab; ask locally."), caution=True)]


def _weight(r: Reckoning) -> Finding:
    store = r.garden.store
    return Finding(
        "store.weight", "note",
        say("Full, the barrels weigh {m}", m=Amount(storage.full_mass_kg(store), "mass")),
        say("{p} on the ground under each. A firm, level base and a braced stand, or they sink "
            "and tilt. Put some water in as soon as they stand, so wind cannot tip them.",
            p=Amount(storage.bearing_kpa(store), "pressure")), caution=True)


def _tipping(r: Reckoning) -> list[Finding]:
    store = r.garden.store
    if storage.slenderness(store) <= TIPPY:
        return []
    low = max(0.0, round(TIPPY * storage.width_m(store) - store.height_m - 0.02, 2))
    edit = SetValue(f"stores/{store.id}/stand_m", low)
    remedies = (Remedy("lower-stand", say("Stand to {h}", h=Amount(low, "length")),
                       say("{x} times its width", x=Amount(
                           storage.slenderness(r.after(edit).garden.store), "ratio", 1)),
                       edit),) if low < store.stand_m else ()
    return [Finding(
        "store.tipping", "care",
        say("The top stands {x} times the barrel's width", x=Amount(
            storage.slenderness(store), "ratio", 1)),
        Phrase("Over about three times (from memory) a push or a gale can tip it. Strap the "
               "barrels to the wall, widen the stand, or lower it."), remedies, caution=True)]


def _children(r: Reckoning) -> list[Finding]:
    store = r.garden.store
    depth = Amount(store.height_m, "length")
    if store.lid_locked:
        return [Finding("store.children", "note", Phrase("Keep the lids locked"),
                        say("{d} of water drowns a child.", d=depth), caution=True)]
    return [Finding(
        "store.children", "stop", Phrase("The lids are not locked"),
        say("{d} of open water drowns a child. Lock every lid.", d=depth),
        (Remedy("lock-lids", Phrase("Lock the lids"), Phrase("shut"),
                SetValue(f"stores/{store.id}/lid_locked", True)),), caution=True)]


def _mosquitoes(r: Reckoning) -> list[Finding]:
    store = r.garden.store
    if store.screened:
        return [Finding("store.mosquitoes", "note", Phrase("Screen every opening"),
                        say("{n} inlets and overflows are a way in for mosquitoes and leaves, "
                            "unused holes too.", n=Amount(store.count + 1, "count")),
                        caution=True)]
    return [Finding(
        "store.mosquitoes", "care", Phrase("Openings without a screen breed mosquitoes"),
        say("{n} barrels stand open. A fine screen on every inlet and overflow keeps them out.",
            n=Amount(store.count, "count")),
        (Remedy("fit-screens", Phrase("Screen every opening"), Phrase("closed to insects"),
                SetValue(f"stores/{store.id}/screened", True)),), caution=True)]


def _backflow(r: Reckoning) -> list[Finding]:
    if not r.garden.taps:
        return []
    return [Finding(
        "store.backflow", "note", Phrase("The tap fills through an air gap and nothing else"),
        say("{v} a year comes from the tap. Let it fall freely into the barrel, with a backflow "
            "preventer on the tap. Never join rain pipes to mains pipes; your local code and a "
            "licensed plumber decide what is allowed.",
            v=Amount(r.unmet_year_l, "yearly")), caution=True)]


def _overflow(r: Reckoning) -> Finding:
    return Finding(
        "store.overflow", "note",
        say("{share} of the rain spills: lead it somewhere harmless",
            share=Amount(float(r.sizing.overflow_share[r.own]), "share")),
        Phrase("An overflow as wide as the inlet, away from walls, not to a neighbour, and not "
               "to a sewer without leave."), caution=True)
