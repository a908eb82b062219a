"""``make mutate``: change the heart in small ways, one at a time, and see whether its tests notice.

Mutants come from Cosmic Ray, a seeded sample of them, as many of each part; each runs the tests of
its part in a copy of the tree. Those that live are listed; ends with 1 where too few died. What
lives for a known reason stands in ``tests/mutants.toml``.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import tomllib
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
CORE = "src/euhydra/core"
SAMPLE, SEED, LEAST_KILLED, TIMEOUT_S = 500, 14, 0.85, 120
# Parts of the heart, and the tests that are to notice a change in them.
PARTS: dict[str, tuple[tuple[str, ...], tuple[str, ...]]] = {
    "thirst": (("thirst.py", "soil.py", "roots.py"),
               ("core/test_grow.py", "core/test_water.py", "core/test_season.py",
                "reference/test_root_zone.py", "reference/test_crops.py")),
    "season": (("season/kernel.py", "season/run.py", "season/world.py", "season/sizes.py",
                "season/programme.py", "season/build.py"),
               ("core/test_season.py", "core/test_float_valves.py", "core/test_south_and_cold.py",
                "core/test_refilling.py", "core/test_stations.py", "reference/test_barrel.py",
                "core/test_banks.py")),
    "timing": (("timing.py",), ("core/test_timing.py", "core/test_refilling.py",
                                "core/test_turns.py", "core/test_spells.py")),
    "storage": (("storage/banks.py", "storage/vessel.py", "storage/sizing.py", "catch.py",
                 "gutters.py"),
                ("core/test_banks.py", "core/test_water.py", "core/test_gutters.py",
                 "core/test_storm.py", "reference/test_catch_store.py", "core/test_overflow.py")),
    "hydraulics": (("hydraulics/build.py", "hydraulics/drilled.py", "hydraulics/friction.py",
                    "hydraulics/laws.py", "hydraulics/outlets.py", "hydraulics/pumps.py",
                    "hydraulics/solver.py", "hydraulics/uniformity.py", "hydraulics/valves.py"),
                   ("core/test_network.py", "core/test_odd_networks.py", "core/test_push.py",
                    "reference/test_hydraulics.py", "reference/test_epanet.py")),
}
# A name behind a type, and a decorator that only keeps what was worked out, change no answer.
LEFT_OUT = ("core/RemoveDecorator",)
BESIDE = "not compiled_once"


@dataclass(frozen=True)
class Mutant:
    """One change: where it stands and what it is."""

    job: str
    part: str
    path: str
    operator: str
    row: int
    column: int
    occurrence: int

    @property
    def name(self) -> str:
        """What it goes by in ``tests/mutants.toml``: the line it changes, not its number."""
        line = (ROOT / self.path).read_text(encoding="utf-8").splitlines()[self.row - 1].strip()
        where, what = self.path.removeprefix(f"{CORE}/"), self.operator.removeprefix("core/")
        return f"{where}: {what}: {line}"


def main() -> int:
    """Sample, run, count, and list what lives."""
    ask = argparse.ArgumentParser(description=__doc__)
    ask.add_argument("parts", nargs="*", choices=[*PARTS, []], help="all of them without any")
    ask.add_argument("--sample", type=int, default=SAMPLE)
    ask.add_argument("--seed", type=int, default=SEED)
    ask.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    asked = ask.parse_args()
    tool = Path(sys.executable).parent.parent / "tools" / "bin" / "cosmic-ray"
    known = tomllib.loads((ROOT / "tests" / "mutants.toml").read_text(encoding="utf-8"))
    with tempfile.TemporaryDirectory() as folder:
        parts, dice = asked.parts or list(PARTS), random.Random(asked.seed)
        every = {part: _mutants(tool, Path(folder), part) for part in parts}
        share = asked.sample // len(parts)
        chosen = [m for found in every.values() for m in dice.sample(found, min(share, len(found)))]
        shares = [chosen[i::asked.workers] for i in range(asked.workers)]
        with ThreadPoolExecutor(asked.workers) as pool:
            lived = [m for found in pool.map(
                lambda n: _run(tool, Path(folder) / f"worker-{n}", shares[n]),
                range(asked.workers)) for m in found]
    unlisted = [m for m in lived if m.name not in known]
    for mutant in sorted(lived, key=lambda m: m.name):
        print(("known  " if mutant.name in known else "LIVES  ") + f"{mutant.name} "
              f"[{mutant.row}:{mutant.column}, {mutant.occurrence}]")
    killed = 1 - len(lived) / max(len(chosen), 1)
    print(f"{len(chosen)} mutants of {sum(map(len, every.values()))}: {killed:.1%} killed, "
          f"{len(lived)} live, "
          f"{len(unlisted)} of them not listed.")
    return 0 if killed >= LEAST_KILLED else 1


def _copy(folder: Path) -> Path:
    """The tree as it is kept, somewhere that may be changed."""
    files = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True,
                           text=True).stdout.split("\0")
    for name in filter(None, files):
        to = folder / name
        to.parent.mkdir(parents=True, exist_ok=True)
        shutil.copy2(ROOT / name, to)
    return folder


def _config(folder: Path, part: str) -> Path:
    modules, tests = PARTS[part]
    command = (f"{sys.executable} -m pytest -x -q -W ignore -p no:cacheprovider "
               f"-k '{BESIDE}' " + " ".join(f"tests/{t}" for t in tests))
    path = folder / f"{part}.toml"
    paths = ", ".join(f'"{CORE}/{m}"' for m in modules)
    path.write_text(f"[cosmic-ray]\nmodule-path = [{paths}]\ntimeout = {TIMEOUT_S}\n"
                    f"excluded-modules = []\ntest-command = \"{command}\"\n\n"
                    "[cosmic-ray.distributor]\nname = \"local\"\n", encoding="utf-8")
    return path


def _mutants(tool: Path, folder: Path, part: str) -> list[Mutant]:
    config, session = _config(folder, part), folder / f"{part}.sqlite"
    subprocess.run([str(tool), "init", str(config), str(session)], cwd=ROOT, check=True)
    with sqlite3.connect(session) as kept:
        rows = kept.execute("SELECT job_id, module_path, operator_name, start_pos_row, "
                            "start_pos_col, occurrence FROM mutation_specs").fetchall()
    idle = {path: _idle(ROOT / path) for path in {row[1] for row in rows}}
    found = [Mutant(job, part, path, name, row, column, n)
             for job, path, name, row, column, n in rows if name not in LEFT_OUT]
    return sorted((m for m in found if not any(
        a <= (m.row, m.column) < b for a, b in idle[m.path])),
        key=lambda m: (m.path, m.row, m.column, m.operator, m.occurrence))


def _idle(path: Path) -> list[tuple[tuple[int, int], tuple[int, int]]]:
    """Where nothing runs: types behind names, and blocks that only a type checker reads."""
    found: list[ast.AST] = []
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, (ast.AnnAssign, ast.arg)) and node.annotation:
            found.append(node.annotation)
        if isinstance(node, ast.FunctionDef) and node.returns:
            found.append(node.returns)
        if isinstance(node, ast.If) and isinstance(node.test, ast.Name) and (
                node.test.id == "TYPE_CHECKING"):
            found.append(node)
    return [((n.lineno, n.col_offset), (n.end_lineno, n.end_col_offset)) for n in found]  # type: ignore[attr-defined]


def _run(tool: Path, folder: Path, mutants: list[Mutant]) -> list[Mutant]:
    """Those that live of some, each tried in a copy of its own."""
    _copy(folder)
    environment = os.environ | {"PYTHONPATH": str(folder / "src"), "NUMBA_DISABLE_JIT": "1",
                                "HYPOTHESIS_DATABASE_FILE": str(folder / "examples")}
    lived = []
    for part in PARTS:
        mine = {m.job: m for m in mutants if m.part == part}
        if not mine:
            continue
        session = folder / f"{part}.sqlite"
        shutil.copy2(folder.parent / f"{part}.sqlite", session)
        with sqlite3.connect(session) as kept:
            marks = ", ".join("?" * len(mine))
            for table in ("mutation_specs", "work_items"):
                kept.execute(f"DELETE FROM {table} WHERE job_id NOT IN ({marks})", list(mine))
        subprocess.run([str(tool), "exec", str(folder.parent / f"{part}.toml"), str(session)],
                       cwd=folder, env=environment, check=True)
        with sqlite3.connect(session) as kept:
            lived += [mine[job] for (job,) in kept.execute(
                "SELECT job_id FROM work_results WHERE test_outcome = 'SURVIVED'")]
    return lived


if __name__ == "__main__":
    sys.exit(main())
