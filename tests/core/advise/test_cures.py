"""What is done about a fault: logged at one touch, by licensed hands where it must; and what a bank
loses, by one sum.
"""

import pytest
from test_diagnosing import DEMOS, JULY, SHARE

from euhydra.core.advise.diagnosing.bank_readings import MOST_ZONES, BankReadings
from euhydra.core.advise.diagnosing.case import cases_of, suspects_at
from euhydra.core.advise.diagnosing.kinds import KINDS
from euhydra.core.advise.diagnosing.weighing import Weighed
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.file import from_json
from euhydra.core.editing.values import SetValue
from euhydra.core.log.entries import KINDS as ENTRIES
from euhydra.core.log.entries import things_of
from euhydra.core.log.levels import drawn_l_day
from euhydra.data import garden_text


@pytest.fixture(scope="module")
def demos(library):
    return [assess(from_json(garden_text(name), library), library) for name in DEMOS]


def test_every_cure_can_be_logged_at_one_touch(demos):
    """The entry that says it is made without a number or a word being asked for."""
    for a in demos:
        for of in cases_of(a):
            for fault in suspects_at(a, of, SHARE, JULY).faults:
                kind = ENTRIES[fault.what.logs]
                assert kind.by_hand
                assert not kind.unit
                assert not kind.words
                about = fault.about if kind.about else ""
                assert about in things_of(a.garden, kind.about) or not kind.about


def test_what_a_bank_loses_is_what_the_log_reckons_with(demos, library):
    for a in demos:
        for bank in a.banks.banks:
            store = bank.stores[0]
            leaky = a.revised(SetValue(f"stores/{store.id}/leak_l_day", 9.0).apply(
                a.garden, library))
            there = leaky.banks.holding(store.id)
            water = BankReadings(leaky, there, SHARE, JULY).usual
            zones = [z for z in a.garden.zones if z.source in {s.id for s in bank.stores}]
            if len(zones) <= MOST_ZONES:
                assert water.day_l == pytest.approx(drawn_l_day(leaky, store, JULY) + 9.0)
            suspects = suspects_at(leaky, bank.id, SHARE, JULY)
            night = suspects.reading("night").usual
            assert night > 0
            assert Weighed(suspects, "falls", {
                "night": night, "ground": "dry"}).likely[0].fault.kind != "tank-leak"


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_cures_defer_to_licensed_hands_where_they_must(kind):
    words = KINDS[kind].cure + KINDS[kind].caution
    if "pump" in KINDS[kind].words:
        assert "licensed electrician" in words
    if "pressure" in KINDS[kind].words:
        assert "licensed hands" in words
    if "gutter" in kind:
        assert "ladder" in words
