"""How stores are joined: where a joint begins, what its pipe is, where it ends."""

from __future__ import annotations

from euhydra.core import storage
from euhydra.core.garden.model import Garden, Joint
from euhydra.core.garden.store_links import LEVELLING
from euhydra.core.statements.figures import Amount, Phrase, quoted, say


def run_of(garden: Garden, joint: Joint) -> Phrase:
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
