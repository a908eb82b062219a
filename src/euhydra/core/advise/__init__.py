"""What stands amiss, why in numbers, and what would help."""
