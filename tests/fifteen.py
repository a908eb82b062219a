"""The fifteen kinds of garden, small, as First pour and a few edits make them."""

from __future__ import annotations

from collections.abc import Callable

from euhydra.core.editing.answers import BedAnswer, StoreAnswer, Strip
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from gardens import made

NONE = {"beds": (), "pots": 0}


def bed(count: int = 1, length_m: float = 2.4, width_m: float = 1.2, lower_m: float = 0.0
        ) -> BedAnswer:
    return BedAnswer(count=count, length_m=length_m, width_m=width_m, group="fruiting",
                     lower_m=lower_m)


def fifteen() -> dict[str, Callable[[Library], Garden]]:
    """Each by its name, to be made with a library."""
    def of(*steps: object, **answers: object) -> Callable[[Library], Garden]:
        return lambda library: made(library, *steps, **NONE | answers)

    return {
        "three totes, soakers": of(
            "+wet-area", barrels=3, barrel_l=1135.0, method="soaker", beds=(bed(5),),
            border=Strip(length_m=6.0, width_m=0.6)),
        "a laundry drum, tape": of(
            ("plots/bed-1/method", "tape"), ("plots/bed-2/method", "tape"), waters=("laundry",),
            laundry_led="drum", beds=(bed(2),)),
        "five towers": of(waters=("tap",), towers=5),
        "two terraces and a well": of(
            waters=("roof", "well"), stores=(StoreAnswer(volume_l=210.0, count=5),),
            beds=(bed(), bed(lower_m=0.6))),
        "two gutters": of(barrels=1, gutters=2, buckets=7),
        "beds above four barrels": of(
            "+pump", barrels=4, fall_m=-0.3, beds=(bed(2),)),
        "eight float pots": of(waters=("tank",), float_pots=8),
        "one barrel": of(barrels=1, beds=(bed(),)),
        "a whole house": of(
            "+pump", barrels=2, barrel_l=5000.0, lawn=Strip(length_m=4.0, width_m=2.0),
            border=Strip(length_m=5.0, width_m=0.8), trees=3),
        "drilled pipe, a pump": of(
            "+pump", ("plots/bed-1/method", "drilled"), beds=(bed(length_m=5.0, width_m=0.4),)),
        "a border and pots": of(
            waters=("tap",), border=Strip(length_m=5.0, width_m=0.8), pots=6),
        "a flower bed": of(
            waters=("tap",), method="soaker", border=Strip(length_m=4.0, width_m=0.9)),
        "nine beds": of(waters=("tap",), method="soaker", beds=(bed(9),)),
        "a bucket chain": of(barrels=2, chain=6),
        "twelve pots": of(waters=("tap",), pots=12),
    }
