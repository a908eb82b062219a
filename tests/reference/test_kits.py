"""Whole kits counted by hand, piece by piece (common practice, no source).

Each was drawn on squared paper and counted: what stands beside its lines, and its small tube. Pipe,
fabric and boards are bought with a twentieth more, up to whole metres; gravel with a tenth.
"""

import pytest

from euhydra.core.construction.counting import Count, kit_parts
from euhydra.core.construction.holes import holes
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.construction.things import things
from gardens import made

PLOTS = {"towers": ("+tower", {"count": 5}), "gutter": ("+gutter", {"count": 7}),
         "two gutters": ("+gutter", {"count": 14}), "chain": ("+chain", {"count": 6}),
         "eight float pots": ("+float-pots", {"count": 8}),
         "sixty float pots": ("+float-pots", {"count": 60, "tube_mm": 16.0}),
         "twelve pots": ("+pots", {"count": 12}), "bags": ("+bags", {"count": 4})}
BY_HAND = {
    # a tee at the foot of each and one more in its top for its second dripper; three clips each
    "towers": {"tower": 5, "small-tee": 5 + 5, "small-valve": 5, "small-clip": 15, "stake": 10,
               "tube": 7},  # 1.2 m and 0.1 m over, five times: 6.5 m
    # 7 × 0.3 m and 6 gaps of 0.1 m are 2.7 m; a bracket each 60 cm and one; blocks each 1.2 m
    "gutter": {"gutter": 3, "gutter-cap": 2, "sealant": 1, "gutter-bracket": 5 + 1, "rail": 6,
               "block": 2 * 4, "bucket": 7, "net-pot": 7, "light-cover": 3},
    # 14 stand on two, 5.5 m in all, led on from one to the other
    "two gutters": {"gutter": 6, "gutter-cap": 4, "sealant": 1, "gutter-bracket": 10 + 2,
                    "rail": 12, "block": 2 * 6, "bucket": 14, "net-pot": 14, "light-cover": 6,
                    "gutter-link": 1},
    # six tubes of 0.1 m and 0.12 m into either wall: 2.04 m
    "chain": {"float-box": 1, "bucket": 6, "insert": 6, "corner-guard": 24, "grommet": 12,
              "chain-tube": 3, "float-screen": 1},
    # 0.5 m up and seven gaps of 0.4 m: 3.3 m, a clamp each 60 cm
    "eight float pots": {"pot": 8, "tray": 8, "grommet": 8, "inline-filter": 1, "small-tee": 8,
                         "small-elbow": 1, "small-clamp": 6},
    # one main of 16 mm, 0.3 m of small tube to each valve
    "sixty float pots": {"pot": 60, "tray": 60, "grommet": 60, "inline-filter": 1,
                         "punch-barb": 60, "air-release": 1, "tube": 19},
    # two tubes, ten pots and two: 0.5 m + 9 × 0.38 m, 0.5 m + 0.38 m; 0.3 m and 0.1 m up each pot
    "twelve pots": {"pot": 12, "small-tee": 12, "small-elbow": 2, "stake": 12,
                    "small-clamp": 7 + 2, "tube": 6},
    # bags 0.4 m across take two drippers each: 8 × 0.4 m up
    "bags": {"grow-bag": 4, "small-tee": 8, "small-elbow": 1, "stake": 8, "small-clamp": 4,
             "tube": 4}}


def taken(garden, library, sort, thing_id):
    """What the kits of one thing take, by part."""
    count = Count(library, "metric")
    for thing in things(garden, library):
        if thing.sort == sort and thing.id == thing_id:
            kit_parts(count, thing)
    return {p.key: p.quantity for p in count.lines()}


@pytest.mark.parametrize("kit", BY_HAND)
def test_a_row_of_vessels_is_what_was_counted_by_hand(library, kit):
    what, sizes = PLOTS[kit]
    garden = made(library, what)
    plot = garden.plots[-1].id
    garden = made(library, what, *((f"plots/{plot}/{k}", v) for k, v in sizes.items()))
    assert taken(garden, library, "plot", plot) == BY_HAND[kit]


