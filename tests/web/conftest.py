"""The app under a test client that behaves as a browser on this machine."""

from __future__ import annotations

import pytest
from starlette.testclient import TestClient

from euhydra.cli import add_demo
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.web.app import create_app

ORIGIN = "http://localhost"


@pytest.fixture
def gardens(tmp_path, library) -> Gardens:
    kept = Gardens(Database(tmp_path / "g.sqlite3"), library)
    add_demo(kept)
    return kept


@pytest.fixture
def client(gardens) -> TestClient:
    return TestClient(create_app(gardens), base_url=ORIGIN, headers={"Origin": ORIGIN})
