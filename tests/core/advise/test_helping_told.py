"""What a change buys and makes worse, in words: told where it is, and not where it is not."""

from dataclasses import replace

from euhydra.core.advise.helping.told import buys, costs, worsens
from euhydra.core.advise.helping.weighing import Weighed

NOW = Weighed(thirst=20.0, worst=(12.0, 9.0, 3.0), over=7.0, tap_l=2000.0, hand_h=4.0, lasts=5)


def said(phrases):
    return [p.show("metric").replace("\u00a0", " ") for p in phrases]


def test_each_gain_is_told_and_as_a_loss_the_other_way():
    then = replace(NOW, thirst=8.0, worst=(5.0, 5.0, 3.0), tap_l=900.0, hand_h=1.0, lasts=9)
    gains = ["12 days a year less of thirst", "good years 33 % → 100 %",
             "1.1 m³ a year less from the tap", "3.0 h a year less of carrying",
             "full stores last 4 days longer"]
    assert said(buys(NOW, then)) == gains
    assert worsens(NOW, then) == ()
    assert said(worsens(then, NOW)) == [
        "12 days a year more of thirst", "good years 100 % → 33 %",
        "1.1 m³ a year more from the tap", "3.0 h a year more of carrying",
        "full stores last 4 days shorter"]
    assert buys(then, NOW) == ()


def test_what_is_too_little_is_not_told():
    then = replace(NOW, thirst=19.7, tap_l=1970.0, hand_h=3.8)
    assert buys(NOW, then) == worsens(NOW, then) == ()


def test_what_it_takes():
    then = replace(NOW, bought=20.0, hours=2.0)
    assert said(costs(NOW, then)) == ["20 € to buy", "2.0 h of work"]
    assert said(costs(then, then)) == ["0.1 h of work"]
    assert "$" in costs(NOW, then)[0].show("us")
