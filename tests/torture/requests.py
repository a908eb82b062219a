"""Everything that can be typed, drawn, uploaded or asked for."""

from __future__ import annotations

import io
import json
import random
import traceback
import urllib.parse
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

from fastapi.routing import APIRoute
from PIL import Image

from euhydra.core.assessment.assess import STATIONS
from euhydra.core.editing.file import from_json, to_json
from euhydra.data import garden_text
from euhydra.web.pictures import BadPicture, photo_of
from gardens import any_garden
from torture.ground import DEMO, LIBRARY, client_on, demo
from walk import ODD, Walk


def walk(share: float, folder: Path, faults: list[str]) -> str:
    """Random edits of every kind at their bounds, every garden opened after each."""
    done, wanted, seed = 0, int(5000 * share), 0
    while done < wanted:
        seed += 1
        gardens = demo(folder, f"walk-{seed}.sqlite3")
        there = [*DEMO, gardens.add(any_garden(LIBRARY, seed), "Any garden").id]
        steps = Walk(client_on(gardens), gardens, there[seed % 4], seed)
        try:
            for _ in range(50):
                steps.step()
                done += 1
            steps.undoes()
            steps.opens(every=True)
        except Exception:
            faults.append(f"walk {seed}: {traceback.format_exc(limit=-3)[-1500:]}")
    return f"{done} random edits over {seed} gardens, each followed by a page and the file"


def mutated(tree: object, dice: random.Random) -> object:
    """A JSON tree with one place in it changed."""
    if isinstance(tree, dict) and tree and dice.random() < 0.99:
        key = dice.choice(list(tree))
        return {**tree, key: mutated(tree[key], dice)}
    if isinstance(tree, list) and tree and dice.random() < 0.96:
        at = dice.randrange(len(tree))
        return [*tree[:at], mutated(tree[at], dice), *tree[at + 1:]]
    if isinstance(tree, bool):
        return not tree
    if isinstance(tree, (int, float)) and dice.random() < 0.8:
        return dice.choice([0, tree / 2, tree * 2, tree * 10, -tree, tree + 1e-9])
    if isinstance(tree, str) and dice.random() < 0.5:
        return tree[::-1] if dice.random() < 0.3 else tree
    return dice.choice([
        None, "", 0, -1, 1e9, -1e9, 1e308, True, [], {}, "x" * 200, "tomato", [tree], [tree, tree],
        tree, 0.5, "=1+1", "\ud800" if dice.random() < 0.1 else "名"])


def mutants(share: float, folder: Path, faults: list[str]) -> str:
    """Files changed in a place or two: refused in words, or opened and every station shown."""
    gardens, told, dice = demo(folder), Counter(), random.Random(7)
    client = client_on(gardens)
    trees = [json.loads(to_json(from_json(garden_text(name), LIBRARY))) for name in DEMO]
    for n in range(int(10_000 * share)):
        tree = dice.choice(trees)
        if dice.random() < 0.5:  # lines are laid anew, so that plots and stores may differ more
            bare = {part: [] for part in ("nodes", "lines", "fittings", "outlets", "zones")}
            tree = {**tree, "garden": {**tree["garden"], **bare}}
        for _ in range(dice.choice([1, 1, 2, 3])):
            tree = (mutated(tree, dice) if dice.random() < 0.03 else
                    {**tree, "garden": mutated(tree["garden"], dice)})
        try:
            text = json.dumps(tree)
            answer = client.post("/import", files={"file": ("m.json", text.encode())})
            told[answer.status_code] += 1
            if answer.status_code == 303:
                there = answer.headers["location"].split("/")[2]
                for station in (dice.choice(tuple(STATIONS)), "push"):
                    page = client.get(f"/g/{there}/{station}")
                    if page.status_code != 200:
                        raise AssertionError(f"{station} answered {page.status_code}")
                client.post(f"/g/{there}/delete")
            elif answer.status_code not in (413, 422):
                raise AssertionError(f"import answered {answer.status_code}")
        except Exception:
            faults.append(f"mutant {n}: {traceback.format_exc(limit=-3)[-1200:]}")
    return f"{sum(told.values())} changed files: {dict(told)}"


