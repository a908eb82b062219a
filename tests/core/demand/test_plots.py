"""Thirst of every kind of plot: balances by hand, pots, habits."""

import math

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.demand import adjustments, crop_water, plants, roots, soil
from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Bed, Planting, Point, Pots, Tree
from euhydra.core.season import run_season
from gardens import poured
from worlds import holding, steady, world


def year(*first, then=0.0, last=None):
    """One year by day: the days given, then the same on every other; the last may differ."""
    values = np.full((1, 365), float(then))
    values[0, :len(first)] = first
    if last is not None:
        values[0, -1] = last
    return values


def test_ten_days_of_a_root_zone_by_hand():
    # mm on 1 m², watered every second day. Depletion after the day's use and rain, then watering:
    # 5 → given 5; 5; 11 → 11; 0+6-8 → 0; 4 → 4; 4; 9-30 → 0, nothing to give; 5; 11 → 11; 6.
    use = year(5, 5, 6, 6, 4, 4, 5, 5, 6, 6)
    rain = year(0, 0, 0, 8, 0, 0, 30, 0, 0, 0, last=1000)
    season = np.arange(365) < 10
    given = crop_water.refills(use, rain, season, 2, holding(60.0))[0]
    assert given[:10].tolist() == [5, 0, 11, 0, 4, 0, 0, 0, 11, 0]
    assert given[10:].sum() == 0


def test_depletion_stops_at_what_the_roots_reach():
    # 10 mm a day from a store of 60: after six days it is empty, and one watering refills it.
    use = year(*[10] * 9, last=0)
    season = np.zeros(365, dtype=bool)
    season[8] = True
    given = crop_water.refills(use, year(last=1000), season, 2, holding(60.0))[0]
    assert given[8] == 60


def test_ten_days_of_effective_rain_and_depletion_by_hand():
    """mm on 1 m², nothing given: leaves keep 0.5 of a day's rain, the roots hold 20, 10 readily.

    | day | use | Ks   | drunk | before rain | rain | stays | passes | depletion |
    |   1 |  4  | 1    | 4     |  4          |  0   | 0     | 0      |  4        |
    |   2 |  4  | 1    | 4     |  8          |  0.4 | 0     | 0      |  8        |
    |   3 |  4  | 1    | 4     | 12          |  0   | 0     | 0      | 12        |
    |   4 |  5  | 0.8  | 4     | 16          |  6.5 | 6     | 0      | 10        |
    |   5 |  5  | 1    | 5     | 15          |  0   | 0     | 0      | 15        |
    |   6 |  4  | 0.5  | 2     | 17          |  0   | 0     | 0      | 17        |
    |   7 |  5  | 0.3  | 1.5   | 18.5        | 30.5 | 18.5  | 11.5   |  0        |
    |   8 |  3  | 1    | 3     |  3          |  1.5 | 1     | 0      |  2        |
    |   9 |  3  | 1    | 3     |  5          |  9.5 | 5     | 4      |  0        |
    |  10 |  6  | 1    | 6     |  6          |  0   | 0     | 0      |  6        |
    """
    use = [4, 4, 4, 5, 5, 4, 5, 3, 3, 6]
    rain = [0, 0.4, 0, 6.5, 0, 0, 30.5, 1.5, 9.5, 0]
    told = [4, 8, 12, 10, 15, 17, 0, 2, 0, 6]
    stays = [roots.effective_rain(*day) for day in zip(
        rain, [0.5] * 10, [4, 8, 12, 16, 15, 17, 18.5, 3, 5, 6], strict=True)]
    assert stays == [0, 0, 0, 6, 0, 0, 18.5, 1, 5, 0]
    for day in range(10):
        # What would refill the root zone on that day, had it been let alone until then.
        season = np.arange(365) == day
        given = crop_water.refills(year(*use), year(*rain, last=1000), season, 1,
                               holding(20.0, 10.0, 0.5))
        assert given[0, day] == pytest.approx(told[day]), day


