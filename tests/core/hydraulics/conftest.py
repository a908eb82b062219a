"""A zone of four like beds."""

import pytest

from euhydra.core.editing.answers import BedAnswer
from gardens import made

ALIKE = tuple(BedAnswer(length_m=4.0, width_m=1.2, group="leafy") for _ in range(4))


@pytest.fixture(scope="module")
def manifold(library):
    """Four like beds on one zone, hung on a pump behind a regulator."""
    same = [(f"plots/bed-{i}/plantings/p1/crop", "lettuce") for i in (1, 2, 3, 4)]
    return made(library, "+pump", ("lifts/pump-1/regulator_kpa", 100.0), *same, pots=0,
                beds=ALIKE, method="drippers", distance_m=12.0)
