"""How stores are joined, as steps: links and siphons that level, overflows and float valves."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core import storage
from euhydra.core.construction.step import Step
from euhydra.core.garden.model import Garden, Joint
from euhydra.core.garden.store_links import LEVELLING
from euhydra.core.statements.figures import Amount, Phrase, quoted, say

BETWEEN = {"link": "Links of {d} at the height of the outlet, {h} over the base.",
           "siphon": "Hoses of {d}, {m} each, filled under water and led over both rims, their "
                     "ends weighted to hang at the height of the outlet, {h} over the base."}
TOOLS = {"link": "hole saw, spanner", "siphon": "knife, a weight for each end"}


def joining(garden: Garden) -> Iterator[Step]:
    """A step for each joint, and for the links within a store of several barrels."""
    names = {s.id: quoted(s.name) for s in garden.stores}
    words = {"link": "Bottom link", "siphon": "Siphon", "overflow": "Overflow pipe",
             "float": "Float-valve feed"}
    tests = {"link": "Both surfaces stand level after an hour.",
             "siphon": "Full of water and both ends under: the two surfaces creep together.",
             "overflow": "Fill the first until it spills: the second takes it.",
             "float": "It shuts by itself with the water up, and opens when some is drawn."}
    for joint in garden.joints:
        yield Step(
            f"joint-{joint.id}", "Joining", Phrase(f"{words[joint.kind]} from {names[joint.a]} to "
                                                   f"{names[joint.b]}"),
            _run_of(garden, joint), "knife, clamps", test=Phrase(tests[joint.kind]))
    for store in garden.stores:
        if store.count > 1:
            yield Step(
                f"links-{store.id}", "Joining",
                say(f"{quoted(store.name)}: " + "{n} between its barrels", n=Amount(
                    store.count - 1, "count")),
                say(BETWEEN[store.linked], d=Amount(store.link_mm, "hole"),
                    h=Amount(store.outlet_m, "small"), m=Amount(store.link_m, "length")),
                TOOLS[store.linked], test=Phrase(tests[store.linked]))


def _run_of(garden: Garden, joint: Joint) -> Phrase:
    """A joint's pipe from end to end: an overflow begins where its store is full."""
    pipe = {"m": Amount(joint.length_m, "length"), "d": Amount(joint.bore_mm, "hole")}
    if joint.kind in LEVELLING:
        return say("{m} of {d}, its ends {h} over the base of each.", **pipe,
                   h=Amount(joint.end_m, "small"))
    a, b = garden.store_of(joint.a), garden.store_of(joint.b)
    to = f"{quoted(b.name)}, falling all the way" if joint.kind == "overflow" else (
        f"a float valve under the rim of {quoted(b.name)}")
    way = "through its lid, a screen over the end" if joint.kind == "overflow" else (
        "it shuts when that is full")
    return say(f"{{m}} of {{d}} from {{h}} over the base of {quoted(a.name)} to {to}: {way}.",
               **pipe, h=Amount(storage.full_dip_m(a), "length") if joint.kind == "overflow"
               else Amount(joint.end_m, "small"))
