"""Stand-ins for outside devices, on a virtual clock, so that a garden can be watched at speed."""

from euhydra.standins.bench import FAULTS, Bench

__all__ = ["FAULTS", "Bench"]
