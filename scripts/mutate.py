"""``make mutate``: change the heart in small ways, one at a time, and see whether its tests notice.

Mutants come from Cosmic Ray, a seeded sample of them, as many of each part. Each meets the tests
whose files run the line it changes, the quickest first, in a copy of the tree. Those that live are
listed; ends with 1 where too few died. What lives for a known reason stands in
``tests/mutants.toml``: it counts as living, and is met with ``--anew`` only. What was killed is
not met again as long as the file it changes stays as it is, nor what lived as long as no test
changes either, so that a run may be broken off and gone on with, on another machine too: what each
came to stands in ``tests/fates.tsv``. ``--anew`` meets them all, ``--again`` those that lived with
more patience.
"""

from __future__ import annotations

import argparse
import ast
import hashlib
import json
import os
import random
import re
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import tomllib
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache
from itertools import chain
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

ROOT = Path(__file__).parents[1]
CORE = "src/euhydra/core"
SAMPLE, SEED, LEAST_KILLED = 500, 14, 0.85
PARTS: dict[str, tuple[str, ...]] = {
    "demand": ("demand/crop_water.py", "demand/soil.py", "demand/roots.py"),
    "season": ("season/kernel.py", "season/simulate.py", "season/state.py", "season/sizing.py",
               "season/programme.py", "season/inputs.py"),
    "timing": ("schedule/timing.py", "schedule/settings.py"),
    "storage": ("storage/banks.py", "storage/vessel.py", "storage/sizing.py", "supply/runoff.py",
                "supply/gutter_capacity.py"),
    "hydraulics": ("hydraulics/assemble.py", "hydraulics/drilled.py", "hydraulics/elimination.py",
                   "hydraulics/emitters.py", "hydraulics/friction.py", "hydraulics/junctions.py",
                   "hydraulics/laws.py", "hydraulics/pumps.py", "hydraulics/solver.py",
                   "hydraulics/uniformity.py", "hydraulics/valves.py"),
}
# Lines of compiled loops run unseen: they are run by what runs the lines of these.
COMPILED = {"season/kernel.py": "season/simulate.py",
            "demand/roots.py": "demand/crop_water.py",
            "hydraulics/elimination.py": "hydraulics/junctions.py"}
NO_ANSWERS = ("warm",)  # functions that only have something compiled
# A decorator that only keeps or compiles changes no answer; bits of a float are no arithmetic, and
# whatever fails on them would be no test of it.
LEFT_OUT = re.compile(r"RemoveDecorator|_(BitAnd|BitOr|BitXor|LShift|RShift|Invert)$")
MAKE = """
import json, sys
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator
print(json.dumps([mutate_code(open(path, encoding="utf-8").read(), get_operator(name)(), n)
                  for path, name, n in json.load(sys.stdin)]))
"""


@dataclass(frozen=True)
class Mutant:
    """One change: where it stands and what it is."""

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
        return f"{self.module}: {self.operator.removeprefix('core/')}: {line}"

    @property
    def key(self) -> tuple[str, str, int, int, int]:
        """What tells it from all others of the same files."""
        return self.path, self.operator, self.row, self.column, self.occurrence

    @property
    def module(self) -> str:
        """The file it changes, within core."""
        return self.path.removeprefix(f"{CORE}/")


