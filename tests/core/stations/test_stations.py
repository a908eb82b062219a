"""Headline figures against sums done by hand, on gardens simple enough to do them."""

import math
from dataclasses import replace

import numpy as np
import pytest

from euhydra.core import units
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.friction import head_loss, kv_resistance
from euhydra.core.hydraulics.pump_duty import needed_m
from euhydra.core.hydraulics.surfaces import water_levels
from euhydra.core.hydraulics.zone_flow import solve_zone
from euhydra.core.results.results import Results
from euhydra.core.season import run_season
from euhydra.core.season.sizing import ALWAYS
from euhydra.core.stations.catch import yearly_losses
from euhydra.core.stations.prove import level_percentiles, months_of_water
from euhydra.core.stations.worth import rule_verdict
from euhydra.core.storage import outlet_z_m
from euhydra.core.weather.frost import timer_days
from euhydra.web.fields import Fields
from euhydra.web.panes import VIEWS
from euhydra.web.sheet import Sheet
from gardens import climate_of, poured


def figure(assessment, station, key):
    return assessment.station(station).figure(key).amount.value


def test_rain_and_dry_gap(kiln):
    assert figure(kiln, "place", "rain_year") == pytest.approx(610)
    eto = kiln.weather.eto_mm.mean(axis=0)
    lengths = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
    starts = np.cumsum((0, *lengths))
    gap = sum(max(0, eto[a:b].sum() - rain) for a, b, rain in zip(
        starts, starts[1:], kiln.garden.site.climate.rain_mm, strict=False))
    assert figure(kiln, "place", "dry_gap") == pytest.approx(gap)


def test_catch_is_area_times_rain_times_coefficient_less_flush(library):
    garden = SetValue("roofs/roof/first_flush_mm", 0.0).apply(poured(library), library)
    a = assess(garden, library)
    rain = float(a.weather.water_mm[:, timer_days(garden.site)].sum()) / 30
    assert figure(a, "catch", "caught_year") == pytest.approx(15 * rain * 0.95)
    flushed = assess(SetValue("roofs/roof/first_flush_mm", 2.0).apply(garden, library), library)
    assert figure(flushed, "catch", "caught_year") < figure(a, "catch", "caught_year")
    loss = yearly_losses(flushed)
    assert loss["fell_l"] == pytest.approx(
        sum(litres for key, litres in loss.items() if key != "fell_l"))


def test_half_a_gutter_catches_half(library):
    garden = poured(library)
    half = SetValue("roofs/roof/downspouts/d1/share", 0.5).apply(garden, library)
    assert figure(assess(half, library), "catch", "caught_year") == pytest.approx(
        figure(assess(garden, library), "catch", "caught_year") / 2)


def test_heavy_rain_fills_by_q_is_cia(library):
    # From the outlet to the overflow, 0.75 of 0.88 m: 358 L ÷ (0.95 × 25 mm/h × 15 m²), a little
    # less, since the first barrel spills while the link still levels the second.
    full = 60 * 420 * (0.83 - 0.08) / 0.88 / (0.95 * 25 * 15)
    minutes = figure(assess(poured(library), library), "catch", "storm_fill_25")
    assert 0.97 * full < minutes < full


def test_weight_and_pressure_of_the_bank(kiln):
    # Three barrels of 210 L to 4 cm under the rim, and a tote of 600 L to 5 cm under its own.
    assert figure(kiln, "store", "full_mass_barrels") == pytest.approx(630 * 0.84 / 0.88 + 30)
    area = 0.210 / 0.88
    assert figure(kiln, "store", "bearing_barrels") == pytest.approx(220 * 9.80665 / area / 1000)
    assert figure(kiln, "store", "usable") == pytest.approx(
        630 * (0.84 - 0.08) / 0.88 + 600 * (0.85 - 0.06) / 0.9)


def test_what_the_tap_gives_is_what_the_barrels_lack(kiln):
    opened = float(kiln.season.asked.sum()) / 30
    given = figure(kiln, "prove", "used_year")
    assert figure(kiln, "store", "tap_year") == pytest.approx(opened - given)
    assert figure(kiln, "store", "reliability") == pytest.approx(given / opened)


