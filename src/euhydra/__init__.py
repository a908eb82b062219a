"""Euhydra: follow the water, from the gutter to the last drip."""

__version__ = "0.1.0"
