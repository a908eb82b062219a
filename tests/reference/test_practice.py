"""Laying, pushing and timing against common practice (no source), as product of the trade."""

from dataclasses import replace

import pytest

from euhydra.core.advise.gravity_or_pump import sides
from euhydra.core.assessment.assess import assess
from euhydra.core.construction.joints import head_assembly
from euhydra.core.construction.parts_list import parts_list
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Planting, Point, Pots
from euhydra.core.hydraulics.balancing import balanced
from euhydra.core.hydraulics.drilled import DrilledPipe, along_pipe
from euhydra.core.layout.containers import POTS_A_LINE
from euhydra.core.layout.laying import drippers_in, rows_in
from euhydra.core.schedule import seasonal_adjust
from euhydra.core.stations.worst import worst_zone
from euhydra.data import library as load_library
from gardens import poured


def bed(width_m: float, method: str, soil: str = "loam") -> Bed:
    return Bed(id="b", name="b", corner=Point(x_m=0, y_m=0), length_m=3, width_m=width_m,
               method=method, soil=soil, plantings=(Planting(id="p", crop="tomato"),))


def test_three_soakers_or_two_driplines_in_a_90_cm_bed(library):
    assert rows_in(bed(0.9, "soaker"), library) == 3
    assert rows_in(bed(0.9, "dripline"), library) == 2


def test_two_strips_keep_a_metre_wide_bed_damp(library):
    assert rows_in(bed(1.0, "dripline"), library) == 2


def test_sand_wants_closer_rows_than_clay(library):
    assert rows_in(bed(1.2, "dripline", "sand"), library) > rows_in(
        bed(1.2, "dripline", "clay"), library)


def test_one_dripper_in_a_small_pot_two_in_a_large_one():
    pot = {"id": "p", "name": "p", "corner": Point(x_m=0, y_m=0), "count": 3, "height_m": 0.3,
           "plantings": (Planting(id="p", crop="tomato"),)}
    assert drippers_in(Pots(diameter_m=0.25, **pot)) == 1
    assert drippers_in(Pots(diameter_m=0.45, **pot)) == 2


@pytest.mark.parametrize(("pots", "diameter_m"), [(10, 0.3), (11, 0.3), (25, 0.3), (12, 1.2)])
def test_quarter_inch_lines_keep_to_ten_pots_and_nine_metres(library, pots, diameter_m):
    garden = poured(library, beds=(), pots=pots, pot_diameter_m=diameter_m)
    lines = {x.id: x for x in garden.lines if x.role == "quarter-inch"}
    assert sum(o.points for o in garden.outlets) == pots
    for outlet in garden.outlets:
        assert outlet.points <= POTS_A_LINE
        assert lines[outlet.line].length_m <= library.tubes["quarter-inch"].longest_run_m


def test_a_pilot_valve_does_not_open_on_a_barrel(library):
    garden = poured(library)
    pilot = SetValue("timers/timer/kind", "dial-pilot").apply(garden, library)
    assert not assess(pilot, library).flows.valve.opens
    assert assess(garden, library).flows.valve.opens


def test_a_barrel_on_the_flat_will_not_feed_raised_beds_and_a_small_pump_will(library):
    flat = poured(library, fall_m=-0.4, stand_m=0)  # beds raised by 40 cm
    gravity, pump = sides(assess(flat, library), flat.store)
    assert not gravity.reaches
    assert gravity.flow_l_h < 0.2 * pump.flow_l_h
    assert pump.works
    assert library.pumps[pump.after.garden.lifts[0].kind].price < 100


def test_the_nearest_valve_of_a_manifold_stands_least_open(library):
    four = tuple(BedAnswer(length_m=4.0, width_m=1.2, group="leafy") for _ in range(4))
    garden = poured(library, beds=four, pots=0, fall_m=2.0, method="drippers", distance_m=12.0)
    for bed in garden.plots:
        garden = SetValue(f"plots/{bed.id}/plantings/p1/crop", "lettuce").apply(garden, library)
    a = assess(garden, library)
    branches = balanced(garden, library, garden.zones[0], a.flows[garden.zones[0].id]["half"])
    opens = [b.open_eighths or 0.0 for b in branches]  # nearest first
    assert len(opens) == 4
    assert opens == sorted(opens)
    assert opens[0] < opens[-1] == 8


def test_an_open_ended_drilled_pipe_starves_the_holes_near_its_start():
    # A pump's wide pipe with generous holes: 32 mm, 12 mm holes a hand apart.
    closed = DrilledPipe(32.0, (12.0,) * 10, 0.1, 0.1)
    free = along_pipe(replace(closed, open_end=True), 0.3)
    assert free.holes_l_h[0] == min(free.holes_l_h)
    assert free.end_l_h > max(free.holes_l_h)
    shut = along_pipe(closed, 0.3)
    assert shut.holes_l_h[0] > free.holes_l_h[0]


def test_the_top_terrace_needs_the_longest_time(kiln):
    # Beds of like size and lines: the same litres take longer on the upper level.
    upper = kiln.flows["zone-bed-1"]["half"].plot_flow_l_h("bed-1")
    lower = kiln.flows["zone-bed-3"]["half"].plot_flow_l_h("bed-3")
    assert 60 * 20 / upper > 1.1 * 60 * 20 / lower


