"""A garden on the hose alone, or on a tank filled by hand, meets no barrel on any page."""

import html
import re

import pytest

from euhydra.core.editing.edits import Remove
from euhydra.web.panes import VIEWS, views_of
from fifteen import fifteen
from gardens import poured

SAID = re.compile(r"barrel|overflow|drinking water|diverter|gutters|from the stores", re.IGNORECASE)
# Where a store, a roof or a tap's fittings may be asked for by name.
OFFERED = ("No store: the tap feeds", "A barrel under a downspout", "Add a barrel",
           "Where the overflow", "barrel T tap")


@pytest.fixture
def hose(client, gardens, library):
    garden = poured(library, beds=(), pots=10, tap=True)
    for path in ("roofs/roof", "stores/barrels"):
        garden = Remove(path).apply(garden, library)
    gardens.add(garden, "made")
    return client, garden


def words(client, garden, station, view):
    page = client.get(f"/g/{garden.id}/{station}?view={view}").text
    main = re.sub(r"<script.*?</script>|<template.*?</template>", "", page, flags=re.DOTALL)
    return html.unescape(re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", main)))


@pytest.mark.parametrize("station", [s for s in VIEWS if s != "store"])
def test_no_view_of_a_hose_speaks_of_a_barrel(hose, station):
    client, garden = hose
    page = client.get(f"/g/{garden.id}/{station}").text
    assert 'aria-label="Ways to look"' in page or len(views_of(station, garden)) == 1
    for view in (v.key for v in views_of(station, garden)):
        said = words(client, garden, station, view)
        for known in OFFERED:
            said = said.replace(known, "")
        found = [said[max(m.start() - 40, 0):m.end() + 30] for m in SAID.finditer(said)]
        assert found == [], (station, view)


def test_no_view_of_a_tank_filled_by_hand_speaks_of_a_barrel(client, gardens, library):
    """What holds its water is a tank, on every station, on paper, in the log and on the plan."""
    garden = fifteen()["eight float pots"](library).model_copy(update={"id": "tank"})
    gardens.add(garden, "Tank")
    assert garden.vessel == "tank"
    for station in VIEWS:
        for view in (v.key for v in views_of(station, garden)):
            said = words(client, garden, station, view)
            assert "barrel" not in said.lower(), (station, view)
    assert "The tanks through the year" in words(client, garden, "prove", "tank")