def test_short_days_are_counted_by_year(kiln):
    short = kiln.season.short.sum(axis=1)
    assert figure(kiln, "prove", "short_days") == np.median(short)
    assert figure(kiln, "prove", "short_days_worst") == short.max()
    by_month = sum(m.short_days for m in months_of_water(kiln))
    assert by_month == pytest.approx(short.mean())


def test_percentiles_lie_in_order(kiln):
    bands = level_percentiles(kiln)
    assert (bands["low"] <= bands["middle"]).all()
    assert (bands["middle"] <= bands["high"]).all()
    assert bands["high"].max() <= figure(kiln, "store", "usable") + 1e-6


def test_grow_adds_up_its_plots(kiln):
    plots = sum(figure(kiln, "grow", f"need_{p.id}") for p in kiln.garden.plots)
    assert figure(kiln, "grow", "need_peak") == pytest.approx(plots)


def test_lay_adds_up_its_lines(kiln):
    total = sum(line.length_m for line in kiln.garden.lines)
    assert figure(kiln, "lay", "line_total") == pytest.approx(total)
    # Four beds of 3 rows × 8, a border of 2 × 23, twelve pots, two towers of 2, a float valve;
    # a third of the ground under each pear: 0.33 × 1.04 m² by drippers that wet 0.16 m² each.
    pears = 2 * math.ceil(0.33 * math.pi / 4 * 2.2 * 0.6 / (math.pi / 4 * 0.45**2))
    assert figure(kiln, "lay", "outlets") == 4 * 3 * 8 + 2 * 23 + 12 + 2 * 2 + 1 + pears


def test_head_at_the_worst_outlet_is_height_less_losses(library):
    """One pot on one dripper: every loss on the way worked by hand."""
    garden = poured(library, beds=(), pots=1, fall_m=2.0)
    zone, a = garden.zones[0], assess(garden, library)
    low = a.flows[zone.id]["low"]
    flow = low.flow_l_h
    lost = sum(float(kv_resistance(kv)) * flow**2 for kv in (1.8, 3.2, 2.0))
    k = {f.line: 0.0 for f in garden.fittings}
    for f in garden.fittings:
        if f.kind != "timer":
            k[f.line] += library.fittings[f.kind].k
    for line in garden.lines:
        length = line.length_m
        if line.role == "quarter-inch":
            length = 0.5  # to the dripper, not past it
        lost += float(head_loss(flow, length, library.tubes[line.tube].bore_mm,
                                k.get(line.id, 0.0)))
    pot = garden.plots[0]
    standing = water_levels(garden)["low"] - (pot.ground_m + pot.height_m)
    assert low.worst.head_m == pytest.approx(standing - lost, abs=2e-3)
    assert flow == pytest.approx(0.6325 * math.sqrt(standing - lost), rel=2e-3)


def test_the_valve_gets_the_water_over_the_outlet(kiln):
    store = kiln.garden.store
    assert figure(kiln, "push", "valve_gets") == pytest.approx((0.84 - 0.08) * 9.80665)
    assert outlet_z_m(store) == pytest.approx(2.3 + 0.45 + 0.08)


def test_the_pump_lift_said_is_enough(library):
    garden = poured(library, fall_m=-1.0, stand_m=0.0)
    zone = garden.zones[0]
    added, flow = needed_m(garden, library, zone)
    lifted = solve_zone(garden, library, zone, water_levels(garden)["low"] + added)
    assert min(o.head_m for o in lifted.outlets) == pytest.approx(10.0, abs=0.05)
    assert lifted.flow_l_h == pytest.approx(flow, rel=0.01)


def test_flow_falls_as_the_barrels_empty(kiln):
    for levels in kiln.flows.values():
        assert levels["full"].flow_l_h > levels["half"].flow_l_h > levels["low"].flow_l_h > 0


def test_a_southern_garden_drinks_most_in_the_southern_summer(library):
    garden = poured(library, latitude_deg=-37.8,
                    climate=climate_of(library, "southern-temperate"))
    needs = assess(garden, library).schedule.needs[garden.zones[0].id]
    busiest = max(needs, key=lambda n: n.wanted_l_day).month
    assert busiest in (10, 11, 0, 1)


