"""What every part of the torture stands on."""

from __future__ import annotations

import sys
import warnings
from pathlib import Path

warnings.filterwarnings("ignore")
sys.path.insert(0, str(Path(__file__).parents[1]))

from starlette.testclient import TestClient  # noqa: E402

from drawn import add_drawn  # noqa: E402
from euhydra.data import library  # noqa: E402
from euhydra.store.database import Database  # noqa: E402
from euhydra.store.gardens import Gardens  # noqa: E402
from euhydra.web.app import create_app  # noqa: E402

ORIGIN = "http://localhost"
DEMO = ("kiln-yard", "plot-27", "balcony")
LIBRARY = library()


def client_on(gardens: Gardens) -> TestClient:
    return TestClient(create_app(gardens), base_url=ORIGIN, headers={"Origin": ORIGIN},
                      follow_redirects=False)


def demo(folder: Path, name: str = "g.sqlite3") -> Gardens:
    gardens = Gardens(Database(folder / name), LIBRARY)
    add_drawn(gardens)
    return gardens
