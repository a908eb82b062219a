"""What every test may ask for: the trade tables and the demo garden."""

from __future__ import annotations

import os

import pytest
from hypothesis import settings

from drawn import KILN_YARD
from euhydra.core.assessment.assess import Assessment, assess
from euhydra.core.editing.file import from_json
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.data import library as load_library

# The same examples on every machine, however slow it is; `make fuzz` looks for new ones.
settings.register_profile("same", deadline=None, derandomize=True)
settings.register_profile("explore", deadline=None)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "same"))


@pytest.fixture(scope="session")
def library() -> Library:
    return load_library()


@pytest.fixture(scope="session")
def kiln_yard(library: Library) -> Garden:
    return from_json(KILN_YARD, library)


@pytest.fixture(scope="session")
def kiln(kiln_yard: Garden, library: Library) -> Assessment:
    return assess(kiln_yard, library)
