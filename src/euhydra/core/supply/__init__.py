"""Where water comes from: roofs, drains, taps and wells."""