class Fates:
    """What mutants came to, kept with the state of their file and of the tree."""

    def __init__(self, state: str, *, anew: bool = False) -> None:
        self.file, self.state = ROOT / "tests" / "fates.tsv", state
        self.file.touch()
        lines = self.file.read_text(encoding="utf-8").splitlines()
        self._kept = {} if anew else {(key, module): (fate, tree) for key, module, tree, fate in (
            line.split("\t") for line in lines)}

    def of(self, mutant: Mutant) -> str | None:
        """``killed`` or ``lives``; None of one to be met."""
        fate, tree = self._kept.get((str(mutant.key), _module_state(mutant.path)), (None, ""))
        return None if fate == "lives" and tree != self.state else fate

    def keep(self, mutant: Mutant, fate: str) -> None:
        """Take down what one came to; what is said last holds."""
        module = _module_state(mutant.path)
        self._kept[str(mutant.key), module] = fate, self.state
        with self.file.open("a", encoding="utf-8") as file:
            file.write(f"{mutant.key}\t{module}\t{self.state}\t{fate}\n")

    def tidy(self) -> None:
        """One line for each, in order."""
        lines = sorted(f"{key}\t{module}\t{tree}\t{fate}\n"
                       for (key, module), (fate, tree) in self._kept.items())
        self.file.write_text("".join(lines), encoding="utf-8")


@cache
def _module_state(path: str) -> str:
    return hashlib.sha256((ROOT / path).read_bytes()).hexdigest()[:16]


def main() -> int:
    """Sample, run, count, and list what lives."""
    ask = argparse.ArgumentParser(description=__doc__)
    ask.add_argument("parts", nargs="*", choices=[*PARTS, []], help="all of them without any")
    ask.add_argument("--sample", type=int, default=SAMPLE)
    ask.add_argument("--seed", type=int, default=SEED)
    ask.add_argument("--again", action="store_true", help="those that lived the last time")
    ask.add_argument("--anew", action="store_true", help="whatever was found before")
    ask.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    asked = ask.parse_args()
    tool = Path(sys.executable).parent.parent / "tools" / "bin" / "python"
    known = tomllib.loads((ROOT / "tests" / "mutants.toml").read_text(encoding="utf-8"))
    with tempfile.TemporaryDirectory() as folder:
        parts = asked.parts or list(PARTS)
        every = {part: _mutants(tool, Path(folder), part) for part in parts}
        share = asked.sample // len(parts)
        # Each part is drawn for itself: a change of one leaves the others' sample as it is.
        chosen = [m for found in every.values()
                  for m in random.Random(asked.seed).sample(found, min(share, len(found)))]
        copies = [_copy(Path(folder) / f"worker-{n}") for n in range(asked.workers)]
        fates = Fates(_state(copies[0]), anew=asked.anew)
        meets = [m for m in chosen if fates.of(m) == ("lives" if asked.again else None)
                 and (asked.anew or m.name not in known)]
        with ThreadPoolExecutor(asked.workers) as pool:
            codes = _codes(tool, meets)
            lines, times = _seen(copies, pool)
            for copy in copies:
                (copy / "times.json").write_text(json.dumps(times), encoding="utf-8")
            jobs = [{"path": m.path, "code": code, "loops": m.module in COMPILED,
                     "tests": list(_tests_of(m, lines)), "enough_s": 240.0 if asked.again else 60.0}
                    for m, code in zip(meets, codes, strict=True)]
            list(pool.map(_run, *zip(*[
                (copy, jobs[i::len(copies)], meets[i::len(copies)], fates)
                for i, copy in enumerate(copies)], strict=True)))
    fates.tidy()
    living = [m for m in chosen if fates.of(m) == "lives" or (
        fates.of(m) is None and m.name in known)]
    unlisted = [m for m in living if m.name not in known]
    for mutant in sorted(living, key=lambda m: m.name):
        print(("known  " if mutant.name in known else "LIVES  ") + f"{mutant.name} "
              f"[{mutant.row}:{mutant.column}, {mutant.occurrence}]")
    killed = 1 - len(living) / max(len(chosen), 1)
    print(f"{len(chosen)} mutants of {sum(map(len, every.values()))}: {killed:.1%} killed, "
          f"{len(living)} live, {len(unlisted)} of them not listed.")
    return 0 if killed >= LEAST_KILLED else 1


