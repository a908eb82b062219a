"""A walk of random edits of every kind, at their bounds: after each the garden opens everywhere."""

from __future__ import annotations

import random
from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel
from starlette.testclient import TestClient

from euhydra.core.assessment.assess import STATIONS
from euhydra.core.editing.fields import Measure, NoSuchValue, measure_at, with_choices
from euhydra.core.editing.file import from_json
from euhydra.core.editing.hand_laying import HAND_FITTINGS
from euhydra.core.editing.makers import MAKERS
from euhydra.core.editing.placement import placed
from euhydra.core.garden.model import Garden
from euhydra.store.gardens import Gardens
from euhydra.web import offers
from euhydra.web.panes import VIEWS

ODD = ("", "0", "-1", "1e9", "nan", "½", "3 ft 6 in", "55 gal", "名", "=1+1", "a" * 90, "02-29",
       "0, 0; 6, 0; 6, 4; 0, 4", "0, 0; 1, 1; 0, 1; 1, 0", "0 L/h, 9 m; 900 L/h, 2 m")
PARTS = ("plantings", "downspouts", "basins")


def paths_in(part: BaseModel, way: str = "") -> Iterator[str]:
    """Every path of a value in a garden that a field could be made for."""
    for key in type(part).model_fields:
        if key in ("nodes", "lines", "outlets", "id", "holdings"):
            continue
        value, path = getattr(part, key), f"{way}{key}"
        if isinstance(value, BaseModel):
            yield from paths_in(value, f"{path}/")
        elif isinstance(value, tuple) and value and all(
                isinstance(v, BaseModel) and hasattr(v, "id") for v in value):
            for thing in value:
                yield from paths_in(thing, f"{path}/{thing.id}/")
        elif isinstance(value, tuple) and value and not isinstance(value[0], BaseModel):
            yield from (f"{path}/{i}" for i in range(len(value)))
        else:
            yield path


