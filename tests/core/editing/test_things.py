"""Several sources and stores: what is added, joined, levelled and taken away."""

import pytest

from euhydra.core.construction.steps import of_water
from euhydra.core.editing.edits import Add, Remove, TurnRound
from euhydra.core.editing.makers import MAKERS
from euhydra.core.editing.trees import EditRefused
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Joint, Point, Spot
from euhydra.core.terrain.elevation import level_m
from gardens import poured


def spots(*places):
    return tuple(Spot(id=f"s-{i}", name=f"Spot {i}", at=Point(x_m=x, y_m=y), level_m=z)
                 for i, (x, y, z) in enumerate(places))


def site_with(library, *places, lie="slope"):
    return poured(library).site.model_copy(update={"spots": spots(*places), "lie": lie})


@pytest.mark.parametrize("what", [*MAKERS, "roofs/roof/downspouts"])
def test_what_is_added_can_be_taken_away_again(library, what):
    garden = poured(library)
    if what == "joint":
        garden = Add("store").apply(garden, library)
    more = Add(what).apply(garden, library)
    path = MAKERS[what][1] if what in MAKERS else what
    parts = path.split("/")
    owner = more
    for part in parts[:-1]:
        owner = (next(t for t in owner if t.id == part) if isinstance(owner, tuple)
                 else getattr(owner, part))
    new = getattr(owner, parts[-1])[-1]
    assert Remove(f"{path}/{new.id}").apply(more, library) == garden


def test_a_store_taken_away_leaves_nothing_hanging(library):
    garden = Add("joint").apply(Add("store").apply(poured(library, tap=True), library), library)
    garden = SetValue("plots/bed-1/fed_by", "store-1").apply(garden, library)
    left = Remove("stores/barrels").apply(garden, library)
    assert [s.id for s in left.stores] == ["store-1"]
    assert left.roofs[0].downspouts[0].to == ""
    assert left.joints == ()
    assert left.taps[0].tops_up == "store-1"
    alone = Remove("stores/store-1").apply(left, library)
    assert alone.stores == ()
    assert alone.taps[0].tops_up == ""
    assert {zone.source for zone in alone.zones} == {"tap"}
    assert {zone.source for zone in left.zones} == {"store-1"}


@pytest.mark.parametrize(("path", "says"), [
    ("stores/barrels", "Nothing would be left to water from"),
    ("roofs/roof/downspouts/d1", "one downspout"),
    ("stores/none", "not in this garden"), ("site/climate/rain_mm", "not in this garden"),
    ("roofs", "not in this garden"), ("name/x/y", "not in this garden")])
def test_what_cannot_be_taken_away_is_refused(library, path, says):
    with pytest.raises(EditRefused, match=says):
        Remove(path).apply(poured(library), library)


def test_joints_that_cannot_be_are_refused(library):
    garden = Add("store").apply(Add("store").apply(poured(library), library), library)
    with pytest.raises(EditRefused, match="needs two stores"):
        Add("joint").apply(poured(library), library)
    ring = [Joint(id=f"j-{i}", name=f"Joint {i}", kind="overflow", a=a, b=b)
            for i, (a, b) in enumerate([("barrels", "store-1"), ("store-1", "store-2")], start=1)]
    chained = garden.model_copy(update={"joints": tuple(ring)})
    assert SetValue("joints/j-1/bore_mm", 40.0).apply(chained, library).joints[0].bore_mm == 40
    with pytest.raises(EditRefused, match="joins a store to itself"):
        SetValue("joints/j-1/b", "barrels").apply(chained, library)
    with pytest.raises(EditRefused, match="in a ring"):
        SetValue("joints/j-2/b", "barrels").apply(chained, library)
    with pytest.raises(EditRefused, match="overflow two ways"):
        SetValue("joints/j-2/a", "barrels").apply(chained, library)
    # A ring through stores that share a level is a ring as well.
    linked = chained.model_copy(update={"joints": (*ring, Joint(
        id="j-3", name="Siphon", kind="siphon", a="barrels", b="store-2"))})
    with pytest.raises(EditRefused, match="in a ring"):
        SetValue("joints/j-1/bore_mm", 30.0).apply(linked, library)


