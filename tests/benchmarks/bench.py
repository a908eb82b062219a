"""Speed, as ratios in one run: ``make bench``. Not part of the suite."""

from __future__ import annotations

import asyncio
import datetime as dt
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from starlette.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parent.parent))
from deciding import helps, learns, wrong
from frames import frames

from drawn import KILN_YARD, add_drawn
from epanet import ENepanet
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.editing.file import from_json
from euhydra.core.editing.relaying import relaid
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Garden
from euhydra.core.hydraulics.network import Emitter, NetNode, Network, Pipe
from euhydra.core.hydraulics.solver import solve
from euhydra.core.hydraulics.surfaces import zone_levels
from euhydra.core.hydraulics.zone_flow import solve_zone
from euhydra.core.log import Entry
from euhydra.core.season.inputs import world_of
from euhydra.core.season.simulate import run_season
from euhydra.data import library
from euhydra.exports.inp import as_inp
from euhydra.serving import seldom_collected
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.store.log import Log
from euhydra.web import charts, paper
from euhydra.web.app import create_app
from euhydra.web.fields import Fields
from euhydra.web.press import Press
from euhydra.web.sheet import Sheet
from gardens import poured
from plans import sixty_beds


def long_log() -> tuple[float, float]:
    """Keep's slowest view with an empty log, and with a thousand entries over ten seasons."""
    with tempfile.TemporaryDirectory() as folder:
        database = Database(Path(folder) / "g.sqlite3")
        gardens = Gardens(database, library())
        add_drawn(gardens)
        client = TestClient(create_app(gardens), base_url="http://localhost")

        def slowest() -> float:
            views = (f"/g/kiln-yard/keep?view={view}" for view in ("log", "season", "year", "care"))
            return max(best(lambda path=path: client.get(path), 3) for path in views)

        client.get("/g/kiln-yard/keep")
        empty = slowest()
        kinds = (("dip", "barrels", 0.5, ""), ("flow", "zone-bed-1", 45.0, ""),
                 ("rain", "", 7.0, ""), ("soil", "bed-1", None, "dry"),
                 ("changed", "zone-bed-1", None, ""))
        Log(database).put("kiln-yard", [
            Entry(f"entry-{i:06d}", dt.date(2016 + i // 100, 4 + i % 6, 1 + i % 28), *kinds[i % 5])
            for i in range(1000)])
        return empty, slowest()


def best(run: Callable[[], object], times: int = 7) -> float:
    """Least of several runs, in milliseconds."""
    spent = []
    for _ in range(times):
        start = time.perf_counter()
        run()
        spent.append(1000 * (time.perf_counter() - start))
    return min(spent)


def field_of(outlets: int) -> Network:
    """A tree: a main with laterals of 50 plain outlets each."""
    kind = library().outlets["plain-2"]
    nodes, pipes, emitters = [NetNode("tank", 3.0, 12.0)], [], []
    before = "tank"
    for row in range(outlets // 50):
        joint = f"j{row}"
        nodes.append(NetNode(joint, 0.0))
        pipes.append(Pipe(f"m{row}", before, joint, 1.0, 40.0))
        before = here = joint
        for i in range(50):
            node = f"n{row}-{i}"
            nodes.append(NetNode(node, 0.0))
            pipes.append(Pipe(f"p{row}-{i}", here, node, 0.3, 13.6))
            emitters.append(Emitter(f"e{row}-{i}", node, kind))
            here = node
    return Network(tuple(nodes), tuple(pipes), (), tuple(emitters))


def epanet_in_process(network: Network) -> float:
    """The EPANET 2 engine's own hydraulic solve of the exported file, reading left out."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "net.inp"
        path.write_text(as_inp(network, "bench"), encoding="ascii")
        engine = ENepanet()
        engine.ENopen(str(path), f"{folder}/net.rpt", f"{folder}/net.bin")
        engine.ENopenH()

        def run() -> None:
            engine.ENinitH(0)
            engine.ENrunH()

        spent = best(run)
        engine.ENcloseH()
        engine.ENclose()
        return spent


def drag_over_http() -> float:
    """What the ground plan asks of the server while a bed is dragged."""
    with tempfile.TemporaryDirectory() as folder:
        kept = Gardens(Database(Path(folder) / "g.sqlite3"), library())
        add_drawn(kept)
        client = TestClient(create_app(kept), base_url="http://localhost")
        places = iter(np.linspace(0.1, 2, 50))

        def ask() -> None:
            said = client.get("/g/kiln-yard/plan/live", params={
                "do": "move", "of": "plots/bed-1", "east": float(next(places)), "north": 0})
            said.raise_for_status()

        return best(ask)


def printed(garden: Garden) -> float:
    """A whole garden on paper: reckoned, its page written, set by the app's own press."""
    async def never_left() -> bool:
        return False

    def whole() -> None:
        asyncio.run(Press().pdf(lambda: paper.whole_garden(
            assess(garden, library()), dt.date(2026, 7, 14)), never_left))

    return best(whole, 3)


SIXTY = "60 beds"
EDITS: dict[str, tuple[str, str, Callable[[int], str]]] = {
    "Place": ("place", "site/altitude_m", lambda i: f"{100 + i} m"),
    "Catch": ("catch", "roofs/workshop/width_m", lambda i: f"{6 + i / 10} m"),
    "Store": ("store", "stores/barrels/count", lambda i: str(1 + i % 5)),
    "Grow": ("grow", "plots/bed-1/shade_h", lambda i: f"{3 + i / 4} h"),
    "Lay": ("lay", "plots/bed-1/length_m", lambda i: f"{3 + i / 50} m"),
    "Push": ("push", "stores/barrels/stand_m", lambda i: f"{0.4 + i / 100} m"),
    "Time": ("time", "longer", lambda i: f"{i} %"),
    "Prove": ("prove", "stores/barrels/volume_l", lambda i: f"{200 + i} L")}


def edits_over_http(one_pass: Callable[[], object]) -> dict[str, float]:
    """What one edit at each station takes, posted, saved, reckoned and its page answered.

    In passes, each timed between two edits: a machine is slower at one time than at another.
    """
    with tempfile.TemporaryDirectory() as folder:
        kept = Gardens(Database(Path(folder) / "g.sqlite3"), library())
        add_drawn(kept)
        big = kept.add(sixty_beds(library()).model_copy(update={"id": "sixty"}), "Sixty beds").id
        origin = "http://localhost"
        client = TestClient(create_app(kept), base_url=origin, headers={
            "Origin": origin, "X-Fragment": "1"})  # as the page's own script asks

        def spent(garden: str, station: str, path: str, typed: Callable[[int], str]) -> float:
            turns = iter(range(1, 50))

            def ask() -> None:
                client.post(f"/g/{garden}/edit", data={
                    "path": path, "typed": typed(next(turns)), "station": station}
                    ).raise_for_status()

            client.get(f"/g/{garden}/{station}").raise_for_status()
            edits, passes = [], []
            for _ in range(12):
                passes.append(best(one_pass, 1))
                edits.append(best(ask, 1))
            return min(edits) / min(passes)

        found = {name: spent("kiln-yard", *edit) for name, edit in EDITS.items()}
        return found | {SIXTY: spent(big, *EDITS["Lay"])}


def main() -> None:
    """Print each figure beside its bound."""
    seldom_collected()  # as the app is served
    tables = library()
    large = field_of(2000)
    ours, theirs = best(lambda: solve(large)), epanet_in_process(large)
    print(f"2,000 outlets: {ours:.1f} ms, EPANET {theirs:.1f} ms, ratio {ours / theirs:.2f} "
          "(bound 1)")
    garden = field_of(150)
    print(f"150 outlets on one line: {best(lambda: solve(garden)):.1f} ms (bound 20)")
    kiln = from_json(KILN_YARD, tables)
    low = {z.id: zone_levels(kiln, z)["half"] for z in kiln.zones}
    drinks = assess(kiln, tables).demand.drinks
    whole = best(lambda: [solve_zone(kiln, tables, z, low[z.id], drinks) for z in kiln.zones])
    print(f"Kiln Yard, all {len(kiln.zones)} zones, {sum(o.points for o in kiln.outlets)} "
          f"outlets: {whole:.1f} ms (bound 20)")
    rng = np.random.default_rng(1)
    flow, need = rng.random((30, 365)) * 50, rng.random((30, 365)) * 40
    sizes = np.linspace(100, 6000, 60)
    array = np.zeros((30 * 365, 60))

    def pass_over() -> None:
        np.minimum(array + flow.reshape(-1, 1) - need.reshape(-1, 1), sizes)

    one_pass = best(pass_over)
    warm = assess(kiln, tables)
    warm.station("catch")
    widths = iter(np.linspace(5, 9, 200))

    def drag() -> None:
        edit = SetValue("roofs/workshop/width_m", float(next(widths)))
        then = warm.revised(edit.apply(kiln, tables))
        charts.sizing_curve(Sheet(then, Fields(then.garden, tables)))

    dragged = best(drag, 3)
    print(f"a roof edge dragged, to the new sizing curve: {dragged:.0f} ms, "
          f"{dragged / one_pass:.0f} U (bound 120; U is the one NumPy pass below)")
    big = sixty_beds(tables)
    outlets = sum(o.points * o.each for o in big.outlets)
    laid = best(lambda: relaid(big, tables), 3)
    print(f"60 beds, {outlets:,} outlets laid: {laid:.0f} ms (bound 2000)")
    follow = drag_over_http()
    print(f"a bed of Kiln Yard dragged, to new litres and lengths over HTTP: {follow:.0f} ms "
          "(bound 150)")
    empty, full = long_log()
    print(f"Keep with a thousand entries over ten seasons: {full:.0f} ms, {full / empty:.1f} of an "
          "empty log (bound 4)")
    ready = assess(kiln, tables)
    world = (ready.schedule.settings, world_of(ready.season_inputs))[1]
    season = best(lambda: run_season(world), 5)
    print(f"{ready.years} years of Kiln Yard by day, the timer as set: {season:.0f} ms, "
          f"{season / one_pass:.1f} U (bound 15; U is one NumPy pass over 60 sizes, "
          f"{one_pass:.1f} ms)")
    curve = best(lambda: assess(kiln, tables).sizes.curve, 3)
    print(f"the curve through that season, from nothing: {curve:.0f} ms, {curve / one_pass:.0f} U "
          "(bound 120)")
    edited = iter(range(1, 40))

    def edit() -> None:
        change = SetValue("stores/barrels/count", next(edited) % 9 + 1)
        run = ready.revised(change.apply(kiln, tables))
        for station in STATIONS:
            run.station(station)

    print(f"an edit of Kiln Yard, every station's figures: {best(edit, 5) / one_pass:.0f} U "
          "(bound 35 with its page)")
    helped, gardens = helps(tables)
    print(f"what would help most on Kiln Yard, {gardens} gardens: {helped / 1000:.1f} s, "
          f"{helped / best(pass_over):.0f} U (bound 4000)")
    first, three, readings, each = wrong(tables)
    print(f"400 made-up faults of the demo gardens: found first {first:.0%} (bound 80 %), among "
          f"three {three:.1%} (95 %), {readings:.2f} readings (3); all that may be wrong, weighed "
          f"for a zone or a bank: {each / best(pass_over):.0f} U")
    held, learning = learns(tables)
    print("what readings teach: the true value in the 90 % range (bound 85 %): "
          + ", ".join(f"{kind} {share:.0%}" for kind, share in held.items())
          + f"; a season's log of Kiln Yard: {learning / best(pass_over):.0f} U")
    for what, passes in edits_over_http(pass_over).items():
        print(f"{what}, edited over HTTP and its page answered: {passes:.0f} U "
              f"(bound {150 if what == SIXTY else 35})")
    pdf = printed(kiln)
    print(f"Kiln Yard on paper, from its page to the PDF: {pdf / 1000:.1f} s, "
          f"{pdf / best(pass_over):.0f} U (bound 800)")
    for name, (a_second, longest) in frames(tables).items():
        print(f"a year of {name} played: {a_second:.0f} frames a second, the longest {longest:.0f} "
              "ms (60, at most 50)")
    cold = best(lambda: [assess(kiln, tables).station(s) for s in STATIONS], 3)
    first = best(lambda: assess(poured(tables), tables).station("push"), 3)
    print(f"every station of Kiln Yard from nothing: {cold:.0f} ms; Push alone: {first:.0f} ms")


if __name__ == "__main__":
    main()
