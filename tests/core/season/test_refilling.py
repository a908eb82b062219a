"""Lines that drain after a run and fill with the next: no litre is lost or opened for nothing."""

import math

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.schedule.timing import MonthNeed, PlotNeed
from euhydra.core.season.drawdown import one_watering
from euhydra.data import library as load_library
from gardens import poured

LIBRARY = load_library()


def test_one_pot_on_nine_metres_is_opened_for_what_it_wants():
    """Before, its run was lengthened by the fill of pipes that had never drained: by 459 %."""
    garden = poured(LIBRARY, beds=(), pots=1, distance_m=9.0, fall_m=0.5)
    a = assess(garden, LIBRARY)
    (zone,) = garden.zones
    need, flow = a.schedule.needs[zone.id][6], a.flows[zone.id]["half"].flow_l_h
    assert need.gets_l("pots-1", need.run_min(1.0)) == pytest.approx(need.wanted_l_day)
    assert need.run_min(1.0) / 60 * flow == pytest.approx(need.wanted_l_day)


def test_what_stands_over_the_lowest_outlet_drains_and_no_more():
    """A supply that falls 0.5 m to a level bed drains; on level ground nothing does."""
    one = [BedAnswer(length_m=4, width_m=1.2, group="fruiting")]
    falls, level = (assess(poured(LIBRARY, beds=one, pots=0, fall_m=fall, stand_m=0.5),
                           LIBRARY) for fall in (0.5, 0.0))
    zone = falls.garden.zones[0]
    whole = falls.flows[zone.id].pipe_litres
    assert 0 < falls.flows.refills[zone.id].litres < whole
    assert sum(falls.flows.refills[zone.id].lands.values()) == pytest.approx(1)
    assert level.flows.refills[zone.id].litres < falls.flows.refills[zone.id].litres
    held = falls.garden.model_copy(update={"fittings": (*falls.garden.fittings, next(
        f for f in falls.garden.fittings if f.line).model_copy(
            update={"id": "hold", "kind": "check-valve"}))})
    assert assess(held, LIBRARY).flows.refills[zone.id].litres == 0


@settings(deadline=None, max_examples=60)
@given(st.lists(st.tuples(st.floats(0.1, 40), st.floats(0.5, 60), st.floats(0, 1)), min_size=1,
                max_size=4), st.floats(0, 20), st.floats(0.2, 7))
def test_a_run_gives_the_thirstiest_just_what_it_wants_and_no_litre_is_lost(plots, drained, days):
    total = sum(lands for *_, lands in plots) or 1.0
    flows = sum(flow for _, flow, _ in plots)
    need = MonthNeed(6, sum(w for w, *_ in plots), 1.0, 24.0, tuple(
        PlotNeed(str(i), want, flow, lands / total if any(x for *_, x in plots) else 1 / len(plots))
        for i, (want, flow, lands) in enumerate(plots)), drained, flows)
    minutes = need.run_min(days)
    gets = [need.gets_l(p.plot, minutes) for p in need.plots]
    assert sum(gets) == pytest.approx(flows * minutes / 60)
    shares = [g / (p.wanted_l_day * days) for g, p in zip(gets, need.plots, strict=True)]
    assert min(shares) == pytest.approx(1)


def test_minutes_season_watering_and_log_are_one_sum():
    """One zone, its store never short: what is opened is what leaves the store, to the litre."""
    one = [BedAnswer(length_m=4, width_m=1.2, group="fruiting")]
    garden = poured(LIBRARY, beds=one, pots=0, fall_m=1.0, barrels=2)
    garden = SetValue("timers/timer/kind", "multi-ball").apply(
        Add("tap").apply(garden, LIBRARY), LIBRARY)
    a = assess(garden, LIBRARY)
    (zone,) = garden.zones
    season, flow = a.season, a.flows[zone.id]
    run = next(s for s in a.schedule.settings[zone.id] if s.month == 6)
    july = slice(181, 212)
    assert season.world.minutes[0][:, july].sum() == pytest.approx(
        season.world.runs[0][:, july].sum() * run.minutes)
    low, full = (flow[k].flow_l_h * run.minutes / 60 for k in ("low", "full"))
    opened = season.asked[0][:, july]
    assert low - 1e-9 <= opened[opened > 0].min() <= opened.max() <= full + 1e-9
    watering = one_watering(a.season_inputs, garden.store, 6)
    taken = a.banks.banks[0].usable_l - watering.left_l[-1]
    assert taken == pytest.approx(sum(p.litres for p in watering.plots), rel=1e-6)
    need = a.schedule.needs[zone.id][6]
    assert need.gets_l("bed-1", run.minutes) == pytest.approx(
        flow["half"].flow_l_h * run.minutes / 60)


PLACES = st.tuples(st.floats(0, 3), st.floats(0.5, 20), st.floats(0, 1.5), st.integers(0, 3))


@settings(deadline=None, max_examples=15, suppress_health_check=list(HealthCheck))
@given(PLACES)
def test_what_is_credited_adds_up_to_nothing(place):
    fall, distance, stand, pots = place
    a = assess(poured(LIBRARY, fall_m=fall, distance_m=distance, stand_m=stand, pots=pots), LIBRARY)
    for zone in a.garden.zones:
        refill, flow = a.flows.refills[zone.id], a.flows[zone.id]["half"]
        assert 0 <= refill.litres <= a.flows[zone.id].pipe_litres + 1e-9
        assert math.isclose(sum(refill.credit_l(flow).values()), 0, abs_tol=1e-9)