def test_a_slope_runs_straight_between_spot_heights(library):
    site = site_with(library, (0, 0, 1.0), (10, 0, 2.0), (0, 10, 3.0))
    assert level_m(site, Point(x_m=2, y_m=3)) == pytest.approx(1 + 0.2 + 0.6)
    assert level_m(site, Point(x_m=10, y_m=10)) == pytest.approx(4.0)


@pytest.mark.parametrize("places", [((0, 0, 1.0),), ((0, 0, 1.0), (4, 0, 2.0)),
                                    ((0, 0, 1.0), (4, 0, 2.0), (8, 0, 3.0)),
                                    ((0, 0, 1.0), (0, 0, 1.0), (0, 0, 1.0))])
def test_few_spots_or_spots_in_a_line_still_give_a_level(library, places):
    level = level_m(site_with(library, *places), Point(x_m=2, y_m=5))
    assert level == pytest.approx(1.0 if len({p[:2] for p in places}) == 1 else 1.5)


def test_terraces_take_the_nearest_spot_and_none_gives_none(library):
    site = site_with(library, (0, 0, 2.3), (10, 0, 1.15), lie="terraces")
    assert level_m(site, Point(x_m=4.9, y_m=2)) == 2.3
    assert level_m(site, Point(x_m=5.1, y_m=2)) == 1.15
    assert level_m(poured(library).site, Point(x_m=0, y_m=0)) is None


def test_what_follows_the_site_gets_its_level_until_one_is_typed(library):
    garden = poured(library)
    garden = garden.model_copy(update={"site": site_with(library, (0, 0, 1.5), lie="terraces")})
    placed = SetValue("plots/bed-1/level_from", "site").apply(garden, library)
    assert placed.plot("bed-1").ground_m == 1.5
    assert placed.plot("bed-2").ground_m == garden.plot("bed-2").ground_m
    moved = SetValue("site/spots/s-0/level_m", 1.2).apply(placed, library)
    assert moved.plot("bed-1").ground_m == 1.2
    typed = SetValue("plots/bed-1/ground_m", 0.4).apply(moved, library)
    assert (typed.plot("bed-1").ground_m, typed.plot("bed-1").level_from) == (0.4, "hand")


def test_what_is_added_to_a_site_with_spot_heights_follows_it(library):
    garden = Add("spot").apply(poured(library), library)
    garden = SetValue("site/spots/spot-1/level_m", 1.7).apply(garden, library)
    for what, things in (("bed", "plots"), ("store", "stores"), ("tap", "taps")):
        garden = Add(what).apply(garden, library)
        new = getattr(garden, things)[-1]
        assert (new.level_from, new.ground_m) == ("site", 1.7)


def test_a_one_way_joint_turns_round_and_its_pipe_begins_where_its_store_is_full(library):
    garden = Add("store").apply(poured(library), library)
    garden = Add("joint").apply(garden, library)
    joint = garden.joints[0].id
    for kind, says in (("overflow", "of 25 mm from 0.83 m over the base of Barrels to Store 1"),
                       ("float", "from 5 cm over the base of Barrels to a float valve"),
                       ("siphon", "its ends 5 cm over the base of each")):
        one = SetValue(f"joints/{joint}/kind", kind).apply(garden, library)
        told = next(s for s in of_water(one, library) if s.id == f"joint-{joint}")
        assert says in told.how.show("metric").replace("\u00a0", " ")
    one = SetValue(f"joints/{joint}/kind", "overflow").apply(garden, library)
    turned = TurnRound(joint).apply(one, library)
    assert (turned.joints[0].a, turned.joints[0].b) == (one.joints[0].b, one.joints[0].a)
    assert TurnRound(joint).apply(turned, library) == one
    with pytest.raises(EditRefused, match="joins nothing"):
        TurnRound("none").apply(one, library)
