"""How a stick reads a bank's water."""

from __future__ import annotations

from euhydra.core.storage import Bank

STICK_FLOOR_M = 0.004  # a stick is read no closer, from memory
SPAN_M = 0.02


def litres_a_metre(bank: Bank, z_m: float) -> float:
    """Litres that a metre of a bank's level holds just under a level, m above the datum."""
    return max((sum(bank.held_l(z_m)) - sum(bank.held_l(z_m - SPAN_M))) / SPAN_M, 1.0)