def test_two_like_beds_drink_twice_what_one_does(library):
    one = BedAnswer(length_m=2, width_m=1, group="fruiting")
    single = assess(poured(library, beds=(one,), pots=0), library)
    garden = poured(library, beds=(one, one), pots=0)
    crop = garden.plots[0].plantings[0].crop
    double = assess(SetValue("plots/bed-2/plantings/p1/crop", crop).apply(
        SetValue("plots/bed-2/plantings/p1/planted",
                 garden.plots[0].plantings[0].planted).apply(garden, library), library), library)
    assert figure(double, "grow", "need_peak") == pytest.approx(
        2 * figure(single, "grow", "need_peak"))


def test_every_figure_reads_in_both_systems_and_has_its_working(kiln):
    for key in STATIONS:
        report = kiln.station(key)
        assert len({f.key for f in report.figures}) == len(report.figures)
        for f in report.figures:
            assert f.amount.show("metric")
            assert f.amount.show("us")
            assert f.working.formula
            assert f.working.source
            assert f.working.text("us")[-1].startswith(f.working.standing)


def test_what_did_not_change_is_not_reckoned_again(kiln, library):
    tapped = kiln.after(Remove("taps/tap"))
    assert tapped.weather is kiln.weather
    for plot, thirst in tapped.demand.thirsts.items():
        assert thirst is kiln.demand.thirsts[plot]
    elsewhere = kiln.after(SetValue("site/latitude_deg", 30.0))
    assert elsewhere.weather is not kiln.weather
    assert isinstance(elsewhere, Results)


def test_the_same_seed_gives_the_same_years_and_another_does_not(kiln_yard, library):
    again = assess(kiln_yard, library)
    other = assess(kiln_yard.model_copy(update={
        "site": kiln_yard.site.model_copy(update={"seed": 1})}), library)
    assert (again.weather.rain_mm == assess(kiln_yard, library).weather.rain_mm).all()
    assert (again.weather.rain_mm != other.weather.rain_mm).any()


def test_units_of_a_phrase_follow_the_reader(kiln):
    title = kiln.station("push").findings[0].title
    assert "kPa" in title.show("metric")
    assert "psi" in title.show("us")
    assert units.show_date(151) == "1\u00a0June"


def test_no_size_never_fails_where_more_is_wanted_than_comes(library):
    garden = poured(library, roof_width_m=1.0, roof_depth_m=1.0, beds=[
        BedAnswer(length_m=8, width_m=1.2, group="fruiting")] * 4)
    a = assess(SetValue("stores/barrels/indoors", True).apply(garden, library), library)
    comes, wanted = float(a.inflow.total_l.sum()), float(a.season.asked.sum())
    assert comes < wanted
    rule = next(rule for rule in a.sizes.rules if rule.key == "never-fails")
    assert rule.size_l == math.inf
    assert rule.reliability == pytest.approx(comes / wanted, rel=0.01)
    # A store that holds all that ever comes gives that, but for what is left in it at the end.
    vast = run_season(replace(a.season.world, size=np.array([comes])), start_share=0.0)
    assert vast.rain_share == pytest.approx(rule.reliability, rel=0.03)
    assert rule_verdict(a, rule).show("metric").startswith("None does")
    for view in VIEWS["store"]:
        assert view.panes(Sheet(a, Fields(a.garden, library)))


def test_a_larger_rule_gives_more(kiln):
    rules = sorted(kiln.sizes.rules, key=lambda rule: rule.size_l)
    assert {rule.key for rule in rules} == {"five-percent", "dry-spell", "never-fails"}
    shares = [rule.reliability for rule in rules]
    assert shares == sorted(shares)
    peak = next(rule for rule in rules if rule.key == "never-fails")
    # All is put together as one store, which two are not, and they are emptied every winter.
    assert peak.size_l == math.inf or peak.reliability > ALWAYS


def test_every_figure_opens_to_what_it_is_made_of(library, kiln):
    pots = Add("hand-tank").apply(Add("float-pots").apply(poured(library), library), library)
    for a in (kiln, assess(poured(library, tap=True), library), assess(pots, library)):
        for key in STATIONS:
            for told in a.station(key).figures:
                assert told.working.terms, (key, told.key)
