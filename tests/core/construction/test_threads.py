"""Hose thread, pipe thread and barb along every head, and pipe of unlike sizes."""

from itertools import pairwise

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.joints import (
    MATES,
    NAMES,
    adapter,
    head_assembly,
    own_head,
    reducers,
)
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.editing.file import from_json
from euhydra.core.editing.values import SetValue
from euhydra.data import garden_text
from gardens import poured


@pytest.mark.parametrize(("outlet", "inlet", "wanted"), [
    ("hose-m", "hose-f", None), ("pipe-m", "pipe-f", None), ("barb", "barb", None),
    ("", "hose-f", None),
    ("pipe-m", "hose-f", "Adapter, pipe thread, female, to hose thread, male"),
    ("hose-m", "pipe-f", "Adapter, hose thread, female, to pipe thread, male"),
    ("hose-m", "hose-m", "Adapter, hose thread, female, to hose thread, female")])
def test_what_joins_two_ends(outlet, inlet, wanted):
    found = adapter(outlet, inlet)
    assert (found and found.name) == wanted
    if found:
        assert MATES[outlet] == found.inlet
        assert MATES[found.outlet] == inlet


def test_every_end_of_the_table_is_known(library):
    for kind in library.fittings.values():
        assert {kind.inlet, kind.outlet} <= {"", *NAMES}, kind.key


@pytest.mark.parametrize("name", ["kiln-yard", "balcony", "plot-27"])
def test_every_joint_of_every_head_fits(library, name):
    garden = from_json(garden_text(name), library)
    for zone in garden.zones:
        head = head_assembly(garden, library, zone)
        for one, other in pairwise(head):
            assert not one.outlet or not other.inlet or MATES[one.outlet] == other.inlet
        assert head[-1].outlet == "barb"


def test_a_tap_s_head_is_in_the_order_of_the_trade_and_wants_no_adapter(library):
    """Timer, backflow preventer, filter, regulator, tubing adapter: common practice."""
    garden = from_json(garden_text("balcony"), library)
    roles = [p.role for p in head_assembly(garden, library, garden.zones[0])]
    assert [r for r in roles if r != "splitter"] == [
        "timer", "backflow", "filter", "regulator", "adapter"]


def test_a_barrel_s_spigot_is_joined_to_a_hose_thread_once(library):
    """The barrel's spigot and the hose rarely share a thread: common practice."""
    garden = poured(library, pots=4)
    assert len(garden.zones) > 2
    heads = [own_head(garden, library, zone) for zone in garden.zones]
    assert sum(part.role == "thread" for head in heads for part in head) == 1
    (line,) = (p for p in parts_list(garden, library) if p.key == "thread-adapter")
    assert line.quantity == 1
    large = SetValue(f"zones/{garden.zones[0].id}/filter", "filter-large").apply(garden, library)
    more = [p for p in parts_list(large, library) if p.key == "thread-adapter"]
    assert sum(p.quantity for p in more) == 3  # on to its pipe thread, and off again


def test_wider_supply_pipe_wants_a_reducer_where_each_row_begins(library):
    garden = poured(library, pots=0)
    assert not reducers(garden, library)
    zone = garden.zones[0]
    wide = SetValue(f"zones/{zone.id}/supply_tube", "poly-20").apply(garden, library)
    rows = [x for x in wide.lines if x.zone == zone.id and x.role == "dripline"]
    found = reducers(wide, library)
    assert set(found) == {(20, 16)}
    assert 1 <= found[20, 16] <= len(rows)
    (line,) = (p for p in parts_list(wide, library) if p.key == "reducer")
    assert line.quantity == found[20, 16]


def test_what_does_not_fit_is_said_and_nothing_where_all_fits(library):
    def told(garden):
        return any(f.rule == "build.threads" for f in assess(
            garden, library).station("build").findings)

    assert told(poured(library))
    assert not told(from_json(garden_text("balcony"), library))
