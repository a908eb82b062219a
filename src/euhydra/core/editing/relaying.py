"""A garden laid anew: on its levels, with its zones and lines made from what stands in it."""

from __future__ import annotations

from pydantic import ValidationError

from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.base import EDGE_M, HIGHEST_M
from euhydra.core.garden.model import Garden
from euhydra.core.garden.validation import Unsound, require_sound
from euhydra.core.layout.laying import lay
from euhydra.core.library import Library
from euhydra.core.terrain.elevation import OffLevel, levelled
from euhydra.core.units import show


def relaid(garden: Garden, library: Library, before: Garden | None = None) -> Garden:
    """The garden on its levels, with its zones and lines made anew from what stands in it.

    Fittings put on by hand come over from ``before``. Raises :class:`EditRefused` where it could
    not be laid, or its lines not be reckoned.
    """
    hand = tuple(f for f in (before or garden).fittings if f.hand)
    bare = garden.model_copy(update={"nodes": (), "lines": (), "fittings": hand, "outlets": ()})
    try:
        laid = lay(levelled(bare), library.of(garden))
        require_sound(laid)
    except OffLevel as error:
        level, most = (show(m, "length", garden.units) for m in (error.level_m, HIGHEST_M))
        raise EditRefused(f"From the spot heights, the ground under {error.name} would lie at "
                          f"{level}; it may lie {most} over or under the datum. Move a spot, or "
                          f"type that level by hand.") from None
    except Unsound as error:
        raise EditRefused(str(error)) from None
    except ValidationError:
        most = show(EDGE_M, "length", garden.units)
        raise EditRefused(f"Something would stand off the plan: it reaches {most} from its datum "
                          "each way.") from None
    return laid
