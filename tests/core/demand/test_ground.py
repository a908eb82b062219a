"""What a plot's ground holds through the year, and a root zone from day to day, by hand."""

from dataclasses import replace

import numpy as np
import pytest

from euhydra.core.demand import adjustments, crop_water, roots, soil
from euhydra.core.garden.model import Bed, Planting, Point, Pots, Tree, Wicking
from euhydra.core.weather.generator import MONTH_OF_DAY, DailyWeather
from worlds import holding

AT = Point(x_m=0, y_m=0)
SHARED = (Planting(id="p1", crop="tomato", planted="05-01", share=0.75),
          Planting(id="p2", crop="lettuce", planted="06-01", share=0.25))


def bed(**changes):
    return Bed(**({"id": "b", "name": "b", "corner": AT, "length_m": 4.0, "width_m": 1.0,
                   "soil": "loam", "plantings": SHARED[:1]} | changes))


def ground(plot, library, use=8.0, air=5.0, mulch_stops=0.0):
    shape = (1, 365)
    return soil.ground(plot, library, np.full(shape, use), np.full(shape, air), mulch_stops)


def steady(eto_mm):
    shape = (1, 365)
    return DailyWeather(np.zeros(shape), np.full(shape, 15.0), np.full(shape, 30.0),
                        np.full(shape, eto_mm))


def planted_alone(crop):
    return (Planting(id="p1", crop=crop, planted="05-01"),)


def left_alone_until(day, use, rain, land, bare=None):
    """What would refill a root zone at the end of a day, had nothing been given before it."""
    year = np.zeros((1, 365))
    year[0, :len(use)] = use
    wet = np.zeros((1, 365))
    wet[0, :len(rain)] = rain
    wet[0, -1] = 1000
    given = crop_water.refills(year, wet, np.arange(365) == day, 1, land)
    return given[0, day]


@pytest.mark.parametrize(("plot", "litres"), [
    (Wicking(id="w", name="w", kind="chain", corner=AT, count=3, bucket_l=20.0,
             plantings=SHARED), 3 * 20 * 0.9),
    (Pots(id="p", name="p", corner=AT, count=4, diameter_m=0.4, height_m=0.3, plantings=SHARED),
     4 * np.pi / 4 * 0.4**2 * 0.3 * 1000 * 0.9)])
def test_a_pot_s_mix_holds_the_same_all_year(library, plot, litres):
    assert soil.mix_l(plot) == pytest.approx(litres)
    told = ground(plot, library)
    full = litres * library.soils[plot.soil].available
    assert told.full_l == pytest.approx(full)
    assert np.allclose(told.hold_l, full)
    assert not told.bare_l.any()
    assert not told.caught_l.any()
    area = crop_water.plot_thirst(plot, library, steady(5.0)).area_m2
    p = [soil.unharmed_share(library.crops[c.crop].p, 8.0 / area) for c in SHARED]
    assert np.allclose(told.ready_l, full * (0.75 * p[0] + 0.25 * p[1]))


def test_soil_without_a_crop_dries_by_the_air_and_mulch_spares_it(library):
    told = ground(bed(mulch="straw"), library, air=5.0, mulch_stops=0.3)
    day = np.arange(365)
    grows = (day >= 120) & (day < 120 + 145)
    assert np.allclose(told.bare_l, np.where(grows, 0.0, 1.15 * 5.0 * 4 * 0.7))
    assert np.allclose(told.caught_l, np.where(grows, 4 * (0.2 + 0.5), 4 * 0.2))
    tew, rew = (4 * mm for mm in soil.top_layer_mm(library.soils["loam"]))
    assert np.allclose(told.hold_l[~grows], tew)
    assert np.allclose(told.ready_l[:, ~grows], rew)