def test_the_season_knows_the_same_ten_days():
    use = year(4, 4, 4, 5, 5, 4, 5, 3, 3, 6)
    rain = year(0, 0.4, 0, 6.5, 0, 0, 30.5, 1.5, 9.5, 0)
    w = world(use, rain, np.zeros((1, 365, 4)), total=20.0, ready=10.0,
              caught=np.full((1, 365), 0.5))
    season = run_season(w, start_share=0.5)
    # Half of each day's thirst falls before noon, and each half has its own Ks. Day 4: 12
    # + 2.5 × 0.8 + 2.5 × 0.6 − 6 = 9.5. Day 5: 9.5 + 2.5 + 2.5 × 0.8 = 14. Day 6: 14 + 2 × 0.6
    # + 2 × 0.48.
    assert season.depletion[0, 0, :10] == pytest.approx(
        [4, 8, 12, 9.5, 14, 16.16, 0, 2, 0, 6])


def test_roots_grow_to_mid_season_and_reach_soil_as_it_stands(library):
    tomato = library.crops["tomato"]
    depth = soil.root_depth(tomato, "05-01")
    start = 120
    assert depth[start - 1] == 0
    assert depth[start] == soil.FIRST_ROOT_M
    assert depth[start + 35] == pytest.approx((soil.FIRST_ROOT_M + tomato.root_m) / 2)
    assert depth[start + 70] == depth[start + 144] == tomato.root_m
    assert soil.root_depth(library.crops["pear"], "04-01").max() == soil.root_depth(
        library.crops["pear"], "04-01")[100]
    # 10 of 30 mm rooted, the 20 below lack 8: roots that grow by 5 take a quarter of that over.
    assert roots.grown(3.0, 8.0, 10.0, 15.0, 30.0) == pytest.approx((5.0, 6.0))
    # Harvest: of 20 rooted 5 stay bare; what lacked evenly stays where it was.
    assert roots.grown(8.0, 0.0, 20.0, 5.0, 20.0) == pytest.approx((2.0, 6.0))


def test_bare_soil_dries_from_its_top_and_a_dry_winter_leaves_it_dry(library):
    # FAO-56 eq. 73 and Table 19, recalled: loam, TEW about 19 mm, REW 8 to 10 (here 7.6).
    tew, rew = soil.top_layer_mm(library.soils["loam"])
    assert (tew, rew) == pytest.approx((19.0, 7.6))
    dry, wet = (crop_water.plot_thirst(bed(), library, steady(rain_mm=mm)) for mm in (0.0, 9.0))
    first = int(np.flatnonzero(dry.kc > 0)[0])
    watered = slice(first, first + 2)
    # Watered from the first day on, a bed that lay dry through the winter wants its top filled.
    assert dry.net_l[0, watered].sum() > 4 * 0.8 * tew
    assert wet.net_l[0, watered].sum() == 0
    # The whole year's need is what the crop uses and what the bare top had lost, and no more.
    assert dry.net_l.sum() == pytest.approx(dry.use_l.sum() + 4 * tew, rel=0.05)


def test_p_follows_each_day_s_thirst(library):
    t = crop_water.plot_thirst(bed(), library, steady())
    day = 195
    p = soil.unharmed_share(library.crops["tomato"].p, t.use_l[0, day] / 4)
    assert t.ground.ready_l[0, day] == pytest.approx(t.ground.hold_l[day] * p)
    assert t.ground.ready_l[0, 125] > t.ground.hold_l[125] * p, "less thirst, more is ready"


def test_ks_share_falls_with_a_harder_pull():
    assert soil.unharmed_share(0.4, 5.0) == pytest.approx(0.4)
    assert soil.unharmed_share(0.4, 7.5) == pytest.approx(0.3)
    assert soil.unharmed_share(0.4, 30.0) == 0.1
    assert soil.unharmed_share(0.7, 0.0) == 0.8


