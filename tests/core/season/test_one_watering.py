"""One watering taken from its tank."""

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.season.drawdown import one_watering
from gardens import made

JULY = 6
ALIKE = tuple(BedAnswer(length_m=4.0, width_m=1.2, group="leafy") for _ in range(4))


def test_one_watering_takes_from_the_tank_what_the_plots_get(library):
    garden = made(library, fall_m=1.0)
    r = assess(garden, library)
    run = one_watering(r.season_inputs, garden.store, JULY)
    assert sum(p.litres for p in run.plots) == pytest.approx(run.left_l[0] - run.left_l[-1])
    assert np.all(np.diff(run.left_l) <= 0)
    assert run.took_min == pytest.approx(sum(
        s.minutes for z in r.garden.timed_zones for s in r.schedule.settings[z.id]
        if s.month == JULY))
    hours = np.diff(run.minutes) / 60
    assert (run.flow_l_h[1:] * hours).sum() == pytest.approx(run.left_l[0] - run.left_l[-1])


def test_a_tank_nearly_empty_gives_the_last_plots_less_or_runs_dry(library):
    garden = made(library, fall_m=1.0)
    r = assess(garden, library)
    full, low = (one_watering(r.season_inputs, garden.store, JULY, start=s) for s in (1.0, 0.04))
    for a, b in zip(full.plots, low.plots, strict=True):
        assert b.litres <= a.litres + 1e-9
    assert low.ran_dry
    assert not full.ran_dry
    last = r.garden.timed_zones[-1].plots[-1]
    assert low.worst.plot == last or low.worst.share < full.worst.share


def test_flows_of_a_watering_fade_as_the_tank_falls(library):
    garden = made(library, fall_m=0.5, beds=ALIKE[:1], pots=0, barrels=1)
    run = one_watering(assess(garden, library).season_inputs, garden.store, JULY)
    assert np.all(np.diff(run.flow_l_h[1:]) <= 1e-9)
    assert run.flow_l_h[-1] < run.flow_l_h[1]