@pytest.mark.parametrize(("what", "valves"), [("gutter", 1), ("two gutters", 1), ("chain", 1),
                                               ("eight float pots", 8), ("sixty float pots", 60)])
def test_what_fills_by_float_has_float_valves_and_nothing_in_their_place(library, what, valves):
    """A dripper that is set by hand floods a row: none is offered in a float valve's place."""
    add, sizes = PLOTS[what]
    plot = made(library, add).plots[-1].id
    garden = made(library, add, *((f"plots/{plot}/{k}", v) for k, v in sizes.items()), pots=0)
    found = [p for p in parts_list(garden, library) if p.key == "float-valve"]
    assert [(p.quantity, p.swap) for p in found] == [(valves, "")]


def test_one_barrel_put_in(library):
    """Stand, slabs under its two halves, gaskets, two outlets, diverter, and a cap for winter."""
    garden = made(library, ("stores/barrels/hose_m", 0.4), barrels=1)
    assert taken(garden, library, "store", "barrels") == {
        "barrel": 1, "stand": 1, "footing": 4, "bulkhead": 1, "second-spigot": 1, "overflow": 1,
        "clamp": 1, "screen": 2, "child-lock": 1}
    roof, spout = garden.roofs[0], garden.roofs[0].downspouts[0]
    assert taken(garden, library, "downspout", f"{roof.id}-{spout.id}") == {
        "diverter": 1, "winter-cap": 1}


def test_a_barrel_that_stays_full_through_the_winter_has_no_cap(library):
    """Indoors its diverter goes on filling it, as the season has it."""
    for indoors, caps in ((False, 1), (True, 0)):
        garden = made(library, ("stores/barrels/indoors", indoors))
        assert sum(p.quantity for p in parts_list(garden, library) if p.key == "winter-cap") == caps


