"""Routes: load, call the core, shape a view, render."""
