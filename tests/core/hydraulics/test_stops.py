"""Where nothing flows: past a crest over the water, and out of a pump that lacks suction."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.stops import crests_m
from euhydra.core.hydraulics.surfaces import water_levels
from euhydra.core.hydraulics.zone_flow import solve_zone
from gardens import poured

ONE = [BedAnswer(length_m=3, width_m=1.2, group="fruiting")]


def crested(library, up_m):
    """One bed half a metre under the barrels, with its supply led over a hump on the way."""
    garden = poured(library, beds=ONE, pots=0, barrels=2, fall_m=0.5)
    zone = garden.zones[0]
    first = next(line for line in garden.lines if line.zone == zone.id)
    full = water_levels(garden, zone.source)["full"]
    return garden.model_copy(update={"nodes": tuple(
        n.model_copy(update={"z_m": full + up_m}) if n.id == first.end else n
        for n in garden.nodes)})


def test_a_crest_over_full_water_waters_nothing(library):
    """Before, a crest 1.5 m over the water still watered the season."""
    garden = crested(library, 1.5)
    a = assess(garden, library)
    (zone,) = garden.zones
    for level in ("full", "half", "low"):
        flow = a.flows[zone.id][level]
        assert flow.flow_l_h == 0
        assert flow.worst.head_m < 0
    assert a.flows[zone.id]["full"].stopped_m == pytest.approx(1.5)
    assert a.season.given.sum() == 0
    assert "reaches every outlet" not in a.station("push").verdict.show("metric")
    finding = next(f for f in a.station("push").findings if f.rule == "push.crest")
    assert "1.50" in finding.title.show("metric")
    assert all(not s.fits for s in a.schedule.settings[zone.id])


def test_a_crest_under_the_water_lets_it_by_until_the_water_falls_to_it(library):
    garden = crested(library, -0.3)
    a = assess(garden, library)
    (zone,) = garden.zones
    level = water_levels(garden, zone.source)
    assert a.flows[zone.id]["full"].flow_l_h > 0
    assert "push.crest" not in {f.rule for f in a.station("push").findings}
    crest = max(crests_m(a.flows[zone.id]["full"].network).values())
    under = solve_zone(garden, library, zone, crest - 0.01)
    over = solve_zone(garden, library, zone, crest + 0.05)
    assert under.flow_l_h == 0 < over.flow_l_h
    assert level["low"] < level["full"]


def test_a_crest_on_one_branch_stops_that_branch_alone(library):
    garden = poured(library, beds=[*ONE, ONE[0]], pots=0, fall_m=0.5)
    zone = garden.zones[0]
    assert len(zone.plots) == 2
    full = water_levels(garden, zone.source)["full"]
    own = next(line for line in garden.lines if line.plot == zone.plots[0] and any(
        x.start == line.end for x in garden.lines))
    garden = garden.model_copy(update={"nodes": tuple(
        n.model_copy(update={"z_m": full + 0.4}) if n.id == own.end else n
        for n in garden.nodes)})
    flow = solve_zone(garden, library, zone, full)
    assert flow.plot_flow_l_h(zone.plots[0]) < flow.plot_flow_l_h(zone.plots[1])
    stopped = [o for o in flow.outlets if o.flow_l_h == 0]
    assert {o.plot for o in stopped} == {zone.plots[0]}
    assert flow.stopped_m == pytest.approx(0.4)


def test_a_pump_without_suction_head_waters_nothing(library):
    """Standing eight metres over the water it boils before it comes up."""
    garden = poured(library, beds=ONE, pots=0)
    dry = next(key for key, pump in library.pumps.items() if pump.family != "submersible")
    fitted = FitPump(garden.store.id, dry).apply(garden, library)
    lift = fitted.lifts[0]
    works = assess(fitted, library)
    zone = fitted.zones[0]
    assert works.flows[zone.id]["half"].flow_l_h > 0
    high = SetValue(f"lifts/{lift.id}/over_outlet_m", 9.0).apply(fitted, library)
    a = assess(high, library)
    assert a.flows[high.zones[0].id]["half"].flow_l_h == 0
    assert a.season.given.sum() == 0
    assert "push.suction" in {f.rule for f in a.station("push").findings}
    assert "reaches every outlet" not in a.station("push").verdict.show("metric")
