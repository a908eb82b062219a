"""Where things lie in plan, and how high the ground is."""
