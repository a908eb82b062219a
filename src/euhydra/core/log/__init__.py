"""What is read and done in the garden, and what follows from it."""

from euhydra.core.log.entries import KINDS, BadEntryOf, Entry, EntryKind

__all__ = ["KINDS", "BadEntryOf", "Entry", "EntryKind"]