def test_every_other_day_in_the_ground_and_daily_in_pots(kiln):
    beds = [s.every_h for s in kiln.schedule.settings["zone-bed-1"]]
    pots = [s.every_h for s in kiln.schedule.settings["zone-pots-1"]]
    assert all(48 <= h <= 72 for h in beds)
    assert all(h <= 24 for h in pots)
    assert min(pots) < min(beds)


def test_a_pot_in_a_heat_needs_more_than_one_watering_a_day(library):
    # Derived, not assumed: small pots of tomato in July.
    garden = poured(library, beds=(BedAnswer(length_m=1, width_m=1, group="leafy"),), pots=6,
                    pot_diameter_m=0.15)
    tomato = SetValue("plots/pots-1/plantings/p1/crop", "tomato").apply(garden, library)
    assert assess(tomato, library).demand.thirsts["pots-1"].waterings_a_day >= 2


def test_more_fall_gives_more_head(library):
    heads = []
    for fall in (0.0, 0.5, 1.5):
        a = assess(poured(library, fall_m=fall), library)
        heads.append(a.flows[worst_zone(a).id]["low"].worst.head_m)
    assert heads == sorted(heads)


@pytest.fixture(scope="module")
def drip_from_a_tap():
    """Shrubs and pots on half-gallon drippers from a regulated tap, as landscape drip is laid."""
    tables = load_library()
    garden = poured(tables, tap=True, pots=6)
    for path, value in (("taps/tap/tops_up", ""), ("taps/tap/regulator_kpa", 170.0),
                        ("plots/bed-1/fed_by", "tap"), ("plots/pots-1/fed_by", "tap"),
                        ("plots/bed-1/plantings/p1/crop", "shrub"),
                        ("plots/bed-1/method", "drippers"),
                        ("plots/pots-1/plantings/p1/crop", "geranium")):
        garden = SetValue(path, value).apply(garden, tables)
    return assess(garden, tables)


def setting(a, zone, month):
    return next(s for s in a.schedule.settings[zone] if s.month == month)


def test_containers_ten_to_fifteen_minutes_a_day_and_twice_in_the_heat(drip_from_a_tap):
    a, zone = drip_from_a_tap, drip_from_a_tap.garden.zones[-1]
    for month in (5, 6, 7, 8):
        run = setting(a, zone.id, month)
        assert run.every_h == 24
        assert 10 <= run.minutes <= 15
    # In a heat wave a day's run is longer than that: parted in two, each is again of that kind.
    july = setting(a, zone.id, 6)
    assert 15 < seasonal_adjust.heat_wave_min(a.demand, zone, july) < 30


def test_spring_every_72_hours_and_a_heat_wave_a_third_longer(drip_from_a_tap):
    a = drip_from_a_tap
    zone = next(z for z in a.garden.zones if z.id == "zone-bed-1")
    assert setting(a, zone.id, 9).every_h == 72
    assert 60 / 45 == pytest.approx(seasonal_adjust.heat_wave(a.demand, zone, 6), rel=0.1)


def test_summer_every_48_hours_for_45_minutes_differs_by_what_these_shrubs_drink(drip_from_a_tap):
    """Ours is longer than 45 minutes every 48 h by the need, and by nothing else."""
    a = drip_from_a_tap
    flow = a.flows["zone-bed-1"]["half"]
    practice_l_day = flow.plot_flow_l_h("bed-1") * 45 / 60 / 2
    need = a.schedule.needs["zone-bed-1"][6]
    ours = setting(a, "zone-bed-1", 6)
    ours_l_day = need.gets_l("bed-1", ours.exact_min) * ours.runs_a_week / 7
    longer = need.wanted_l_day / practice_l_day
    assert ours_l_day / practice_l_day == pytest.approx(longer, rel=0.01)
    assert 0.7 < ours_l_day / practice_l_day < 2.0


def test_ten_pots_nine_metres_from_the_tap_are_listed_as_their_trade_lists_them(library):
    """Common practice: timer, backflow preventer, filter, regulator, adapter, in that order, then
    half-inch pipe, one barb, a quarter-inch line of at most ten half-gallon drippers, its plug.
    """
    garden = poured(library, beds=(), pots=10, tap=True, distance_m=9.0)
    for path, value in (("taps/tap/tops_up", ""), ("taps/tap/regulator_kpa", 170.0),
                        ("plots/pots-1/fed_by", "tap")):
        garden = SetValue(path, value).apply(garden, library)
    (zone,) = garden.zones
    assert [part.role for part in head_assembly(garden, library, zone)] == [
        "timer", "backflow", "filter", "regulator", "adapter"]
    must = {p.key: p.quantity for p in parts_list(garden, library) if p.need == "must"}
    for key in ("timer", "backflow", "filter", "regulator", "adapter", "punch-barb", "end-plug",
                "flush-end"):
        assert must[key] == 1, key
    assert must["dripper"] == 10
    half_gallon = library.outlets["plain-2"]
    assert half_gallon.name == "Plain 2 L/h (0.5 gph) emitter"  # 0.5 US gal/h is 1.9 L/h
    lengths = {x.tube: x.length_m for x in garden.lines if x.role != "header"}
    assert lengths["poly-16"] == pytest.approx(9.95, abs=0.01)  # 9 m, and up over the pots' rim
    assert lengths["quarter-inch"] <= library.tubes["quarter-inch"].longest_run_m