def fuzz(share: float, folder: Path, faults: list[str]) -> str:
    """Requests over every route with what a person could type, and much that none would."""
    gardens, told, dice = demo(folder), Counter(), random.Random(11)
    client = client_on(gardens)
    routes = [(route.path, method, [p.name for p in route.dependant.body_params],
               [p.name for p in route.dependant.query_params])
              for room in client.app.router.routes for route in _routes(room)
              for method in sorted(route.methods)]
    words = [*ODD, "metric", "us", "place", "store", "stores/barrels/stand_m", "2026-05-01", "rain",
             "plots/bed-1", "roofs/workshop/width_m", "1", "true", "[", "../..", "%00", "\x00"]
    # What takes its time is asked for seldom.
    slow = ("garden.pdf", "labels.pdf")
    for n in range(int(20_000 * share)):
        path, method, body, query = dice.choice(routes)
        if path.endswith(slow) and dice.random() < 0.98:
            continue
        for part in ("garden_id", "station", "zone_id", "table", "entry", "device"):
            known = {"garden_id": [*DEMO, "moon", "x" * 300], "station": [*STATIONS, "moon"],
                     "zone_id": ["zone-bed-1", "no"], "table": ["plots", "no"],
                     "entry": ["abcdefgh", "no"], "device": ["timer", "no"]}[part]
            path = path.replace("{" + part + "}", urllib.parse.quote(dice.choice(known)))
        data = {name: dice.choice(words) for name in body if dice.random() < 0.8}
        looks = (*query, "view", "sel", "month", "try", "zone", "day", "away", "other", "rained",
                 "since")
        asked = {name: dice.choice(words) for name in looks if dice.random() < 0.3}
        files = {"file": ("f", dice.randbytes(dice.choice([0, 20, 3000])))} if (
            "file" in data or dice.random() < 0.05) else None
        data.pop("file", None)
        try:
            answer = _sent(client, dice, method, path, asked, data, files)
            told[answer.status_code] += 1
            if answer.status_code >= 500 and answer.status_code not in (501, 503):
                raise AssertionError(f"{method} {path} {asked} {data}: {answer.status_code}")
        except Exception:
            faults.append(f"request {n}: {traceback.format_exc(limit=-2)[-1200:]}")
    for garden in gardens.listed():
        if gardens.load(garden.id).held_back:
            faults.append(f"{garden.id} is held back")
    return f"{sum(told.values())} requests over {len(routes)} routes: {dict(told)}"


def _sent(client, dice, method, path, asked, data, files):
    """An answer to what a browser sends, or to what no browser would."""
    way = dice.random()
    if method == "GET":
        return client.get(path, params=asked)
    if way < 0.1:
        return client.post(path, content=dice.randbytes(200),
                           headers={"content-type": "application/json"})
    if way < 0.2:
        return client.post(path, json={"ticks": [{"step": "a", "done": True}], **data})
    return client.post(path, params=asked, data=data, files=files)


def _routes(room: object) -> Iterator[APIRoute]:
    """The routes in a router, however deep."""
    if isinstance(room, APIRoute):
        yield room
    inner = getattr(room, "original_router", None) or getattr(room, "router", None)
    for route in getattr(inner, "routes", []) or []:
        yield from _routes(route)


def pictures(share: float, folder: Path, faults: list[str]) -> str:
    """Pictures spoilt in every way: kept, or refused in words."""
    dice, told = random.Random(3), Counter()
    samples = []
    for kind in ("JPEG", "PNG", "WEBP"):
        out = io.BytesIO()
        Image.effect_mandelbrot((64, 48), (-2, -1, 1, 1), 30).convert("RGB").save(
            out, kind, progressive=True)
        samples.append(out.getvalue())
    for n in range(int(12_000 * share)):
        data = bytearray(dice.choice(samples))
        for _ in range(dice.choice([1, 2, 8, 60])):
            data[dice.randrange(len(data))] = dice.randrange(256)
        cut = data[:dice.randrange(len(data))] if dice.random() < 0.3 else data
        try:
            photo_of(bytes(cut), "p", "entry-0001")
            told["kept"] += 1
        except BadPicture:
            told["refused"] += 1
        except BaseException:
            faults.append(f"picture {n}: {traceback.format_exc(limit=-2)[-800:]}")
    return f"{sum(told.values())} spoilt pictures: {dict(told)}"
