"""The wheel: built, put into an environment of its own, and run from another folder."""

import os
import re
import shutil
import socket
import subprocess
import sys
import sysconfig
import time
import urllib.error
import urllib.request
import zipfile
from pathlib import Path

import euhydra

ROOT = Path(__file__).parents[2]
SITE = Path(sysconfig.get_paths()["purelib"])


def run(*command, cwd, **more):
    return subprocess.run([str(part) for part in command], cwd=cwd, check=True, text=True,
                          stdout=subprocess.PIPE, **more).stdout


def answer(server, address):
    """The first page, as soon as the server listens."""
    while True:
        assert server.poll() is None, "it ended"
        try:
            return urllib.request.urlopen(address).read().decode()
        except urllib.error.URLError:
            time.sleep(0.1)


def test_the_wheel_runs_the_demo_from_anywhere(tmp_path):
    tree = tmp_path / "tree"
    for name in ("src", "LICENSE", "README.md", "pyproject.toml"):
        copy = shutil.copytree if (ROOT / name).is_dir() else shutil.copy2
        (tree).mkdir(exist_ok=True)
        copy(ROOT / name, tree / name)
    shutil.rmtree(next(iter(tree.glob("src/*.egg-info")), tree / "none"), ignore_errors=True)
    run(sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation",
        "--disable-pip-version-check", "-w", tmp_path, tree, cwd=tmp_path)
    wheel = next(tmp_path.glob("*.whl"))
    inside = set(zipfile.ZipFile(wheel).namelist())
    assert {"euhydra/py.typed", "euhydra/data/gardens/kiln-yard.json",
            "euhydra/web/static/licences.txt", "euhydra/web/static/app.css"} <= inside
    assert any(name.endswith("licenses/LICENSE") for name in inside)
    run(sys.executable, "-m", "venv", "--without-pip", tmp_path / "fresh", cwd=tmp_path)
    fresh = tmp_path / "fresh" / "bin" / "python"
    home = Path(run(fresh, "-c", "import sysconfig; print(sysconfig.get_paths()['purelib'])",
                    cwd=tmp_path).strip())
    run(sys.executable, "-m", "pip", "install", "--quiet", "--no-deps", "--no-compile",
        "--disable-pip-version-check", "--target", home, wheel, cwd=tmp_path)
    (home / "others.pth").write_text(f"{SITE}\n", encoding="utf-8")  # what Euhydra itself needs
    elsewhere = tmp_path / "elsewhere"
    elsewhere.mkdir()
    clean = {key: value for key, value in os.environ.items() if key != "PYTHONPATH"}
    assert run(fresh, "-m", "euhydra", "--version", cwd=elsewhere,
               env=clean) == f"euhydra {euhydra.__version__}\n"
    with socket.socket() as sock:
        sock.bind(("127.0.0.1", 0))
        port = sock.getsockname()[1]
    server = subprocess.Popen([str(fresh), "-m", "euhydra", "demo", "--port", str(port), "--db",
                               str(elsewhere / "g.sqlite3")], cwd=elsewhere, env=clean,
                              stdout=subprocess.PIPE, text=True)
    try:
        assert server.stdout is not None
        address = re.search(r"http://\S+", server.stdout.readline()).group()
        assert "Kiln Yard" in answer(server, address)
        loaded = run(fresh, "-c", "import euhydra; print(euhydra.__file__)", cwd=elsewhere,
                     env=clean)
        assert str(home) in loaded
    finally:
        server.kill()
        server.wait()
