"""The sheet of Push's section: where things stand on it."""

from __future__ import annotations

WIDTH, TOP, BOTTOM, LEFT, RIGHT = 850.0, 66.0, 440.0, 56.0, 836.0
SOURCE_X, WAY_X = 236.0, 258.0  # where the barrels end, and the pipe begins
HEAD_STEP = 16.0  # px for each component of the head assembly
