"""A house tap as a source: its supply curve from a gauge and a bucket."""

from __future__ import annotations

from euhydra.core.garden.model import Standpipe

SAFE_SHARE = 0.8  # of the tested flow to design to, common practice


def tested_l_h(tap: Standpipe) -> float:
    """Flow of the wide-open tap: the bucket over the seconds it took."""
    return tap.bucket_l / tap.bucket_s * 3600


def pressure_kpa(tap: Standpipe, flow_l_h: float) -> float:
    """Pressure left at the tap when it gives so much: p = p₀ − c Q², nothing left at the test."""
    return max(tap.static_kpa * (1 - (flow_l_h / tested_l_h(tap)) ** 2), 0.0)


def design_l_h(tap: Standpipe) -> float:
    """The most to plan for."""
    return SAFE_SHARE * tested_l_h(tap)
