"""Crop coefficients, stages, roots and p against FAO-56 Tables 11, 12 and 22, recalled."""

import numpy as np
import pytest

from euhydra.core.demand.crop_water import kc_year, stage_on
from euhydra.data import library

CROPS = library().crops
# Kc ini, mid, end (Table 12); days ini, dev, mid, late (Table 11, one of its rows); root depth
# from, to in m and p (Table 22). Recalled.
FAO = {
    "broccoli": (0.70, 1.05, 0.95, 35, 45, 40, 15, 0.4, 0.6, 0.45),
    "cabbage": (0.70, 1.05, 0.95, 40, 60, 50, 15, 0.5, 0.8, 0.45),
    "carrot": (0.70, 1.05, 0.95, 30, 40, 60, 20, 0.5, 1.0, 0.35),
    "cauliflower": (0.70, 1.05, 0.95, 35, 50, 40, 15, 0.4, 0.7, 0.45),
    "celery": (0.70, 1.05, 1.00, 25, 40, 45, 15, 0.3, 0.5, 0.20),
    "lettuce": (0.70, 1.00, 0.95, 20, 30, 15, 10, 0.3, 0.5, 0.30),
    "spinach": (0.70, 1.00, 0.95, 20, 20, 25, 5, 0.3, 0.5, 0.20),
    "radish": (0.70, 0.90, 0.85, 5, 10, 15, 5, 0.3, 0.5, 0.30),
    "aubergine": (0.60, 1.05, 0.90, 30, 40, 40, 20, 0.7, 1.2, 0.45),
    "tomato": (0.60, 1.15, 0.80, 30, 40, 45, 30, 0.7, 1.5, 0.40),
    "cantaloupe": (0.50, 0.85, 0.60, 30, 45, 35, 10, 0.9, 1.5, 0.45),
    "cucumber": (0.60, 1.00, 0.75, 20, 30, 40, 15, 0.7, 1.2, 0.50),
    "pumpkin": (0.50, 1.00, 0.80, 20, 30, 30, 20, 1.0, 1.5, 0.35),
    "watermelon": (0.40, 1.00, 0.75, 20, 30, 30, 30, 0.8, 1.5, 0.40),
    "beet": (0.50, 1.05, 0.95, 15, 25, 20, 10, 0.6, 1.0, 0.50),
    "potato": (0.50, 1.15, 0.75, 25, 30, 45, 30, 0.4, 0.6, 0.35),
    "sweet-potato": (0.50, 1.15, 0.65, 20, 30, 60, 40, 1.0, 1.5, 0.65),
    "bean": (0.50, 1.05, 0.90, 20, 30, 30, 10, 0.5, 0.7, 0.45),
    "pea": (0.50, 1.15, 1.10, 20, 30, 35, 15, 0.6, 1.0, 0.35),
    "onion": (0.70, 1.05, 0.75, 15, 25, 70, 40, 0.3, 0.6, 0.30),
    "artichoke": (0.50, 1.00, 0.95, 40, 40, 250, 30, 0.6, 0.9, 0.45),
    "strawberry": (0.40, 0.85, 0.75, None, None, None, None, 0.2, 0.3, 0.20),
    "sweet-corn": (0.30, 1.15, 1.05, 20, 30, 30, 10, 0.8, 1.2, 0.50),
    "bush-fruit": (0.30, 1.05, 0.50, 20, 50, 75, 60, 0.6, 1.2, 0.50),
    "grape": (0.30, 0.85, 0.45, None, None, None, None, 1.0, 2.0, 0.35),
    "pear": (0.45, 0.95, 0.70, 20, 70, 90, 30, 1.0, 2.0, 0.50),
    "peach": (0.45, 0.90, 0.65, 20, 70, 90, 30, 1.0, 2.0, 0.50),
    "kiwi": (0.40, 1.05, 1.05, None, None, None, None, 0.7, 1.3, 0.35),
    "citrus": (0.70, 0.65, 0.70, 60, 90, 120, 95, 1.2, 1.5, 0.50),
    "olive": (0.65, 0.70, 0.70, 30, 90, 60, 90, 1.2, 1.7, 0.65),
    "walnut": (0.50, 1.10, 0.65, 20, 10, 130, 30, 1.7, 2.4, 0.50),
    "sunflower": (0.35, None, 0.35, 25, 35, 45, 25, 0.8, 1.5, 0.45),
    "lawn-cool": (0.90, 0.95, 0.95, None, None, None, None, 0.5, 1.0, 0.40),
    "lawn-warm": (0.80, 0.85, 0.85, None, None, None, None, 0.5, 1.0, 0.50),
}


@pytest.mark.parametrize("key", FAO)
def test_a_crop_is_as_tabled(key):
    crop, fao = CROPS[key], FAO[key]
    told = (crop.kc_ini, crop.kc_mid, crop.kc_end, crop.days_ini, crop.days_dev, crop.days_mid,
            crop.days_late)
    for ours, tabled in zip(told, fao[:7], strict=True):
        assert tabled is None or ours == tabled
    assert fao[7] <= crop.root_m <= fao[8]
    assert crop.p == fao[9]
    if fao[3] is not None:
        assert crop.standing == "published"


def test_there_are_sixty_crops_and_each_has_a_source():
    assert len(CROPS) >= 60
    assert {c.season for c in CROPS.values()} == {"warm", "cool"}
    for crop in CROPS.values():
        assert crop.source
        assert 0.1 <= crop.kc_ini <= 1.3
        assert crop.kc_mid >= 0.3
        assert 0.1 <= crop.p <= 0.8
        assert crop.days <= 365


def test_kc_runs_level_up_level_and_down():
    # FAO-56 figure 34: level, a straight rise, level, a straight fall. Tomato from 1 May.
    kc = kc_year(CROPS["tomato"], "05-01")
    start = 120
    assert np.allclose(kc[start:start + 31], 0.60)
    assert kc[start + 50] == pytest.approx((0.60 + 1.15) / 2)
    assert np.allclose(kc[start + 70:start + 116], 1.15)
    assert kc[start + 130] == pytest.approx((1.15 + 0.80) / 2)
    assert kc[start + 145:].sum() == 0
    stages = [stage_on(CROPS["tomato"], "05-01", start + d) for d in (0, 29, 30, 70, 115, 145)]
    assert stages == ["first growth", "first growth", "growing", "full grown", "ripening", ""]
