import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core import units
from euhydra.core.parsing import BadEntry, parse, parse_day
from euhydra.core.units import show

LINEAR = [k for k in units.KINDS if k not in ("date", "count", "zones", "hole",
                                                     "clock")]


@pytest.mark.parametrize(("typed", "kind", "system", "value"), [
    ("55 gal", "volume", "metric", 208.198), ("8 ft", "length", "metric", 2.4384),
    ("0.45 m", "length", "us", 0.45), ("3 ft 6 in", "length", "metric", 1.0668),
    ("3'6\"", "length", "metric", 1.0668), ("1 1/2 in", "small", "metric", 0.0381),
    ("1,135 L", "volume", "metric", 1135), ("0,45", "length", "metric", 0.45),
    ("12", "small", "us", 0.3048), ("70 F", "temperature", "metric", 21.111),
    ("-5", "temperature", "us", -20.556), ("25 psi", "head", "metric", 17.577),
    ("90 %", "share", "metric", 0.9), ("90 min", "hours", "metric", 1.5),
    ("0.5 gph", "flow", "metric", 1.8927), ("1\u202f230 L", "volume", "metric", 1230),
    ("−2 m", "length", "metric", -2), ("270 sq ft", "area", "metric", 25.084),
    ("25 m2", "area", "metric", 25), ("25 m^2", "area", "us", 25),
    ("270 ft2", "area", "us", 25.084),
    ("1 m3", "volume", "metric", 1000), ("0.2 l/s", "flow", "metric", 720),
    ("1.5 m3/h", "flow", "us", 1500), ("half gallon", "volume", "metric", 1.8927),
    ("half a gallon", "volume", "us", 1.8927), ("a quarter of an inch", "bore", "us", 6.35),
    ("quarter inch", "bore", "us", 6.35), ("3 quarts", "volume", "metric", 2.8391),
    ("three quarts", "volume", "metric", 2.8391), ("2 cups", "dose", "us", 473.18),
    ("1-1/2 in", "small", "metric", 0.0381), ("1 1/2 in", "bore", "us", 38.1),
    ("¾ in", "bore", "us", 19.05), ("3 ft 2 in", "length", "us", 0.9652),
    ("3ft2in", "length", "us", 0.9652), ("5-gal", "volume", "us", 18.927),
    ("0.9", "share", "metric", 0.9), ("0,9", "share", "us", 0.9), ("1", "share", "metric", 1.0),
    ("90", "share", "metric", 0.9), ("1 %", "share", "us", 0.01), ("0.5 %", "share", "us", 0.005),
    ("-0.2", "share", "metric", -0.2), ("-20", "share", "metric", -0.2)])
def test_any_unit_in_any_field(typed, kind, system, value):
    assert parse(typed, kind, system) == pytest.approx(value, rel=1e-4)


@pytest.mark.parametrize(("typed", "says"), [
    ("abc", "is not a number"), ("", "Nothing typed"), ("  ", "Nothing typed"),
    ("3 kg", "does not measure a length"), ("5 florps", "not a unit known here"),
    ("3 parsec", "not a unit known here"), ("1e999", "past any number"), ("nan", "not a number"),
    ("inf", "not a number"), ("2 3", "more than one number"), ("<script>", "not a number")])
def test_a_bad_entry_says_what_was_typed_and_what_is_allowed(typed, says):
    with pytest.raises(BadEntry) as refused:
        parse(typed, "length", "metric")
    assert says in refused.value.why
    assert "8 ft" in refused.value.why
    assert typed.strip()[:40] in refused.value.why


@given(st.sampled_from(LINEAR), st.sampled_from(["metric", "us"]),
       st.floats(-5000, 5000, allow_nan=False))
def test_what_is_shown_reads_back(kind, system, value):
    text = show(value, kind, system)
    decimals = 10.0 ** -(units.KINDS[kind].metric if system == "metric" else
                         units.KINDS[kind].us)[2]
    again = parse(text, kind, system)
    near = abs(units.convert(again, kind, system) - units.convert(value, kind, system))
    assert near <= decimals / 2 + 1e-6 * abs(value)


@given(st.floats(0.8, 250))
def test_a_drill_is_shown_as_it_is_bought_and_reads_back(bore_mm):
    for system, apart_mm in (("metric", 0.5), ("us", 25.4 / 32)):
        text = show(bore_mm, "hole", system)
        assert parse(text, "hole", system) == pytest.approx(bore_mm, abs=apart_mm + 1e-9)
    assert show(40, "hole", "us") == "1 9/16\u00a0in"
    assert show(0.2, "hole", "us") == "1/16\u00a0in"
    assert show(50.8, "hole", "us") == "2\u00a0in"


@given(st.text(max_size=40), st.sampled_from(sorted(units.KINDS)))
def test_no_text_breaks_the_reader(typed, kind):
    try:
        value = parse(typed, kind, "us")
    except BadEntry:
        return
    assert math.isfinite(value)


@pytest.mark.parametrize(("typed", "day"), [("24 April", "04-24"), ("apr 24", "04-24"),
                                            ("04-24", "04-24"), ("", "")])
def test_days_of_the_year(typed, day):
    assert parse_day(typed, may_be_empty=True) == day


@pytest.mark.parametrize("typed", ["31 June", "spring", "24", "2026-04-24", "13-01", ""])
def test_days_that_are_none(typed):
    with pytest.raises(BadEntry):
        parse_day(typed, may_be_empty=False)
