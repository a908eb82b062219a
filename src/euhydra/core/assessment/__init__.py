"""The one door to the reckoning, and what it hands out."""