def test_between_two_crops_the_bare_part_holds_its_top(library):
    told = ground(bed(plantings=SHARED), library)
    per_m = 1000 * library.soils["loam"].available * 4
    tomato, lettuce = (library.crops[p.crop] for p in SHARED)
    depth = [soil.root_depth(c, p.planted)
             for c, p in zip((tomato, lettuce), SHARED, strict=True)]
    early, both = 121, 160  # lettuce goes in on 1 June
    assert told.hold_l[early] == pytest.approx(
        per_m * (0.75 * depth[0][early] + 0.25 * soil.EVAPORATES_M))
    assert told.hold_l[both] == pytest.approx(per_m * (0.75 * depth[0][both]
                                                       + 0.25 * depth[1][both]))
    assert told.full_l == pytest.approx(per_m * (0.75 * tomato.root_m + 0.25 * lettuce.root_m))


def test_no_soil_holds_more_than_its_deepest_roots(library):
    shallow = replace(library, crops={**library.crops, "cress": replace(
        library.crops["lettuce"], root_m=0.05)})
    plot = bed(plantings=planted_alone("cress"))
    told = ground(plot, shallow)
    assert told.full_l == pytest.approx(1000 * library.soils["loam"].available * 4 * 0.05)
    assert told.hold_l.max() == pytest.approx(told.full_l)
    assert told.ready_l.max() <= told.full_l
    assert np.ptp(soil.root_depth(shallow.crops["cress"], "05-01")[120:190]) == 0


def test_a_tree_has_its_roots_from_the_first_day_of_its_year(library):
    tree = Tree(id="t", name="t", corner=AT, count=1, canopy_m=2.0, deep_m=2.0, soil="loam",
                plantings=planted_alone("tomato"))
    assert np.ptp(ground(tree, library).hold_l[120:265]) == 0
    annual = ground(bed(), library).hold_l[120:265]
    assert annual[0] < annual[-1]


def test_a_season_ends_after_as_many_days_as_its_crop_has(library):
    tomato = library.crops["tomato"]
    last = 120 + int(tomato.days) - 1
    for by_day in (crop_water.kc_year(tomato, "05-01"), soil.root_depth(tomato, "05-01")):
        assert by_day[last] > 0
        assert by_day[last + 1] == 0
        assert by_day[119] == 0
    held = ground(bed(), library)
    assert held.bare_l[0, last] == 0
    assert held.bare_l[0, last + 1] > 0


def test_eleven_days_of_roots_that_end_and_begin():
    """Litres, the roots' full depth holding 30, one litre of a shower caught, ready all it holds.

    Days 1 to 5: 20 rooted, 2 drawn a day. Day 6, harvest: 5 stay, of 10 lacking 7.5 go below.
    Day 7: 4 of rain, 1 caught, 2.5 stay, 0.5 passes to what lacks 7.5. Day 9: 10 rooted, taking
    5 of 25 below, and a fifth of the 7 it lacks. Day 11: all 30, and all that is lacking.
    """
    hold = np.full(365, 20.0)
    hold[5:8], hold[8:10], hold[10:200] = 5.0, 10.0, 30.0
    land = holding(30.0, ready=0.0, caught=1.0, hold=hold)
    land = replace(land, ready_l=hold[None, :])
    told = [left_alone_until(day, [2.0] * 5, [0.0] * 6 + [4.0], land) for day in range(11)]
    assert told == pytest.approx([2, 4, 6, 8, 10, 2.5, 0, 0, 1.4, 1.4, 7.0])


def test_bare_soil_gives_off_less_as_it_dries():
    # 10 held, 4 readily; 3 a day of wet soil: 3, 6, then Kr = (10 − 6) / (10 − 4), (10 − 8) / 6.
    land = holding(10.0, ready=4.0, bare=np.full((1, 365), 3.0))
    told = [left_alone_until(day, [], [], land) for day in range(4)]
    assert told == pytest.approx([3, 6, 8, 9])


