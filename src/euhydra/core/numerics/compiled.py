"""Loops that are compiled for the machine, their code kept on the disk for the next start."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])


def compiled(loop: F) -> F:
    """The loop compiled on its first call; kept on the disk where some folder can be written to."""
    try:
        return cast(F, numba.njit(cache=True, error_model="numpy", nogil=True)(loop))
    except RuntimeError:  # no folder at all for the cache
        return cast(F, numba.njit(loop))


def written_in(part: F) -> F:
    """A part of such a loop, written into it where it is called: handing arrays over takes time."""
    return cast(F, numba.njit(inline="always", error_model="numpy")(part))