def bed(**changes):
    base = {"id": "b", "name": "b", "corner": Point(x_m=0, y_m=0), "length_m": 4.0,
            "width_m": 1.0, "soil": "loam", "plantings": (Planting(id="p1", crop="tomato",
                                                                   planted="05-01"),)}
    return Bed(**(base | changes))


def test_a_bed_s_use_is_eto_times_kc_times_area(library):
    t = crop_water.plot_thirst(bed(), library, steady())
    july = slice(181, 212)
    assert t.kc[july].max() == pytest.approx(library.crops["tomato"].kc_mid)
    assert t.use_l[0, 195] == pytest.approx(6.0 * t.kc[195] * 4.0)
    # No rain: what is given makes up what is used, watering day by watering day.
    in_season = t.kc > 0
    assert t.net_l[0][in_season].sum() == pytest.approx(t.use_l[0][in_season].sum(), rel=0.02)


def test_interplanted_crops_add_by_their_shares(library):
    both = bed(plantings=(Planting(id="p1", crop="tomato", planted="05-01", share=0.5),
                          Planting(id="p2", crop="lettuce", planted="05-01", share=0.5)))
    mixed = crop_water.plot_thirst(both, library, steady()).use_l
    alone = [crop_water.plot_thirst(bed(plantings=(Planting(id="p1", crop=c, planted="05-01"),)),
                                library, steady()).use_l for c in ("tomato", "lettuce")]
    assert np.allclose(mixed, (alone[0] + alone[1]) / 2)


def test_an_l_shaped_bed_counts_only_its_own_ground(library):
    corners = ((0, 0), (4, 0), (4, 0.5), (2, 0.5), (2, 1), (0, 1))
    shape = bed(outline=tuple(Point(x_m=x, y_m=y) for x, y in corners))
    assert crop_water.plot_thirst(shape, library, steady()).area_m2 == pytest.approx(3.0)


@pytest.mark.parametrize(("change", "factor"), [
    ({"exposure": "windy"}, adjustments.WIND["windy"]),
    ({"cover": "glasshouse"}, adjustments.GLASS),
    ({"shade": "panel", "shade_h": 13.0},
     1 - adjustments.LIGHT_SHARE * adjustments.SHADE_STOPS["panel"])])
def test_the_air_about_a_plot_scales_its_use(library, change, factor):
    plain, changed = (crop_water.plot_thirst(bed(**c), library, steady(), 13.0)
                      for c in ({}, change))
    assert changed.use_l.sum() / plain.use_l.sum() == pytest.approx(factor, rel=1e-6)


def test_light_about_noon_is_half_a_sine():
    assert adjustments.light_about_noon(0, 12) == 0
    assert adjustments.light_about_noon(12, 12) == pytest.approx(1)
    assert adjustments.light_about_noon(4, 12) == pytest.approx(0.5)
    assert adjustments.light_about_noon(30, 12) == 1


def test_mulch_cuts_evaporation_and_never_the_leaf_s_share(library):
    kc = np.array([0.0, 0.6, 1.15])
    kcb = np.array([0.0, 0.15, 1.10])
    mulched = adjustments.with_habits(kc, kcb, 0.5, 1.0)
    assert mulched.tolist() == pytest.approx([0.0, 0.375, 1.125])
    assert adjustments.with_habits(kc, kcb, 0.0, 1.0).tolist() == pytest.approx(kc.tolist())


def test_thin_planting_uses_less_and_packing_saves_ground(library):
    full, half = bed(), bed(plantings=(Planting(id="p1", crop="tomato", planted="05-01",
                                                count=6),))
    assert plants.fits(full, full.main, library) == 16
    assert plants.cover(half, half.main, library) == pytest.approx(6 / 16)
    uses = [crop_water.plot_thirst(b, library, steady()).use_l.sum() for b in (full, half)]
    assert 0.4 < uses[1] / uses[0] < 0.8


