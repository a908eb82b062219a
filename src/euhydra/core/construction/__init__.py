"""What to buy, how it fits, and how to build it."""
