"""What zones can draw: full stores last by that alone, and water out of reach is told."""

from itertools import pairwise

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Joint
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.reach import unreached_l
from gardens import climate_of, poured


def chain(library, kind="overflow"):
    """Three barrels, each running over into the next, all plots on the first."""
    garden = Add("store").apply(Add("store").apply(poured(library), library), library)
    ids = [s.id for s in garden.stores]
    garden = garden.model_copy(update={"joints": tuple(
        Joint(id=f"j-{i}", name=f"Joint {i}", kind=kind, a=a, b=b, end_m=0.0)
        for i, (a, b) in enumerate(pairwise(ids)))})
    return SetValue(f"plots/{garden.plots[0].id}/fed_by", ids[0]).apply(garden, library)


def test_an_overflow_chain_drawn_from_its_first_barrel_has_two_of_dead_water(library):
    a = assess(chain(library), library)
    banks = a.banks.banks
    assert [i for i in range(3) if i in a.reached] == [a.banks.of_store["barrels"]]
    assert unreached_l(a) == pytest.approx(sum(b.usable_l for b in banks) - a.usable_l)
    finding = next(f for f in a.station("store").findings if f.rule == "store.unreached")
    assert {remedy.key.split("-")[0] for remedy in finding.remedies} >= {"link", "share"}
    for remedy in finding.remedies:
        after = a.after(remedy.edit)
        assert after.usable_l > a.usable_l
        assert after.season.rain.sum() >= a.season.rain.sum() - 1e-6
    linked = assess(chain(library, "link"), library)
    assert "store.unreached" not in {f.rule for f in linked.station("store").findings}
    floats = assess(chain(library, "float"), library)
    assert unreached_l(floats) > 0, "a float valve fills the next, not the one before"


def test_full_stores_last_as_long_as_their_water_at_the_timer_s_own_draw(library):
    """Litres over what the timer opens for by month, by a plain loop: no rain on roof or bed."""
    garden = SetValue("timers/timer/kind", "multi-ball").apply(poured(
        library, barrels=6, tap=True, pots=0, beds=[BedAnswer(length_m=4, width_m=1.2,
                                                             group="fruiting")]), library)
    a = assess(garden, library)
    season, told = a.season, a.lasts
    days = (np.array([0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334])[told.month]
            + np.arange(365)) % 365
    left, lasted = a.usable_l, 0
    low, half, full = (sum(a.flows[z.id][k].flow_l_h for z in garden.zones)
                       for k in ("low", "half", "full"))
    # July of a water year that begins in November is of the calendar year after it.
    days_in_order = season.world.minutes[0].reshape(-1, 4)
    first = season.typical_year * 365 + season.world.begins
    minutes = np.roll(np.take(days_in_order, np.arange(first, first + 365), axis=0, mode="wrap"),
                      season.world.begins, axis=0)
    assert len(garden.zones) == 1
    for day in days:
        short = False
        for part in minutes[day]:
            share = left / a.usable_l
            flow = (low + (half - low) * 2 * share if share < 0.5
                    else half + (full - half) * (2 * share - 1))
            wants = flow * part / 60
            short |= wants > left
            left -= min(wants, left)
        if short:
            break
        lasted += 1
    assert told.dry == lasted > 3
    assert told.rained >= told.dry
    figure = a.station("prove").figure("lasts")
    assert figure.amount.value == told.dry
    assert MONTHS[told.month] in figure.name


def test_water_that_no_zone_draws_does_not_make_stores_last_longer(library):
    alone, more = poured(library), Add("store").apply(poured(library), library)
    assert assess(more, library).lasts == assess(alone, library).lasts
    assert assess(more, library).usable_l == assess(alone, library).usable_l


def test_a_day_away_is_thirsty_by_the_one_threshold(library):
    from euhydra.core.season import absence

    a = assess(poured(library, barrels=1, climate=climate_of(library, "mediterranean")), library)
    told = absence.away(a.season_inputs, a.season, 196, 21)
    assert max(told.chance) == pytest.approx(1 - told.holds, abs=0.2)
    assert told.chance[-1] <= 1 - told.holds + 1e-9 or len(told.plots) > 1