class Walk:
    """Steps over one garden, through the routes alone."""

    def __init__(self, client: TestClient, gardens: Gardens, garden_id: str, seed: int) -> None:
        self.client, self.gardens, self.id = client, gardens, garden_id
        self.dice = random.Random(seed)
        self.done: list[str] = []

    @property
    def garden(self) -> Garden:
        """As it stands."""
        return self.gardens.load(self.id).garden

    def step(self) -> None:
        """One act of any kind; then the garden opens, and so does one view of some station."""
        acts = (self._field, self._field, self._field, self._bound, self._thing, self._plan,
                self._remedy, self._other)
        address, form = self.dice.choice(acts)()
        self.done.append(f"{address} {form}")
        answer = self.client.post(f"/g/{self.id}/{address}", data=form, follow_redirects=False,
                                  headers={"X-Fragment": "1"})
        assert answer.status_code in (200, 303, 404, 409, 422), self.told(answer)
        self.opens(every=False)

    def opens(self, *, every: bool) -> None:
        """Pages, export and the file answer; with ``every`` view of every station."""
        kept = self.gardens.load(self.id)
        assert kept.held_back is None, self.told(kept.held_back)
        told = self.client.get(f"/g/{self.id}/export/garden.json")
        assert told.status_code == 200, self.told(told)
        assert from_json(told.text, self.gardens.library) == kept.garden, self.told("export")
        views = [(s, v.key) for s in STATIONS for v in VIEWS[s]]
        for station, view in views if every else self.dice.sample(views, 1):
            page = self.client.get(f"/g/{self.id}/{station}?view={view}")
            assert page.status_code == 200, f"{station} {view}: {self.told(page)}"

    def undoes(self) -> None:
        """Undo and redo each leave a garden that opens."""
        for way in ("undo", "redo"):
            answer = self.client.post(f"/g/{self.id}/{way}", follow_redirects=False)
            assert answer.status_code == 303, self.told(answer)
            self.opens(every=False)

    def told(self, what: Any) -> str:
        """What went wrong, and the acts that led to it."""
        words = what if isinstance(what, str) else (
            f"{what.status_code} {what.text[:600]}" if hasattr(what, "status_code") else repr(what))
        return f"{self.id}: {words}\n" + "\n".join(self.done[-6:])

    def _measure(self) -> tuple[str, Measure] | None:
        path = self.dice.choice(list(paths_in(self.garden)))
        try:
            return path, with_choices(measure_at(self.garden, path), self.gardens.library)
        except NoSuchValue:
            return None

    def _field(self) -> tuple[str, dict[str, str]]:
        found = self._measure()
        if found is None:
            return self._field()
        path, measure = found
        if measure.kind == "choice":
            typed = self.dice.choice([*measure.choices, "x"])
        elif measure.kind == "flag":
            typed = self.dice.choice(["yes", "no"])
        elif measure.high > measure.low:
            low, high = measure.low, measure.high
            typed = f"{self.dice.choice([low, high, low + (high - low) * self.dice.random()])!r}"
        else:
            typed = self.dice.choice(ODD)
        return "edit", {"path": path, "typed": typed, "station": self.dice.choice(tuple(STATIONS))}

    def _bound(self) -> tuple[str, dict[str, str]]:
        """A step up or down, or something odd."""
        found = self._measure()
        path = found[0] if found else "name"
        return "edit", {"path": path, "typed": self.dice.choice(ODD),
                        "step": self.dice.choice(["", "up", "down"]), "station": "lay"}

    def _things(self) -> list[str]:
        return [thing.path for thing in placed(self.garden)]

    def _thing(self) -> tuple[str, dict[str, str]]:
        garden = self.garden
        under = [f"plots/{p.id}/plantings" for p in garden.plots]
        under += [f"roofs/{r.id}/downspouts" for r in garden.roofs]
        under += [f"drains/{d.id}/basins" for d in garden.drains]
        inner = [f"{way}/{part.id}" for way, parts in (
            *((f"plots/{p.id}/plantings", p.plantings) for p in garden.plots),
            *((f"roofs/{r.id}/downspouts", r.downspouts) for r in garden.roofs)) for part in parts]
        if self.dice.random() < 0.6:
            return "things", {"add": self.dice.choice([*MAKERS, *under]), "station": "grow"}
        return "things", {"remove": self.dice.choice([*self._things(), *inner]), "station": "grow"}

    def _plan(self) -> tuple[str, dict[str, str]]:
        things = self._things()
        lines = [f"line:{line.id}" for line in self.garden.lines]
        rows = [f"plots/{p.id}/rows/row{n}" for p in self.garden.plots for n in (1, 2)]
        do = self.dice.choice([
            "move", "size", f"turn:{self.dice.choice([-90, 15, 360])}", "copy", "remove",
            f"align:{self.dice.choice(['west', 'middle-north'])}", "spread:east", "pin", "unpin",
            "row", "dripper", "anew", "anew:all", f"draw:{self.dice.choice(list(MAKERS))}",
            f"fitting:{self.dice.choice(HAND_FITTINGS)}"])
        many = self.dice.choice([1, 1, 1, 3])
        of = self.dice.sample([*things, *things, *lines, *rows],
                              k=min(many, len(things)))
        if do.startswith("fitting"):
            of = self.dice.sample(lines, 1)
        size = [self.dice.choice([-1e3, -0.5, 0.0, 0.3, 2.4, 25.0, 1e3]) for _ in range(4)]
        return "plan", {"do": do, "of": ",".join(of), "station": "lay",
                        **dict(zip(("east", "north", "length", "width"), map(str, size),
                                   strict=True))}

    def _remedy(self) -> tuple[str, dict[str, str]]:
        shelf = self.client.app.state.shelf  # type: ignore[attr-defined]
        station = self.dice.choice([s for s in STATIONS if s != "prove"])
        report = shelf.take(self.id).assessment.station(station)
        offered = [f"{f.rule}:{r.key}" for f in report.findings for r in f.remedies]
        assert all(offers.find_remedy(report, name) for name in offered)
        return "remedy", {"remedy": self.dice.choice(offered or ["none:none"]), "station": station}

    def _other(self) -> tuple[str, dict[str, str]]:
        garden, dice = self.garden, self.dice
        store = garden.stores[0].id if garden.stores else "none"
        pumps = list(self.gardens.library.pumps)
        return dice.choice([
            ("undo", {}), ("undo", {}), ("redo", {}), ("units", {}),
            ("pump", {"store": store, "kind": dice.choice(pumps)}),
            ("more", {"count": str(dice.choice([1, 9, 30])), "beside": garden.plots[0].id}),
            ("parts", {"part": "elbows", "what": "have", "typed": dice.choice(ODD)}),
            ("months", {"pasted": "rain " + " ".join(["40"] * 12)})])
