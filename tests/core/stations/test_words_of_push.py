"""What Push and Time say follows the garden: its own source, and the true cause of what lacks."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.editing.file import from_json
from euhydra.core.editing.values import SetValue
from euhydra.data import garden_text
from gardens import made, rules_of


def said(a, station):
    """All that a station says and shows the working of."""
    report = a.station(station)
    for phrase in (report.verdict, report.key_figure, *report.by_month, *(
            p for f in report.findings for p in (f.title, f.why))):
        yield phrase.show(a.garden.units)
    for figure in report.figures:
        yield from (figure.name, figure.working.formula)
        yield from (term.name for term in figure.working.terms)


@pytest.mark.parametrize("up_m", [0.0, 4.0])
@pytest.mark.parametrize("station", ["push", "time"])
def test_a_garden_on_its_tap_hears_of_no_barrel(library, up_m, station):
    garden = from_json(garden_text("balcony"), library)
    tap = f"taps/{garden.taps[0].id}"
    for path, value in ((f"{tap}/static_kpa", 20.0), (f"{tap}/regulator_kpa", 0.0),
                        (f"plots/{garden.plots[0].id}/ground_m", up_m)):
        garden = SetValue(path, value).apply(garden, library)
    a = assess(garden, library)
    starved = any(f.rule == "push.starved" for f in a.station("push").findings)
    assert starved == (up_m > 0)
    assert [words for words in said(a, station) if "barrel" in words.lower()] == []


@pytest.mark.parametrize(("path", "value", "cause"), [
    ("plots/bed-1/ground_m", 3.0, "higher than the water"),
    ("plots/bed-1/method", "drip-pc", "stands only")])
def test_a_starved_zone_is_told_its_true_cause(library, path, value, cause):
    garden = made(library, fall_m=0.5, stand_m=0.1)
    if value == "drip-pc":
        value = next(m.key for m in library.methods.values() if library.outlets.get(
            library.tubes[m.tube].outlet) and library.outlets[
                library.tubes[m.tube].outlet].least_head_m > 3)
    garden = SetValue(path, value).apply(garden, library)
    why = rules_of(garden, library)["push.starved"].why.show("metric")
    assert "Bed 1" in why
    assert cause in why
    # Behind a pump the height of the water is not what lacks.
    weak = made(library, "+pump", ("lifts/pump-1/points", (
        {"flow_l_h": 0.0, "head_m": 0.2}, {"flow_l_h": 3.0, "head_m": 0.1},
        {"flow_l_h": 5.0, "head_m": 0.0})), (path, value), fall_m=0.5, stand_m=0.1)
    assert cause not in rules_of(weak, library)["push.starved"].why.show("metric")
