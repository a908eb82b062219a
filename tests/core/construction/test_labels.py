"""Labels: the sign where it is due and nowhere else, and every name as it was given."""

import pytest

from euhydra.core.construction.labels import GREY_WATER, NOT_FOR_DRINKING, labels
from euhydra.core.editing.values import SetValue
from euhydra.data import library as load_library
from gardens import poured

LIBRARY = load_library()


def signs(garden):
    return {(x.hangs_on, x.about): x.sign for x in labels(garden, LIBRARY)}


def test_rain_is_signed_at_the_barrel_and_at_every_valve_and_the_mains_is_not(library):
    garden = poured(library, tap=True)
    for path, value in (("taps/tap/tops_up", ""), ("plots/bed-1/fed_by", "tap")):
        garden = SetValue(path, value).apply(garden, library)
    said = signs(garden)
    for zone in garden.zones:
        due = "" if zone.source == "tap" else NOT_FOR_DRINKING
        assert said["valve", zone.id] == due
    assert {z.source for z in garden.zones} == {"tap", garden.stores[0].id}
    assert said["barrel", garden.stores[0].id] == NOT_FOR_DRINKING
    assert not any(sign for (hangs_on, _), sign in said.items() if hangs_on == "bed")


@pytest.mark.parametrize("school", ["basins", "drum"])
def test_laundry_water_has_a_sign_of_its_own(kiln_yard, library, school):
    garden = SetValue(f"drains/{kiln_yard.drains[0].id}/school", school).apply(kiln_yard, library)
    (drain,) = [x for x in labels(garden, LIBRARY) if x.hangs_on == "drain"]
    assert drain.sign == GREY_WATER
    assert ("sewer" in drain.title) == (school == "basins")


def test_soakers_come_indoors_by_name_and_nothing_else_does(library):
    garden = SetValue("plots/bed-1/method", "soaker").apply(poured(library), library)
    garden = SetValue("plots/bed-1/name", "Bed {1}").apply(garden, library)
    (soaker,) = [x for x in labels(garden, LIBRARY) if x.hangs_on == "soaker"]
    lies = sum(x.length_m for x in garden.lines if x.plot == "bed-1")
    assert soaker.title == "Soaker of Bed {1}"
    assert soaker.line.amounts["m"].value == pytest.approx(lies)
    valve = next(x for x in labels(garden, LIBRARY) if x.hangs_on == "valve")
    assert "Bed {1}" in valve.line.show("us")