def test_rain_is_caught_before_it_passes_below():
    # Of 9 lacking in 30, roots of 10 keep 3 and 6 go below. Three showers of 3, of which 1 is
    # caught, bring 2 each: 2 stay; 1 stays and 1 passes; 2 pass. Roots of 30 find 3 lacking.
    hold = np.full(365, 30.0)
    hold[1:4] = 10.0
    land = replace(holding(30.0, caught=1.0, hold=hold), ready_l=hold[None, :])
    told = [left_alone_until(day, [9.0], [0.0, 3.0, 3.0, 3.0], land) for day in range(5)]
    assert told == pytest.approx([9, 1, 0, 0, 3])


@pytest.mark.parametrize(("raw_over_peak", "days"), [(1.7, 1), (2.4, 2), (4.0, 2)])
def test_a_bed_waits_two_days_where_its_roots_last_them(library, raw_over_peak, days):
    def ratio(eto):
        t = crop_water.plot_thirst(bed(), library, steady(eto))
        return t, t.raw_l / t.peak_use_l
    least, most = 0.5, 80.0
    for _ in range(60):
        middle = (least + most) / 2
        least, most = (middle, most) if ratio(middle)[1] > raw_over_peak else (least, middle)
    told, at = ratio(middle)
    assert at == pytest.approx(raw_over_peak, abs=0.02)
    assert told.interval_days == days


def test_the_leaf_s_part_of_kc_is_five_hundredths_less(library):
    tomato = library.crops["tomato"]
    leaf = crop_water.kcb_year(tomato, "05-01")
    assert leaf[120] == adjustments.BARE == 0.15
    assert leaf[120 + 30 + 40 + 10] == pytest.approx(tomato.kc_mid - 0.05)
    late = tomato.kc_mid + (tomato.kc_end - tomato.kc_mid) * 29 / 30
    assert leaf[120 + 144] == pytest.approx(late - 0.05)
    pale = replace(tomato, kc_ini=0.12, kc_mid=0.12, kc_end=0.08)
    assert crop_water.kcb_year(pale, "05-01")[120:265] == pytest.approx(
        np.interp(np.arange(145), [0, 30, 70], [0.12, 0.12, 0.1]))


def thirst(**changes):
    shape = (1, 365)
    return crop_water.PlotThirst(**({
        "plot": "b", "potted": False, "area_m2": 1.0, "kc": np.ones(365),
        "use_l": np.ones(shape), "net_l": np.ones(shape), "raw_l": 4.0, "interval_days": 1,
        "peak_use_l": 8.0, "ground": holding(20.0), "rain_l": np.zeros(shape)} | changes))


@pytest.mark.parametrize(("raw", "peak", "times"), [
    (4.0, 8.0, 2), (4.0, 8.1, 3), (4.0, 3.0, 1), (4.0, 9.0, 3), (0.0, 9.0, 1)])
def test_a_root_zone_is_filled_as_often_as_it_empties(raw, peak, times):
    assert thirst(raw_l=raw, peak_use_l=peak).waterings_a_day == times


def test_a_month_speaks_of_its_days_in_season():
    kc = np.where((np.arange(365) >= 150) & (np.arange(365) < 160), 1.0, 0.0)
    ready = np.arange(365.0)[None, :]
    daily = np.arange(365.0)[None, :] * 2
    told = thirst(kc=kc, ground=replace(holding(20.0), ready_l=ready), net_l=daily, use_l=daily)
    may, june = 4, 5
    assert (MONTH_OF_DAY[150], MONTH_OF_DAY[151]) == (may, june)
    assert told.raw_by_month[may] == 150
    assert told.raw_by_month[june] == pytest.approx(155)
    assert told.raw_by_month[0] == told.raw_l
    assert (told.net_in_season(june), told.use_in_season(june)) == (310, 310)
    assert told.net_in_season(0) == 0
    assert told.net_by_month[june] == pytest.approx(2 * (151 + 180) / 2)


