"""What the loops of the reckoning are compiled with."""