def test_a_july_pot_s_waterings_follow_from_its_mix(library):
    # 10 L of mix holds 2.5 L that roots can draw; at p adjusted for the pull, less before stress.
    def pots(height):
        return Pots(id="p", name="p", corner=Point(x_m=0, y_m=0), count=1, diameter_m=0.3,
                    height_m=height, plantings=(Planting(id="p1", crop="tomato",
                                                         planted="05-01"),))
    small, deep = (crop_water.plot_thirst(pots(h), library, steady()) for h in (0.15, 0.6))
    litres = math.pi / 4 * 0.3**2 * 0.15 * 1000 * soil.POT_FILL
    leaf = math.pi / 4 * 0.6**2
    assert small.area_m2 == pytest.approx(leaf)
    share = soil.unharmed_share(0.4, small.peak_use_l / leaf)
    assert small.raw_l == pytest.approx(litres * 0.25 * share)
    assert small.waterings_a_day == math.ceil(small.peak_use_l / small.raw_l)
    assert small.waterings_a_day > deep.waterings_a_day >= 1


def test_an_espalier_s_leaves_are_an_ellipse(library):
    tree = Tree(id="t", name="t", corner=Point(x_m=0, y_m=0), count=2, canopy_m=2.2, deep_m=0.6,
                apart_m=2.6, plantings=(Planting(id="p1", crop="pear", planted="04-01"),))
    assert plants.leaf_area_m2(tree, library) == pytest.approx(2 * math.pi / 4 * 2.2 * 0.6)
    assert tree.length_m == pytest.approx(4.8)










def test_own_measures_come_to_the_same_litres(library):
    cans = bed(own_l_day=20.0)
    depth = bed(own_mm_week=25.0)
    assert crop_water.own_measure_l_day(cans, 4.0) == 20.0
    assert crop_water.own_measure_l_day(depth, 4.0) == pytest.approx(25 * 4 / 7)


def test_a_crop_of_one_s_own_waters_like_its_figures(library):
    garden = Add("crop").apply(poured(library), library)
    for name, value in (("name", "Sea kale"), ("kc_mid", 0.5), ("kc_end", 0.4), ("season", "cool")):
        garden = SetValue(f"crops/own-1/{name}", value).apply(garden, library)
    garden = SetValue("plots/bed-1/plantings/p1/crop", "own-1").apply(garden, library)
    a = assess(garden, library)
    assert a.library.crops["own-1"].name == "Sea kale"
    assert a.demand.thirsts["bed-1"].kc.max() == pytest.approx(0.5)
    from euhydra.core.editing.trees import EditRefused

    with pytest.raises(EditRefused, match="grows this crop"):
        Remove("crops/own-1").apply(garden, library)


def test_crops_share_a_bed_and_give_it_back(library):
    garden = poured(library)
    for _ in range(2):
        garden = Add("plots/bed-1/plantings").apply(garden, library)
    shares = [p.share for p in garden.plot("bed-1").plantings]
    assert shares == pytest.approx([1 / 3] * 3, abs=1e-5)
    garden = Remove("plots/bed-1/plantings/p2").apply(garden, library)
    assert sum(p.share for p in garden.plot("bed-1").plantings) == pytest.approx(1, abs=1e-5)


def test_today_is_a_week_s_mean_and_out_of_season_nothing(library):
    t = crop_water.plot_thirst(bed(), library, steady())
    assert t.about(195) == pytest.approx(6.0 * t.kc[192:199].mean() * 4.0, rel=0.2)
    assert t.about(10) == 0
    assert t.hottest_week_l >= t.net_by_month.max()
    assert crop_water.stage_on(library.crops["tomato"], "05-01", 125) == "first growth"
    assert crop_water.stage_on(library.crops["tomato"], "05-01", 10) == ""