def test_small_tube_comes_in_its_rolls_risers_and_all(library):
    """Twenty pots, each 0.4 m up, and the tubes past them; rolls of 15 m, or of 50 ft."""
    for units, roll in (("metric", 15.0), ("us", 50 * 0.3048)):
        garden = made(library, pots=20, units=units)
        (small,) = [p for p in parts_list(garden, library) if p.id == "tube-quarter-inch"]
        assert small.roll_m == pytest.approx(roll)
        assert small.quantity > 20 * 0.4
        assert small.rolls == -(-small.quantity // roll)


def test_a_tower_with_one_outlet_needs_no_further_tee(library):
    tower = made(library, "+tower").plots[-1].id
    for each, tees in ((1, 2), (2, 4), (3, 6)):
        garden = made(library, "+tower", (f"plots/{tower}/each", each))
        assert taken(garden, library, "plot", tower)["small-tee"] == tees


def test_three_linked_barrels_are_drilled_where_they_are_joined(library):
    """A diverter's hole and its inlet, an overflow, an outlet; either end of two links."""
    garden = made(library, barrels=3)
    bored = {h.what: h.times for h in holes(garden, library) if h.of == "Barrels"}
    assert bored == {"drill for the diverter": 1, "inlet from the diverter": 1, "overflow": 1,
                     "lower outlet, for the lines": 1, "link to the next": 4}


def test_a_floating_intake_and_a_planted_lid(library):
    """A hose as long as the barrel is high and 0.3 m more: 1.2 m; 20 L of mix, less than a sack."""
    garden = made(library, ("stores/barrels/intake", "floating"),
                  ("stores/barrels/lid", "planter"), barrels=1)
    found = taken(garden, library, "store", "barrels")
    assert garden.store.height_m == pytest.approx(0.88, abs=0.03)
    assert {k: found[k] for k in ("float-intake", "intake-hose", "clamp", "planter-lid", "mix")
            } == {"float-intake": 1, "intake-hose": 2, "clamp": 3, "planter-lid": 1, "mix": 1}


def test_wet_flat_ground(library):
    """6 × 4 m under 10 cm of gravel are 2.4 m³, fabric over 24 m², a drain down its length."""
    garden = made(library, "+wet-area", ("wet_areas/wet-area-1/months", 2.0))
    assert taken(garden, library, "wet-area", "wet-area-1") == {
        "gravel": 2.7, "fabric": 26, "drain-pipe": 7, "sump-shell": 1, "sump-pump": 1,
        "check-valve": 1, "discharge-pipe": 32, "residual-current": 1, "child-lock": 1}


def test_wet_ground_with_a_fall(library):
    """A trench 30 by 30 cm along its 6 m is 0.54 m³; fabric 1.2 m round it; no pump."""
    garden = made(library, "+wet-area", ("wet_areas/wet-area-1/months", 2.0),
                  ("wet_areas/wet-area-1/fall_m", 1.0))
    assert taken(garden, library, "wet-area", "wet-area-1") == {
        "gravel": 0.6, "fabric": 8, "drain-pipe": 7, "discharge-pipe": 32}


def test_a_rain_garden(library):
    """3 × 2 m: a sack of stones each 4 m², four plants a square metre, 7 cm of chips."""
    garden = made(library, "+rain-garden")
    assert taken(garden, library, "rain-garden", "rain-garden-1") == {
        "stones": 2, "bog-plant": 24, "mulch-ground": 0.5}


def test_a_laundry_drum_and_mulch_basins(library):
    """1.2 × 1.0 m of basin 30 cm deep are 360 L of chips: eight sacks."""
    drum = made(library, "+drum")
    assert taken(drum, library, "drain", drum.drains[0].id) == {
        "three-way": 1, "drum": 1, "drum-hose": 1, "bulkhead": 1, "screen": 1, "child-lock": 1}
    basin = made(library, "+drain")
    assert taken(basin, library, "drain", basin.drains[0].id) == {"three-way": 1, "mulch": 8}


def test_a_bank_of_three_and_a_joint_of_each_kind(library):
    three = made(library, barrels=3)
    found = taken(three, library, "store", "barrels")
    assert (found["bottom-link"], found["clamp"], found["screen"]) == (2, 2 * 2 + 1, 3 + 1)
    for kind, parts in {
            "link": {"link-hose": 3, "bulkhead": 2, "clamp": 2}, "siphon": {"siphon": 1},
            "overflow": {"link-hose": 3, "bulkhead": 1, "clamp": 2},
            "float": {"float-valve": 1, "link-hose": 3, "bulkhead": 1, "clamp": 2}}.items():
        joined = made(library, "+store", "+joint", ("joints/joint-1/kind", kind),
                      ("joints/joint-1/length_m", 2.0))
        assert taken(joined, library, "joint", "joint-1") == parts, kind


def test_pumps_on_mains_and_on_a_battery(library):
    """What draws has a suction, a foot valve, and a float that stops it before it runs dry."""
    hung = made(library, "+pump")
    assert taken(hung, library, "lift", "pump-1") == {
        "pump": 1, "check-valve": 1, "residual-current": 1}
    battery = made(library, "+pump", ("lifts/pump-1/kind", "diaphragm-12v"),
                   ("lifts/pump-1/power", "panel"), ("lifts/pump-1/suction_m", 2.0))
    assert taken(battery, library, "lift", "pump-1") == {
        "pump": 1, "check-valve": 1, "suction-hose": 3, "foot-valve": 1, "clamp": 2,
        "float-switch": 1, "pump-battery": 1, "fuse": 1, "panel": 1, "charge-controller": 1}


def test_mulch_and_shade_over_a_bed(library):
    """2.4 × 1.2 m under 7 cm of chips are 0.2 m³; cloth of 2.88 m²; boards 25 cm high twice."""
    garden = made(library, ("plots/bed-1/mulch", "chips"), ("plots/bed-1/shade", "cloth"),
                  ("plots/bed-1/rim_m", 0.25))
    assert taken(garden, library, "plot", "bed-1") == {"bed-chips": 0.3, "shade-cloth": 4}
    assert taken(garden, library, "raised-bed", "bed-1") == {
        "bed-board": 16, "bed-soil": 0.8}  # 7.2 m twice; 0.72 m³
