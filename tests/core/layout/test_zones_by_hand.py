"""Plots put into a zone by hand: what opens with what, what is refused quietly, what it costs."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Remove
from euhydra.core.editing.values import SetValue
from euhydra.core.layout.zoning import parted_by, stands_with
from euhydra.core.stations.shares import shares, year_shares
from gardens import poured

BEDS = (BedAnswer(length_m=3.0, width_m=1.2, group="leafy"),
        BedAnswer(length_m=3.0, width_m=1.2, group="fruiting"),
        BedAnswer(length_m=2.0, width_m=1.2, group="leafy"))


@pytest.fixture
def garden(library):
    return poured(library, beds=BEDS, pots=4)


def zone_with(garden, plot):
    return next(z for z in garden.zones if plot in z.plots)


def put(garden, library, *pairs):
    for plot, other in pairs:
        garden = SetValue(f"plots/{plot}/opens_with", other).apply(garden, library)
    return garden


def test_a_plot_put_with_another_opens_with_it_and_back(garden, library):
    assert zone_with(garden, "bed-1").plots == ("bed-1", "bed-3")
    assert zone_with(garden, "bed-2").plots == ("bed-2",)
    joined = put(garden, library, ("bed-2", "bed-1"))
    assert set(zone_with(joined, "bed-1").plots) == {"bed-1", "bed-3", "bed-2"}
    assert len(joined.zones) == len(garden.zones) - 1
    assert [z.name.split(" · ")[0] for z in joined.zones] == [
        str(n) for n in range(1, len(joined.zones) + 1)]
    lines = {line.zone for line in joined.lines if line.plot == "bed-2"}
    assert lines == {zone_with(joined, "bed-1").id}
    assert put(joined, library, ("bed-2", "")) == garden


def test_chains_rings_and_plots_that_are_gone_do_no_harm(garden, library):
    chained = put(garden, library, ("bed-2", "bed-1"), ("pots-1", "bed-2"))
    assert len(zone_with(chained, "pots-1").plots) == 4
    ring = put(garden, library, ("bed-1", "bed-2"), ("bed-2", "bed-1"))
    assert sum(len(z.plots) for z in ring.zones) == len(ring.plots)
    assert put(garden, library, ("bed-1", "bed-1")).zones == garden.zones
    gone = Remove("plots/bed-1").apply(put(garden, library, ("bed-2", "bed-1")), library)
    assert gone.plot("bed-2").opens_with == ""


def test_another_source_s_plot_stays_where_its_water_is(library):
    garden = poured(library, beds=BEDS, tap=True)
    garden = SetValue("taps/tap/tops_up", "").apply(garden, library)
    garden = SetValue("plots/bed-2/fed_by", "tap").apply(garden, library)
    asked = put(garden, library, ("bed-2", "bed-1"))
    assert stands_with(asked, asked.plot("bed-2")).id == "bed-2"
    assert asked.zones == garden.zones


def test_seedlings_open_by_themselves_twice_a_day(garden, library):
    raised = SetValue("plots/bed-3/seedlings", True).apply(garden, library)
    assert zone_with(raised, "bed-3").plots == ("bed-3",)
    assert parted_by(raised, library, raised.plot("bed-1"), raised.plot("bed-3")) == ("thirst",)
    a = assess(raised, library)
    zone = zone_with(raised, "bed-3").id
    assert a.schedule.settings[zone]
    assert all(s.runs_a_week >= 14 for s in a.schedule.settings[zone])
    assert any(s.runs_a_week < 14 for s in a.schedule.settings[zone_with(raised, "bed-1").id])


def test_what_parts_two_plots_is_named(garden, library):
    one, two, three = (garden.plot(f"bed-{i}") for i in (1, 2, 3))
    assert parted_by(garden, library, one, two) == ("thirst",)
    assert parted_by(garden, library, one, three) == ()
    assert "kind of plot" in parted_by(garden, library, one, garden.plot("pots-1"))
    high = two.model_copy(update={"ground_m": 4.0, "plantings": one.plantings})
    assert parted_by(garden, library, one, high) == ("level",)


def test_the_cost_is_told_and_its_remedy_ends_it(garden, library):
    def found(g):
        return {f.rule: f for f in assess(g, library).station("time").findings}

    assert "time.unlike" not in found(garden)
    joined = put(garden, library, ("bed-3", "pots-1"))
    finding = found(joined)["time.unlike"]
    a = assess(joined, library)
    zone = zone_with(joined, "bed-3")
    given = year_shares(a, zone)
    for setting in a.schedule.settings[zone.id]:
        if month := shares(a, zone, setting.month):
            assert min(month.values()) == pytest.approx(1.0), "one run serves the thirstiest"
    assert max(given.values()) == given["bed-3"] > 1.25
    assert "time.unlike" not in found(finding.remedies[0].edit.apply(joined, library))
