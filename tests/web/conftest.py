"""The app under a test client that behaves as a browser on this machine."""

from __future__ import annotations

import shutil
import sqlite3
from contextlib import closing
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from drawn import add_drawn
from euhydra.core.assessment.assess import Assessment, assess
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.web.app import create_app

ORIGIN = "http://localhost"


@pytest.fixture(scope="session")
def demo_file(tmp_path_factory, library) -> Path:
    """The demo gardens in a file, made once; each test gets a copy."""
    path = tmp_path_factory.mktemp("demo") / "g.sqlite3"
    add_drawn(Gardens(Database(path), library))
    with closing(sqlite3.connect(path)) as db:
        db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return path


@pytest.fixture(scope="session")
def reckoned(demo_file, library) -> dict[str, Assessment]:
    """The demo gardens as they begin, reckoned once: what an edit leaves alone is shared."""
    gardens = Gardens(Database(demo_file), library)
    return {listed.id: assess(gardens.load(listed.id).garden, library)
            for listed in gardens.listed()}


@pytest.fixture
def gardens(tmp_path, library, demo_file) -> Gardens:
    shutil.copyfile(demo_file, tmp_path / "g.sqlite3")
    return Gardens(Database(tmp_path / "g.sqlite3"), library)


@pytest.fixture
def client(gardens, reckoned) -> TestClient:
    app = create_app(gardens)
    for key, first in reckoned.items():
        kept = gardens.load(key)
        app.state.shelf.lend(key, kept.change, first)
    return TestClient(app, base_url=ORIGIN, headers={"Origin": ORIGIN})
