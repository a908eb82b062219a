"""The reckoning: pure functions over a Garden. Imports nothing of the rest of the app."""
