"""The demo, served from a file of its own for as long as a script wants it."""

from __future__ import annotations

import socket
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent / "tests"))
sys.path.insert(0, str(Path(__file__).parent.parent / "tests" / "browser"))
from conftest import CHROMIUM, FLAGS

__all__ = ["BENCH", "CHROMIUM", "FLAGS", "PHONE", "served"]
BENCH, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


@contextmanager
def served(on: str = "") -> Iterator[str]:
    """Where it is reached; its pages believe that it is the day ``on`` where one is given."""
    with tempfile.TemporaryDirectory() as folder:
        port = free_port()
        file = Path(folder) / "g.sqlite3"
        server = subprocess.Popen(
            [sys.executable, *([Path(__file__).parent / "on_a_day.py", on] if on else
                               ["-m", "euhydra", "demo"]), "--port", str(port), "--db", str(file)],
            stdout=subprocess.PIPE, text=True)
        server.stdout.readline()  # type: ignore[union-attr]
        try:
            yield f"http://localhost:{port}"
        finally:
            server.terminate()


def free_port() -> int:
    """A port that nothing listens on."""
    with socket.socket() as sock:
        sock.bind(("127.0.0.1", 0))
        return int(sock.getsockname()[1])
