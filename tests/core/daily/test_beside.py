"""Two gardens on one day: what differs is what the one has and the other has not."""

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.daily.beside import differences, differing, same_year
from euhydra.core.daily.year import Year
from gardens import made, poured


@pytest.fixture(scope="module")
def both(library):
    """Two barrels, and the same garden with six of them."""
    mine = Year(assess(poured(library), library), 3)
    larger = assess(made(library, ("stores/barrels/count", 6)), library)
    return mine, same_year(mine, Year(larger, 0))


def test_the_same_year_has_the_same_weather(both):
    mine, theirs = both
    assert (mine.rain_mm == theirs.rain_mm).all()


def test_who_is_thirsty_in_the_one_alone_is_told_of_the_one(both):
    mine, theirs = both
    told = 0
    for day in range(120, 300):
        rules = {d.rule: d.words.show("metric") for d in differences(mine, theirs, day)}
        here = [mine.season.world.names[p] for p in range(len(mine.plots))
                if mine.tone[p, day] == 3 and theirs.tone[p, day] != 3]
        assert ("beside.thirsty" in rules) == bool(here)
        assert all(name in rules["beside.thirsty"] for name in here)
        there = {p for p in range(len(mine.plots)) if mine.tone[p, day] != theirs.tone[p, day]}
        assert {mine.plots[p] for p in there} == set(differing(mine, theirs, day))
        low = [p for p in there if 3 not in (mine.tone[p, day], theirs.tone[p, day])]
        assert ("beside.roots" in rules) == bool(low)
        told += len(here)
    assert told


def test_what_is_stored_is_told_where_it_differs(both):
    mine, theirs = both
    for day in range(0, 365, 7):
        rules = {d.rule: d for d in differences(mine, theirs, day)}
        gap = abs(float(mine.level[:, day].sum() - theirs.level[:, day].sum()))
        assert ("beside.stored" in rules) == (gap > 0.5)
        if gap > 0.5:
            amounts = rules["beside.stored"].words.amounts
            assert abs(amounts["a"].value - amounts["b"].value) == pytest.approx(gap)
        assert ("beside.over" in rules) == (abs(float(mine.over[day] - theirs.over[day])) > 0.5)
        assert "beside.tap" not in rules
    assert differences(mine, mine, 200) == ()
    dear = Year(assess(poured(both[0].results.library, tap=True), both[0].results.library), 3)
    day = int(dear.tap.argmax())
    assert "beside.tap" in {d.rule for d in differences(mine, dear, day)}
    assert "beside.watered" in {d.rule for d in differences(dear, mine, day)}
