"""The app in a browser: routes load, ask the core, shape a view, render."""
