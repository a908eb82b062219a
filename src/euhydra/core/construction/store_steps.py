"""The steps that set up a store: what it stands on, its holes, and what leads to and from it."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core import storage
from euhydra.core.construction import setting_out
from euhydra.core.construction.step import Step
from euhydra.core.garden.model import Garden, Store
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.supply.runoff import flush_chamber_l

STEADY_SHARE = 0.25  # of a barrel's water that keeps it from being blown over, from memory


def store_steps(garden: Garden, store: Store) -> Iterator[Step]:
    """A store on its stand, with its holes, its rain, its overflow and its screens."""
    name, key = quoted(store.name), store.id
    yield Step(
        f"footing-{key}", store.name, Phrase(f"{name}: level ground and a firm stand"),
        say("A base of {a}" + (" for each" if store.count > 1 else "") + ", level both ways, its "
            "top {h} above the ground. Full it weighs {kg}.",
            a=Amount(storage.footprint_m2(store), "area"), h=Amount(store.stand_m, "length"),
            kg=Amount(storage.full_mass_kg(store), "mass")), "spade, rammer, spirit level",
        "A stand that gives way drops the whole weight at once. Brace it; on a deck or a roof ask "
        "a licensed engineer.", Phrase("The level's bubble stands in the middle both ways."))
    marks = [m for m in setting_out.marks(garden, store) if m.over_base_m is not None]
    if marks:
        words = "; ".join(f"{quoted(m.what)} {{h{i}}} over the base, {{d{i}}}"
                          for i, m in enumerate(marks))
        amounts = {f"h{i}": Amount(m.over_base_m or 0.0, "length") for i, m in enumerate(marks)}
        amounts |= {f"d{i}": Amount(m.drill_mm, "hole") for i, m in enumerate(marks)}
        yield Step(f"drill-{key}", store.name, Phrase(f"{name}: mark and drill"),
                   say(f"Measured up from the vessel's base: {words}.", **amounts),
                   "hole saw of each bore, file", "Wear glasses and gloves: plastic swarf flies.",
                   Phrase("Each gasket lies flat round its hole."))
    yield Step(
        f"spigot-{key}", store.name, Phrase(f"{name}: gasket and spigot in"),
        say("Soap the gasket, push it in, screw the spigot hand tight: its outlet stands {h} over "
            "the base. A plastic spigot seals better in plastic.",
            h=Amount(store.outlet_m, "small")), "hands",
        test=say("Fill to {h} over the base and wait ten minutes: dry under it.",
                 h=Amount(min(store.outlet_m + 0.1, store.height_m), "small")))
    yield Step(
        f"steady-{key}", store.name, Phrase(f"{name}: some water in as soon as it stands"),
        say("{v} keep wind from tipping it. Lid on and locked.",
            v=Amount(STEADY_SHARE * store.volume_l, "volume", 0)), "hose or can",
        "Open water drowns a child: the lid stays locked.")
    if store.merges:
        yield from _merged(garden, store)
    for roof, spout in setting_out.spouts_into(garden, store) if not store.merges else ():
        drill = next(m for m in setting_out.marks(garden, store)
                     if m.what.startswith("drill for"))
        yield Step(
            f"diverter-{roof.id}-{spout.id}", store.name,
            Phrase(f"{quoted(roof.name)}: diverter into {quoted(spout.name)}"),
            say("Level the barrel's top across to the downspout and mark it; drill {d} in the "
                "middle of the downspout, {h} above the ground there. The hose falls all the way "
                "to the barrel.", d=Amount(drill.drill_mm, "hole"),
                h=Amount(drill.over_ground_m, "length")), "level, hole saw, file",
            "Cut metal is sharp: glasses and gloves. Someone holds the ladder.",
            Phrase("A jug poured into the gutter comes out in the barrel."))
    yield Step(
        f"overflow-{key}", store.name, Phrase(f"{name}: overflow to a harmless place"),
        say("A hose of {d} from {h} over the base, falling all the way.",
            d=Amount(store.overflow_mm, "hole"), h=Amount(storage.full_dip_m(store), "length")),
        "knife, clamps", "Not to a neighbour, and not into a sewer without leave.",
        Phrase("Fill until it spills: all of it leaves by the hose."))
    yield Step(
        f"screens-{key}", store.name, Phrase(f"{name}: a screen on every opening, and the label"),
        Phrase("An unused hole is a way in for mosquitoes and leaves. “Not drinking water” on "
               "each outlet."), "scissors, cable ties",
        test=Phrase("No gap that a matchstick's head goes through."))


def _merged(garden: Garden, store: Store) -> Iterator[Step]:
    """The one pipe that downspouts merge into, and its chamber for the first flush."""
    led, name = setting_out.spouts_into(garden, store), quoted(store.name)
    if not led:
        return
    yield Step(
        f"merge-{store.id}", store.name, Phrase(f"{name}: the downspouts into one pipe"),
        say("{n:downspout|downspouts}, each under its leaf screen, into one pipe of {d}, {m} to "
            "the store. Nothing goes on down: what is too much leaves by the overflow.",
            n=Amount(len(led), "count"), d=Amount(store.merged_mm, "hole"),
            m=Amount(store.merged_m, "length")), "saw, level, glue",
        "Cut metal is sharp: glasses and gloves. Someone holds the ladder. Call before you dig.",
        Phrase("A jug poured into each gutter comes out in the store."))
    litres = flush_chamber_l(garden.roofs, store.id)
    if litres <= 0:
        return
    days = min(roof.flush_days for roof, _ in led)
    where = ("In a pit on gravel, its lid within reach, where its drip soaks away: no closer to "
             "the house than local code allows." if store.flush_buried else
             "On the pipe, before the store, where its drip does no harm.")
    yield Step(
        f"flush-chamber-{store.id}", store.name,
        say(f"{name}: first-flush chamber of " + "{v}", v=Amount(litres, "volume", 0)),
        say(where + " Its drip lets out {q}, so that it is empty again within {d}.",
            q=Amount(litres / (24 * days), "flow"), d=Amount(days, "days")), "spade, saw, glue",
        "Call before you dig. A pit deeper than the knee wants its walls held."
        if store.flush_buried else "",
        Phrase("The chamber fills before any water comes to the store, and is empty a day later."))
