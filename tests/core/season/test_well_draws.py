"""A well in the season: it fills in, gives a share of each draw, or feeds lines itself."""

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.values import SetValue
from euhydra.core.season.lasts import lasts
from euhydra.core.season.simulate import run_season
from euhydra.core.season.well_draws import well_draws
from gardens import made, poured
from worlds import side_by_side, well, world

NONE = np.zeros((1, 365))


def day(*litres):
    """So much on the first days of the year, then nothing."""
    found = np.zeros((1, 365))
    found[0, : len(litres)] = litres
    return found


def opened(days=3):
    """An hour at 60 L/h in the first part of each of the first days."""
    minutes = np.zeros((1, 365, 4))
    minutes[0, :days, 0] = 60.0
    return minutes


def test_a_well_gives_its_share_of_a_draw_before_the_store_and_then_what_that_has_not():
    """Each day 60 L are drawn, 30 of them from the well; the barrel holds 70, the well gives 40.

    Day 0: 30 and 30. Day 1: 30 and 30, 10 stand. Day 2: 30, then 10 from the barrel, and 10 more
    from the well: 10 lack.
    """
    season = run_season(
        world(
            NONE, NONE, opened(), size=70.0, total=900.0, ready=900.0, **well(0, 40.0, share=0.5)
        ),
        start_share=1.0,
    )
    assert season.well[0, :3].tolist() == [30, 30, 40]
    assert season.level[0, 0, :3].tolist() == [40, 10, 0]
    assert season.lacking[0, 0, :3].tolist() == [0, 0, 10]
    assert season.beyond[0, 0, :3].tolist() == [0, 0, 20]


def test_a_share_is_no_more_than_the_well_has_and_the_store_gives_the_rest():
    season = run_season(
        world(
            NONE, NONE, opened(1), size=70.0, total=900.0, ready=900.0, **well(0, 20.0, share=0.5)
        ),
        start_share=1.0,
    )
    assert (season.well[0, 0], season.level[0, 0, 0]) == (20, 30)


def test_one_well_gives_two_banks_no_more_than_it_has():
    """Two beds of 60 L a day on two empty banks: the first gets all 50 L of the well."""
    minutes = np.broadcast_to(opened(1), (2, 1, 365, 4))
    two = side_by_side(
        world(NONE, NONE, opened(1), total=900.0, ready=900.0),
        minutes,
        bank=np.array([0, 1]),
        size=np.zeros(2),
        inflow=np.zeros((2, 1, 365)),
        over_to=(-1, -1),
        tapped=np.zeros(2, dtype=bool),
        filled_at=np.zeros(2),
        out=np.zeros((2, 365), dtype=bool),
        **(well(0, 50.0) | {"well_to": ((0, 0), (0, 1)), "well_share": np.zeros(2)}),
    )
    season = run_season(two)
    assert season.given[:, 0, 0].tolist() == [50, 0]
    assert season.lacking[:, 0, 0].tolist() == [10, 60]


def on_a_well(library, *more):
    """Pots on a barrel, beds on a well that comes back at 1 L/h."""
    return made(
        library,
        "+well",
        ("wells/well-1/tops_up", ""),
        ("wells/well-1/recovery_l_h", 1.0),
        ("plots/bed-1/fed_by", "well-1"),
        ("plots/bed-2/fed_by", "well-1"),
        *more,
    )


def test_what_a_well_feeds_is_drawn_from_it_alone_and_lasts_speaks_of_stores(library):
    r = assess(on_a_well(library), library)
    world_of, season = r.season.world, r.season
    assert r.garden.tap_of("well-1") is r.garden.wells[0]
    beds = [world_of.plots.index(p) for p in ("bed-1", "bed-2")]
    shaft = well_draws(r.garden, r.banks).shafts["well-1"]
    assert world_of.bank[beds].tolist() == [shaft, shaft]
    assert not world_of.stored[beds].any()
    assert season.well.max() <= 24.0 + 1e-9
    assert season.given[beds].sum(axis=0) == pytest.approx(season.well, abs=1e-9)
    assert season.lacking[beds].sum() > 0
    assert season.tap.sum() == 0
    assert r.usable_l == assess(poured(library), library).usable_l
    assert lasts(r.season_inputs, season).dry > 1


def test_a_well_feeds_a_garden_that_stores_nothing(library):
    r = assess(on_a_well(library, ("plots/pots-1/fed_by", "well-1"), Remove("stores/barrels")),
               library)
    assert not r.garden.stores
    assert r.season.well.sum() == pytest.approx(r.season.given.sum(), rel=1e-9)


def test_a_well_that_nothing_draws_from_yet_is_not_said_to_feed(library):
    """Added to a garden on the hose; then one bed is given to it; then all."""
    hose = made(library, waters=("tap",), pots=0)
    garden = Add("well").apply(hose, library)
    said = []
    for edit in (None, SetValue("plots/bed-1/fed_by", "well-1"),
                 SetValue("plots/bed-2/fed_by", "well-1")):
        garden = edit.apply(garden, library) if edit else garden
        said.append(assess(garden, library).station("store").verdict.show("us"))
    assert said == ["No store: the tap feeds the lines straight.",
                    "No store: tap and well feed the lines straight.",
                    "No store: the well feeds the lines straight."]
