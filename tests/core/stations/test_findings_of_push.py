"""Every rule of Push on dirt, pressure, air and pumps: where it fires, where not, what ends it."""

import pytest

from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Point, Spot
from euhydra.core.hydraulics import raised_stand
from gardens import made, rules_of

PUMP = "lifts/pump-1"
ZONE = "zones/zone-bed-1"


def curve(*points):
    return tuple({"flow_l_h": q, "head_m": h} for q, h in points)


BATTERY = ("+pump", (f"{PUMP}/kind", "diaphragm-12v"), (f"{PUMP}/power", "battery"))
STRONG = ("+pump", (f"{PUMP}/points", curve((0, 60), (2000, 45), (4000, 10))))
CASES = {
    "push.filter-blocked": (((f"{ZONE}/filter_blocked", 0.6),), ()),
    "push.burst": (STRONG, (*STRONG, (f"{PUMP}/regulator_kpa", 170.0))),
    "push.priming": (("+pump",), ()),
    "push.suction": (("+pump", (f"{PUMP}/kind", "transfer"), (f"{PUMP}/over_outlet_m", 6.0)),
                     ("+pump", (f"{PUMP}/kind", "transfer"))),
    "push.reserve": (("+pump", (f"{PUMP}/reserve_m", 0.03)), ("+pump",)),
    "push.overrun": (("+pump", (f"{PUMP}/points", curve((0, 1), (3, 0.5), (5, 0)))), ("+pump",)),
    "push.chatters": (("+pump", (f"{PUMP}/kind", "booster"),
                       (f"{PUMP}/control", "pressure-switch")),
                      ("+pump", (f"{PUMP}/kind", "booster"))),
    "push.battery-care": (BATTERY, ("+pump",)),
    "push.battery-short": ((*BATTERY, (f"{PUMP}/battery_wh", 5.0)),
                           (*BATTERY, (f"{PUMP}/battery_wh", 2000.0))),
    "push.electric": (("+pump",), BATTERY),
    "push.no-device": (("+pump", (f"{PUMP}/residual_current", False)), ("+pump",)),
}
CURED = ["push.filter-blocked", "push.burst", "push.suction", "push.reserve",
         "push.chatters", "push.battery-short", "push.no-device"]


@pytest.mark.parametrize("rule", CASES)
def test_a_rule_fires_where_it_should_and_not_where_not(library, rule):
    fires, quiet = CASES[rule]
    assert rule in rules_of(made(library, *fires), library)
    assert rule not in rules_of(made(library, *quiet), library)


@pytest.mark.parametrize("rule", CURED)
def test_the_first_remedy_ends_what_was_found(library, rule):
    garden = made(library, *CASES[rule][0])
    after = rules_of(garden, library)[rule].remedies[0].edit.apply(garden, library)
    assert rule not in rules_of(after, library)


def test_with_only_just_enough_head_a_dirty_filter_is_told_and_a_larger_one_helps(library):
    eight = tuple(BedAnswer(length_m=5.0, width_m=1.2, group="leafy") for _ in range(8))
    low = made(library, fall_m=0.0, pots=0, beds=eight)
    stand = raised_stand.stand_that_cures(low, library, low.zones[0], 2.0, step_m=0.001)
    just = SetValue("stores/barrels/stand_m", stand).apply(low, library)
    finding = rules_of(just, library)["push.dirty-filter"]
    after = finding.remedies[0].edit.apply(just, library)
    assert "push.dirty-filter" not in rules_of(after, library)
    ample = SetValue("stores/barrels/stand_m", stand + 0.3).apply(low, library)
    assert "push.dirty-filter" not in rules_of(ample, library)


def test_a_pipe_over_a_hump_gathers_air_and_one_over_level_ground_does_not(library):
    garden = made(library)
    ends = [garden.store.at, garden.plots[0].corner]
    middle = Point(x_m=sum(p.x_m for p in ends) / 2, y_m=sum(p.y_m for p in ends) / 2)

    def with_hump(level_m):
        spots = tuple(Spot(id=f"s-{i}", name="Spot", at=at, level_m=z) for i, (at, z) in enumerate(
            [(ends[0], garden.store.ground_m), (middle, level_m), (ends[1], 0.0)]))
        site = garden.site.model_copy(update={"spots": spots, "lie": "terraces"})
        return garden.model_copy(update={"site": site})

    assert "push.air-lock" in rules_of(with_hump(1.6), library)
    assert "push.air-lock" not in rules_of(with_hump(0.3), library)
