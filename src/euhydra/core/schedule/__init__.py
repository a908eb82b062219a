"""When each zone opens, for how long, and what falls due."""
