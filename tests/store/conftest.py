"""A garden in a file of its own."""

import pytest

from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from gardens import poured


@pytest.fixture
def gardens(tmp_path, library):
    made = Gardens(Database(tmp_path / "in" / "g.sqlite3"), library)
    made.add(poured(library), "First pour")
    return made