def test_roots_draw_as_they_like_while_what_is_ready_lasts():
    # Ready all that they hold: no stress to the last drop; half of it: in step with what is left.
    assert roots.stress(9.5, 10.0, 10.0) == pytest.approx(1.0)
    assert roots.stress(9.5, 10.0, 5.0) == pytest.approx(0.1)
    assert roots.stress(4.0, 10.0, 5.0) == 1.0
    assert roots.stress(11.0, 10.0, 5.0) == 0.0


def test_what_the_last_day_of_the_last_year_drew_lacks_on_the_first():
    year = np.zeros((2, 365))
    year[1, -1], year[0, -1] = 5.0, 3.0
    land = holding(20.0, years=2)
    given = crop_water.refills(year, np.zeros((2, 365)), np.arange(365) == 0, 1, land)
    assert given[:, 0] == pytest.approx([5.0, 3.0])


def test_a_day_s_need_is_the_mean_of_a_week_about_it_round_new_year():
    daily = np.zeros((1, 365))
    daily[0, [362, 2, 100]] = 7.0, 14.0, 70.0
    told = thirst(net_l=daily)
    assert [told.about(day) for day in (0, 1, 364, 361, 5, 96, 97, 103, 104)] == pytest.approx(
        [3, 2, 3, 1, 2, 0, 10, 10, 0])


def test_leaves_and_mulch_keep_some_of_a_day_s_rain(library):
    for mulch, keeps_mm in (("none", 0.0), ("straw", 0.2), ("chips", 0.3), ("plastic", 0.0)):
        told = ground(bed(mulch=mulch, length_m=5.0), library)
        grows = told.caught_l[200]
        assert grows == pytest.approx((keeps_mm + 0.5) * 5), mulch
        assert told.caught_l[20] == pytest.approx(keeps_mm * 5), mulch


def test_plants_in_a_pot_have_the_tabled_kc_however_thick_they_stand(library):
    tomato = library.crops["tomato"]
    pots = Pots(id="p", name="p", corner=AT, count=4, diameter_m=0.4, height_m=0.3,
                plantings=planted_alone("tomato"))
    assert crop_water.planting_kc(pots, pots.plantings[0], library) == pytest.approx(
        crop_water.kc_year(tomato, "05-01"))


def test_the_years_before_are_begun_full_and_the_last_goes_before_the_first():
    """Nothing is given till day 3 of the second year: what was drawn in all three years lacks.

    The last year's 1 + 2, the first's 4, the second's 8, of 50.
    """
    use = np.zeros((3, 365))
    use[2, [10, 364]], use[0, 5], use[1, 2] = (1.0, 2.0), 4.0, 8.0
    given = np.zeros_like(use)
    land = holding(50.0, years=3)
    grows = np.zeros(365, dtype=bool)
    grows[3] = True
    roots.refill_years(use, land.bare_l, np.zeros_like(use), land.caught_l, land.hold_l,
                       land.ready_l, land.full_l, grows, 3, given)
    assert given.sum(axis=1) == pytest.approx([3, 12, 1e-12], abs=1e-9)


def test_under_glass_no_rain_falls(library):
    wet = replace(steady(4.0), rain_mm=np.full((1, 365), 3.0))
    for cover, rained in (("open", True), ("glasshouse", False)):
        told = crop_water.plot_thirst(bed(cover=cover), library, wet)
        assert told.rain_l.any() == rained


def test_a_season_over_new_year_goes_on_as_any_other(library):
    tomato = library.crops["tomato"]
    for by_day in (soil.root_depth, crop_water.kc_year, crop_water.kcb_year):
        assert np.roll(by_day(tomato, "01-01"), 304) == pytest.approx(by_day(tomato, "11-01"))
    southern = ground(bed(plantings=(Planting(id="p1", crop="tomato", planted="11-01"),)), library)
    assert np.roll(ground(bed(plantings=(Planting(
        id="p1", crop="tomato", planted="01-01"),)), library).hold_l, 304) == pytest.approx(
            southern.hold_l)
