"""Feed in a store: the dose, whom it reaches when, and what is rinsed after, by hand."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.care import due
from euhydra.core.editing.edits import Remove
from euhydra.core.garden.base import day_of_year
from euhydra.core.schedule.feeds import feeds
from gardens import made, rules_of

FED = (("stores/barrels/feed_ml_l", 4.0),)


def pipe_l(r, zone):
    """Water that stands in a zone's pipes: π/4 d² l of each line."""
    return sum(3.14159265 / 4 * (r.library.tubes[x.tube].bore_mm / 1000) ** 2 * x.length_m * 1000
               for x in r.garden.lines if x.zone == zone.id)


def test_the_dose_is_for_all_that_stands_there_and_passes_the_pipes_first(library):
    garden = made(library, *FED)
    r = assess(garden, library)
    (feed,) = feeds(garden, library, r.flows, {})
    held = 2 * 210 * 0.83 / 0.88  # to the overflow, 5 cm under the rim
    assert feed.litres == pytest.approx(held, rel=1e-3)
    assert feed.dose_ml == pytest.approx(4 * held, rel=1e-3)
    assert {x.zone.id for x in feed.reaches} == {z.id for z in garden.zones}
    for reached in feed.reaches:
        assert reached.pipe_l == pytest.approx(pipe_l(r, reached.zone), rel=0.02)
        flow = r.flows[reached.zone.id]["half"].flow_l_h
        assert reached.minutes == pytest.approx(reached.pipe_l / flow * 60)
    told = rules_of(garden, library)["store.feed"]
    assert told.title.amounts["f"].value == feed.dose_ml
    assert told.why.amounts["w"].value == pytest.approx(2 * sum(
        x.pipe_l for x in feed.reaches))


def test_it_is_due_when_the_first_fruit_sets_and_never_for_leaves_alone(library):
    garden = made(library, *FED, ("plots/bed-1/plantings/p1/crop", "tomato"),
                  ("plots/bed-1/plantings/p1/planted", "05-10"))
    crop = library.crops["tomato"]
    r = assess(garden, library)
    (fed,) = [d for d in due(r.garden, r.schedule) if d.key == "feed-barrels"]
    assert day_of_year(fed.day) == day_of_year("05-10") + crop.days_ini + crop.days_dev
    leaves = made(library, *FED, Remove("plots/pots-1"),
                  *((f"plots/{p}/plantings/p1/crop", "lettuce") for p in ("bed-1", "bed-2")))
    r = assess(leaves, library)
    assert not [d for d in due(leaves, r.schedule) if d.key.startswith("feed")]
    assert "store.feed" in rules_of(leaves, library)


def test_a_row_on_float_valves_takes_it_in_as_it_drinks(library):
    """Days: what stands in its pipes over what it drinks a day."""
    garden = made(library, "+gutter", *FED, ("plots/gutter-3/fed_by", "barrels"))
    r = assess(garden, library)
    (feed,) = feeds(garden, library, r.flows, {"gutter-3": 8.0})
    (row,) = [x for x in feed.reaches if "gutter-3" in x.zone.plots]
    assert row.minutes == 0
    assert row.days == pytest.approx(row.pipe_l / 8.0)


def test_strong_feed_is_told_and_a_drum_s_is_told_with_its_drum(library):
    strong = rules_of(made(library, ("stores/barrels/feed_ml_l", 12.0)), library)["store.feed"]
    assert "salts" in strong.why.show("metric")
    assert "salts" not in rules_of(made(library, *FED), library)["store.feed"].why.show("metric")
    drum = made(library, "+drum", ("plots/bed-1/fed_by", "drain-1"), ("drains/drain-1/feed_ml_l",
                                                                     4.0))
    told = rules_of(drum, library)
    assert told["catch.grey-feed"].title.amounts["f"].value > 0
    assert "store.feed" not in told
