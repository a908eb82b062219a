"""What Prove finds once the season is run, on gardens where it should and where it should not."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.values import SetValue
from euhydra.core.season.thirsty import thirst_of
from euhydra.core.stations.season import ledger
from gardens import climate_of, poured


def full(library, *edits, **changes):
    garden = poured(library, **changes)
    for edit in edits:
        garden = edit.apply(garden, library)
    return assess(garden, library)


def rules(a):
    return {f.rule: f for f in a.station("prove").findings}


def test_a_valve_that_never_opens_is_told_and_its_remedy_waters(library):
    a = full(library, SetValue("timers/timer/kind", "dial-pilot"))
    finding = rules(a)["prove.never-opens"]
    assert finding.level == "stop"
    assert float(a.season.given.sum()) == 0
    after = a.after(finding.remedies[0].edit)
    assert float(after.season.given.sum()) > 0
    assert "prove.never-opens" not in rules(after)
    assert "prove.never-opens" not in rules(full(library))


def test_a_thirsty_plot_is_told_with_a_remedy_that_comes_true(library):
    dry = climate_of(library, "mediterranean")
    a = full(library, barrels=1, climate=dry)
    finding = rules(a)["prove.thirsty"]
    plot, days = thirst_of(a.season, a.demand)[0]
    assert a.garden.plot(plot).name in finding.title.show("metric")
    tap = finding.remedies[0]
    then = dict(thirst_of(a.after(tap.edit).season, a.after(tap.edit).demand))[plot]
    assert then < days
    assert f"{then:.0f} day" in tap.effect.show("metric").replace("\u00a0", " ")
    assert "prove.thirsty" not in rules(full(library, SetValue("longer", 0.5), barrels=6,
                                             tap=True, pots=0))


def test_longer_runs_leave_fewer_thirsty_days_and_more_past_the_roots(library):
    short, long = (full(library, SetValue("longer", x), tap=True) for x in (-0.3, 0.4))
    assert long.season.thirsty_days.sum() < short.season.thirsty_days.sum()
    assert long.season.wasted.sum() > short.season.wasted.sum()


def test_a_timer_that_follows_the_weather_wastes_less_for_the_same_thirst(library):
    plain, clever = (full(library, SetValue("timers/timer/kind", x), tap=True, pots=0)
                     for x in ("multi-ball", "weather-ball"))
    assert clever.season.thirsty_days.sum() <= plain.season.thirsty_days.sum()


def test_held_after_rain_it_opens_less(library):
    always, held = (full(library, SetValue("rain_hold_mm", x)) for x in (0.0, 4.0))
    assert held.season.given.sum() < always.season.given.sum()


@pytest.mark.parametrize("edit", [None, Add("tap"), Remove("timers/timer")])
def test_the_ledger_s_two_sides_agree(library, edit):
    a = full(library, *([edit] if edit else []))
    both = [sum(e.litres for e in ledger(a) if e.comes == side) for side in (True, False)]
    assert both[0] == pytest.approx(both[1], rel=1e-3)