def _mutants(tool: Path, folder: Path, part: str) -> list[Mutant]:
    """Every mutant of a part that changes what runs."""
    paths = ", ".join(f'"{CORE}/{m}"' for m in PARTS[part])
    config, session = folder / f"{part}.toml", folder / f"{part}.sqlite"
    config.write_text(f"[cosmic-ray]\nmodule-path = [{paths}]\ntimeout = 1\n"
                      "excluded-modules = []\ntest-command = \"true\"\n\n"
                      "[cosmic-ray.distributor]\nname = \"local\"\n", encoding="utf-8")
    subprocess.run([str(tool.with_name("cosmic-ray")), "init", str(config), str(session)],
                   cwd=ROOT, check=True)
    with sqlite3.connect(session) as kept:
        rows = kept.execute(
            "SELECT module_path, operator_name, start_pos_row, start_pos_col, occurrence "
            "FROM mutation_specs").fetchall()
    idle = {path: _idle(ROOT / path) for path in {row[0] for row in rows}}
    found = [Mutant(part, *row) for row in rows if not LEFT_OUT.search(row[1])]
    return sorted((m for m in found if not any(
        a <= (m.row, m.column) < b for a, b in idle[m.path])),
        key=lambda m: (m.path, m.row, m.column, m.operator, m.occurrence))


def _idle(path: Path) -> list[tuple[tuple[int, int], tuple[int, int]]]:
    """Where nothing runs: types behind names, and blocks that only a type checker reads."""
    found: list[Any] = []
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if isinstance(node, (ast.AnnAssign, ast.arg)) and node.annotation:
            found.append(node.annotation)
        if isinstance(node, ast.FunctionDef) and node.returns:
            found.append(node.returns)
        if isinstance(node, ast.FunctionDef) and node.name in NO_ANSWERS:
            found.append(node)
        if isinstance(node, ast.If) and isinstance(node.test, ast.Name) and (
                node.test.id == "TYPE_CHECKING"):
            found.append(node)
    return [((n.lineno, n.col_offset), (n.end_lineno, n.end_col_offset)) for n in found]


def _copy(folder: Path) -> Path:
    """The tree as it is kept, somewhere that may be changed."""
    files = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True,
                           text=True).stdout.split("\0")
    for name in filter(None, files):
        to = folder / name
        to.parent.mkdir(parents=True, exist_ok=True)
        shutil.copy2(ROOT / name, to)
    return folder


def _state(copy: Path) -> str:
    return hashlib.sha256(b"".join(
        f.read_bytes() for folder in ("src", "tests") for f in sorted(
            (copy / folder).rglob("*.py")))).hexdigest()[:16]


def _seen(copies: list[Path], pool: ThreadPoolExecutor
          ) -> tuple[dict[str, dict[str, list[int]]], dict[str, float]]:
    """By test file the lines of core that it runs within functions; what each test takes, s.

    Kept in ``build/`` for as long as no file of the tree changes.
    """
    kept = ROOT / "build" / f"lines-{_state(copies[0])}.json"
    if kept.exists():
        return tuple(json.loads(kept.read_text(encoding="utf-8")))  # type: ignore[return-value]
    found = _traced(copies, pool), _times(copies)
    kept.parent.mkdir(exist_ok=True)
    kept.write_text(json.dumps(found), encoding="utf-8")
    return found


def _traced(copies: list[Path], pool: ThreadPoolExecutor) -> dict[str, dict[str, list[int]]]:
    tests = sorted(str(f.relative_to(ROOT)) for folder in ("core", "reference")
                   for f in (ROOT / "tests" / folder).rglob("test_*.py"))
    shares = [tests[i::len(copies)] for i in range(len(copies))]
    return {test: found for share in pool.map(
        lambda copy, tests: {t: _lines_of(copy, t) for t in tests}, copies, shares)
        for test, found in share.items()}


