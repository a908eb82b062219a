"""The other half of the world, high latitudes, snow, and stores that are in for the frost."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.construction.care import due
from euhydra.core.editing.edits import Add, SetArchetype, TurnSeasons
from euhydra.core.editing.fields import measure_at, parse_for
from euhydra.core.editing.values import SetValue
from euhydra.core.log.levels import caught_l_mm
from euhydra.core.parsing import BadEntry
from euhydra.core.weather.eto import (
    day_length,
    extraterrestrial_radiation,
    penman_monteith,
    radiation_from_sunshine,
)
from euhydra.core.weather.frost import timer_days
from euhydra.core.weather.hemispheres import turned, turned_day
from euhydra.core.weather.snow import melted
from gardens import climate_of, poured


def rules(garden, library):
    a = assess(garden, library)
    return {f.rule: f for key in STATIONS for f in a.station(key).findings}


def test_a_latitude_across_the_equator_turns_the_whole_year(library):
    north = poured(library)
    south = SetValue("site/latitude_deg", -41.3).apply(north, library)
    assert south.site.climate.rain_mm[:6] == north.site.climate.rain_mm[6:]
    assert (south.site.last_frost, south.site.first_frost) == ("10-24", "04-19")
    for one, other in zip(north.plots, south.plots, strict=True):
        assert other.plantings[0].planted == turned_day(one.plantings[0].planted)
    assert "place.turned" in rules(south, library)
    assert SetValue("site/latitude_deg", 41.3).apply(south, library) == north
    needs = assess(south, library).demand.need_by_month
    assert int(np.argmax(needs)) in (11, 0, 1)
    assert needs.max() == pytest.approx(assess(north, library).demand.need_by_month.max(), rel=0.1)


def test_months_of_one_s_own_stay_where_they_were_typed(library):
    own = SetValue("site/climate/rain_mm/0", 12.0).apply(poured(library), library)
    assert SetValue("site/latitude_deg", -41.3).apply(own, library).site.climate == (
        own.site.climate)


def test_a_climate_that_is_picked_keeps_the_garden_in_its_half(library):
    south = SetArchetype("continental").apply(poured(library, latitude_deg=-30.0), library)
    row = library.climates["continental"]
    assert south.site.latitude_deg == -row.latitude_deg
    assert south.site.climate == turned(climate_of(library, "continental"))
    assert south.site.last_frost == turned_day(row.last_frost)
    at_home = SetArchetype("southern-temperate").apply(south, library)
    assert at_home.site.climate == climate_of(library, "southern-temperate")


def test_months_of_the_wrong_half_are_told_and_turned(library):
    south = SetValue("site/latitude_deg", -41.3).apply(poured(library), library)
    wrong = TurnSeasons().apply(south, library)  # as an earlier version kept it
    finding = rules(wrong, library)["place.wrong-half"]
    assert finding.remedies[0].edit.apply(wrong, library) == south


@pytest.mark.parametrize("latitude", [-72.0, -67.0, 0.0, 67.0, 72.0])
def test_every_station_speaks_up_to_seventy_two_degrees(library, latitude):
    garden = poured(library, latitude_deg=latitude)
    a = assess(garden, library)
    assert np.isfinite(a.weather.eto_mm).all()
    assert all(a.station(key).verdict.show("us") for key in STATIONS)
    measure = measure_at(garden, "site/latitude_deg")
    assert parse_for(measure, "72", "metric") == 72
    with pytest.raises(BadEntry):
        parse_for(measure, "72.5", "metric")


def test_the_sun_neither_rises_in_a_polar_night_nor_sets_in_a_polar_day():
    """FAO-56 eq. 21 at ωs = π: Ra = 24·60·Gsc·dr·sin φ·sin δ, worked by hand for midsummer."""
    assert day_length(70.0, 355) == 0
    assert day_length(70.0, 172) == 24
    assert extraterrestrial_radiation(70.0, 355) == 0
    phi, declination = np.radians(70), 0.409 * np.sin(2 * np.pi * 172 / 365 - 1.39)
    nearness = 1 + 0.033 * np.cos(2 * np.pi * 172 / 365)
    assert extraterrestrial_radiation(70.0, 172) == pytest.approx(
        24 * 60 * 0.082 * nearness * np.sin(phi) * np.sin(declination))
    assert radiation_from_sunshine(0.0, 70.0, 355) == 0
    assert np.isfinite(penman_monteith(-20.0, -10.0, 0.1, 2.0, 0.0, 0.0))


def test_snow_lies_until_it_melts_three_millimetres_a_degree():
    """Worked by hand: 10 mm fall at −5 °C, then means of 1, 2 and 3 °C, rain on the last day."""
    fell = np.array([[10.0, 0, 0, 4, 0]])
    mean = np.array([[-5.0, 1, 2, 3, 5]])
    assert melted(fell, mean - 3, mean + 3)[0].tolist() == pytest.approx([0, 3, 6, 5, 0])


@given(arrays(float, (2, 365), elements=st.floats(0, 40)),
       arrays(float, (2, 365), elements=st.floats(-25, 30)))
def test_no_snow_is_lost_or_made(fell, mean):
    water = melted(fell, mean - 2, mean + 2)
    assert (water >= -1e-9).all()
    assert water.sum() <= fell.sum() + 1e-6
    assert (np.cumsum(water) <= np.cumsum(fell) + 1e-6).all()
    assert (water[((mean - 2) + (mean + 2)) / 2 < 0] == 0).all()


def test_stores_stand_empty_through_the_frost_and_what_that_costs_is_told(library):
    garden = poured(library)
    a = assess(garden, library)
    out = ~timer_days(garden.site)
    season = a.season
    assert (season.level[:, :, out] == 0).all()
    assert season.world.inflow[:, :, out].sum() == 0
    assert season.emptied.sum() > 0
    assert season.emptied[:, np.roll(out, 1) & out].sum() == 0
    told = rules(garden, library)
    assert told["store.winter"].title.amounts["v"].value == pytest.approx(
        season.a_year(season.emptied))
    loss = float(sum(y.winter_l.sum() for y in a.inflow.yields.values())) / a.years
    assert told["catch.winter"].title.amounts["v"].value == pytest.approx(loss)
    (warm,) = told["store.winter"].remedies
    kept = assess(warm.edit.apply(garden, library), library)
    assert kept.season.emptied.sum() == 0
    assert kept.season.world.inflow.sum() == pytest.approx(
        season.world.inflow.sum() + loss * a.years)
    assert kept.season.rain_share > season.rain_share


def test_where_there_is_no_frost_nothing_comes_in(library):
    garden = SetArchetype("wet-tropics").apply(poured(library), library)
    a = assess(garden, library)
    assert a.season.emptied.sum() == 0
    assert not a.season.world.out.any()
    assert {d.key for d in due(a.garden, a.schedule)}.isdisjoint({"timer-in", "timer-out"})
    assert rules(garden, library).keys().isdisjoint({"store.winter", "catch.winter", "grow.frost"})


def test_a_row_on_float_valves_gets_nothing_while_its_store_is_out(library):
    garden = Add("gutter").apply(poured(library), library)
    row = garden.plots[-1].id
    garden = SetValue(f"plots/{row}/plantings/p1/planted", "03-01").apply(garden, library)
    a = assess(garden, library)
    at = a.season.world.plots.index(row)
    assert a.season.given[at][:, ~timer_days(garden.site)].sum() == 0
    assert a.season.given[at].sum() > 0


def test_a_logged_millimetre_brings_what_it_does_while_the_barrels_are_out(library):
    """Not diluted by the winter, when the diverters are shut."""
    garden = poured(library)
    a = assess(garden, library)
    warm = assess(SetValue("stores/barrels/indoors", True).apply(garden, library), library)
    assert caught_l_mm(a, garden.store) == pytest.approx(caught_l_mm(warm, garden.store), rel=0.05)
    assert 0.85 * 15 * 0.95 < caught_l_mm(a, garden.store) < 15 * 0.95
