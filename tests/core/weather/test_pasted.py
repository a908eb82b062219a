"""Twelve months pasted from a table."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from euhydra.core.editing.edits import SetMonths
from euhydra.core.editing.trees import EditRefused
from euhydra.core.parsing import BadEntry
from euhydra.core.weather.pasted import months_pasted
from gardens import poured

RAIN = tuple(range(40, 52))


def table(mark, heads="", labels=False):
    names = ("January", "Feb", "3", "April", "May", "June", "July", "Aug", "Sept", "10", "Nov",
             "December")
    rows = [mark.join([*([names[m]] if labels else []), str(RAIN[m]), str(5 + m % 3), str(m),
                       str(m + 9)]) for m in range(12)]
    return "\n".join([*([heads] if heads else []), *rows])


@pytest.mark.parametrize("text", [
    table("\t"), table("; "), table("  "), table(", "), table("\t", labels=True),
    table("\t", "Month\tRain (mm)\tWet days\tTmin\tTmax", labels=True)])
def test_a_line_a_month_in_any_dress(text):
    found = dict(months_pasted(text, "metric"))
    assert found["rain_mm"] == RAIN
    assert found["tmax_c"] == tuple(m + 9 for m in range(12))
    assert found["wet_days"][:3] == (5, 6, 7)


def test_a_line_a_quantity_and_units_in_the_head():
    text = ("rain (in)\t" + "\t".join(["2"] * 12) + "\nhigh (F)\t" + "\t".join(["68"] * 12))
    found = dict(months_pasted(text, "metric"))
    assert found == {"rain_mm": (50.8,) * 12, "tmax_c": (20.0,) * 12}


def test_bare_numbers_are_in_the_units_shown():
    assert dict(months_pasted(table("\t"), "us"))["tmin_c"][0] == pytest.approx(-17.778, abs=1e-3)


@pytest.mark.parametrize(("text", "says"), [
    ("", "Nothing pasted"), ("1 2\n3 4", "2 lines were pasted"),
    (table("\t").replace("45", "wet"), "Jun: “wet” is no number"),
    (table("\t").rsplit("\t", 1)[0], "Month 12 has 3 numbers")])
def test_what_is_no_table_is_refused_in_words(text, says):
    with pytest.raises(BadEntry, match=says):
        months_pasted(text, "metric")


@given(st.text(alphabet="0123456789.,;\t\n -jan", max_size=120))
def test_any_text_is_read_or_refused(text):
    try:
        months_pasted(text, "us")
    except BadEntry:
        return


def test_pasted_months_that_cannot_be_are_refused_and_good_ones_go_in(library):
    garden = poured(library)
    good = SetMonths((("rain_mm", tuple(map(float, RAIN))),)).apply(garden, library)
    assert good.site.climate.rain_mm == RAIN
    assert good.site.climate.archetype == ""
    with pytest.raises(EditRefused, match="under low"):
        SetMonths((("tmax_c", (-40.0,) * 12),)).apply(garden, library)