def _lines_of(copy: Path, test: str) -> dict[str, list[int]]:
    data = copy / "lines.coverage"
    done = subprocess.run(
        [sys.executable, "-m", "coverage", "run", f"--data-file={data}", f"--source={CORE}", "-m",
         "pytest", "-W", "ignore", "-p", "no:cacheprovider",
         f"--junitxml={copy / 'times' / Path(test).stem}.xml", test],
        cwd=copy, env=_home(copy), capture_output=True, text=True)
    if done.returncode:
        raise SystemExit(f"{test} fails before anything is changed:\n{done.stdout[-2000:]}")
    told = subprocess.run([sys.executable, "-m", "coverage", "json", f"--data-file={data}", "-o",
                           "-", "-q"], cwd=copy, check=True, capture_output=True, text=True).stdout
    return {name.removeprefix(f"{CORE}/"): list(chain.from_iterable(
        part["executed_lines"] for key, part in file["functions"].items() if key))
        for name, file in json.loads(told)["files"].items()}


def _times(copies: list[Path]) -> dict[str, float]:
    """What each test took, s."""
    cases = [case for copy in copies for report in copy.glob("times/*.xml")
             for case in ElementTree.parse(report).getroot().iter("testcase")]
    return {f"{case.attrib['classname'].replace('.', '/')}.py::{case.attrib['name']}":
            float(case.attrib["time"]) for case in cases}


def _home(copy: Path) -> dict[str, str]:
    return os.environ | {"PYTHONPATH": str(copy / "src"),
                         "HYPOTHESIS_DATABASE_FILE": str(copy / "examples")}


def _codes(tool: Path, chosen: list[Mutant]) -> list[str]:
    """What stands in each mutant's file."""
    asked = [(str(ROOT / m.path), m.operator, m.occurrence) for m in chosen]
    codes: list[str] = json.loads(subprocess.run(
        [str(tool), "-c", MAKE], input=json.dumps(asked), check=True, capture_output=True,
        text=True).stdout)
    return codes


def _tests_of(mutant: Mutant, seen: dict[str, dict[str, list[int]]]) -> Iterator[str]:
    """The test files that run a mutant's line; what stands outside functions every file runs."""
    by = COMPILED.get(mutant.module, "")
    rows = _statement(mutant)
    for test, lines in seen.items():
        mine = set(lines.get(mutant.module, ()))
        if mine & rows if rows and not by else mine or lines.get(by):
            yield test


def _statement(mutant: Mutant) -> set[int]:
    """The lines of the statement that a mutant changes, within a function; else none."""
    tree = ast.parse((ROOT / mutant.path).read_text(encoding="utf-8"))
    functions = [n for n in ast.walk(tree) if isinstance(n, ast.FunctionDef)]
    inner = [n for f in functions for n in ast.walk(f) if isinstance(n, ast.stmt) and n is not f
             and n.lineno <= mutant.row <= (n.end_lineno or n.lineno)]
    least = min(inner, key=lambda n: (n.end_lineno or n.lineno) - n.lineno, default=None)
    return set(range(least.lineno, (least.end_lineno or least.lineno) + 1)) if least else set()


def _run(copy: Path, jobs: list[dict[str, Any]], mutants: list[Mutant], fates: Fates) -> None:
    """Each in turn meets its tests in a copy of the tree."""
    if not jobs:
        return
    (copy / "jobs.json").write_text(json.dumps(jobs), encoding="utf-8")
    with subprocess.Popen([sys.executable, str(ROOT / "scripts" / "meet_mutants.py"), "jobs.json"],
                          cwd=copy, env=_home(copy), stdout=subprocess.PIPE, text=True) as running:
        for said, mutant in zip(running.stdout or (), mutants, strict=False):
            fate, took = re.fullmatch(r"(\S+) ([\d.]+)\n", said).groups()  # type: ignore[union-attr]
            print(f"{fate:8} {float(took):6.1f} s  {mutant.name}", file=sys.stderr, flush=True)
            fates.keep(mutant, fate)
    if running.returncode:
        raise SystemExit("The tests fail before anything is changed.")


if __name__ == "__main__":
    sys.exit(main())
