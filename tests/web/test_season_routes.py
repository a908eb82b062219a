"""Prove and Time over HTTP: days away in any words, helps that work, the calendar, the cards."""

import html
import json
import re

import pytest
from icalendar import Calendar

from markup import plain

KILN = "/g/kiln-yard"


@pytest.mark.parametrize("query", ["", "day=07-10&away=7", "day=12-30&away=28", "day=99-99",
                                   "away=-3", "away=x", "away=4000"])
def test_any_days_away_are_answered(client, query):
    said = client.get(f"{KILN}/prove?view=away&{query}")
    assert said.status_code == 200
    assert "Chance to hold" in said.text


def thirsty_days_away(page):
    """Of the tower planters."""
    row = re.search(r"Two tower planters</th>(.*?)</tr>", page, re.DOTALL)[1]
    return float(re.findall(r"<td[^>]*>([^<]*)<", row)[2])


def test_what_helps_is_one_press_and_fewer_days_are_thirsty(client, gardens):
    page = client.get(f"{KILN}/prove?view=away&day=07-10").text
    assert "First to fail:" in page
    form = re.search(r'name="path" value="(timers/timer/kind)"><input type="hidden" name="typed" '
                     r'value="(dial-ball)"', plain(page))
    client.post(f"{KILN}/edit", data={"path": form[1], "typed": form[2], "station": "prove"})
    assert gardens.load("kiln-yard").garden.timers[0].kind == "dial-ball"
    then = client.get(f"{KILN}/prove?view=away&day=07-10").text
    assert thirsty_days_away(then) < thirsty_days_away(page) - 1


def test_the_neighbour_s_note_names_plots_days_and_litres(client):
    page = client.get(f"{KILN}/prove?view=away&day=07-10&away=7").text
    assert "For the neighbour: 7 days from 10" in page.replace("\u00a0", " ")
    assert re.search(r"Two tower planters: from day \d+ on, [\d.]+.L every", page)


def test_the_ledger_shows_both_sides_alike(client):
    page = client.get(f"{KILN}/prove?view=ledger").text
    totals = re.findall(r'In all</th><td class="r">([^<]+)<', plain(page))
    assert len(totals) == 2
    assert totals[0] == totals[1]


@pytest.mark.parametrize("timer", ["dial-ball", "weekday-ball", "multi-ball", "weather-ball", ""])
def test_every_kind_of_timer_has_its_cards_and_so_has_the_hand(client, timer):
    said = client.post(f"{KILN}/edit", data={
        "path": "timers/timer/kind", "typed": timer, "station": "time"}) if timer else client.post(
            f"{KILN}/things", data={"remove": "timers/timer", "station": "time"})
    assert said.status_code == 200
    for view in ("week", "season", "cards"):
        assert client.get(f"{KILN}/time?view={view}").status_code == 200
    assert 'class="card"' in client.get(f"{KILN}/time?view=cards").text


def test_the_calendar_is_saved(client):
    said = client.get(f"{KILN}/export/calendar.ics")
    assert said.headers["content-type"].startswith("text/calendar")
    assert len(Calendar.from_ical(said.content).walk("VEVENT")) > 5


def test_a_copy_is_changed_and_both_stand_side_by_side(client, gardens):
    said = client.post(f"{KILN}/copy")
    made = "kiln-yard-another-way"
    assert said.status_code == 200
    assert gardens.load(made).garden.stores == gardens.load("kiln-yard").garden.stores
    alike = client.get(f"/g/{made}/prove?view=variants&other=kiln-yard").text
    told = re.findall(r'<td class="r">([^<]+)</td></tr>', plain(alike))
    assert told
    assert set(told) == {"the same"}
    client.post(f"/g/{made}/edit", data={"path": "timers/timer/kind", "typed": "dial-ball"})
    page = client.get(f"/g/{made}/prove?view=variants&other=kiln-yard").text
    thirst = re.search(r"the thirstiest plot</th>.*?</tr>", page, re.S).group()
    assert "less ●" in thirst
    assert gardens.load("kiln-yard").garden.timers[0].kind == "dial-pilot"
    for other in ("moon", made, ""):
        assert client.get(f"/g/{made}/prove?view=variants&other={other}").status_code == 200


def test_a_field_sent_without_a_script_leads_back_to_where_it_stands(client):
    page = client.get(f"{KILN}/prove?view=thirst").text
    form = next(f for f in re.findall(r"<form class=.field-form.*?</form>", page, re.S)
                if 'id="f-longer"' in f)
    action = re.search(r'action="([^"]+)"', form)[1]
    sent = dict(re.findall(r'type="hidden" name="(\w+)" value="([^"]*)"', form))
    said = client.post(action, data=sent | {"typed": "30 %"}, follow_redirects=False)
    back = said.headers["location"]
    assert back.startswith(f"{KILN}/prove?view=thirst")
    assert 'data-figure="past_roots"' in client.get(back).text


def lines_of(answer):
    return [json.loads(line)["share"] for line in answer.text.splitlines()]


def test_a_view_that_runs_the_season_many_times_comes_as_long_work(client, monkeypatch):
    monkeypatch.setattr("euhydra.core.results.results.LONG_PLOT_YEARS", 600)
    client.post(f"{KILN}/edit", data={"path": "site/years", "typed": "100"})
    assert "data-work=" not in client.get(f"{KILN}/prove?view=thirst").text
    page = client.get(f"{KILN}/store?view=sizing").text
    assert "data-work=" in page
    assert "What each barrel" not in page
    assert lines_of(client.get(f"{KILN}/store/work?view=sizing"))[-1] == 1
    done = client.get(f"{KILN}/store?view=sizing").text
    assert "data-work=" not in done
    assert "What each barrel" in done
    assert client.get(f"{KILN}/moon/work").status_code == 404


def test_without_a_script_long_work_is_done_while_the_page_waits(client, monkeypatch):
    monkeypatch.setattr("euhydra.core.results.results.LONG_PLOT_YEARS", 600)
    client.post(f"{KILN}/edit", data={"path": "site/years", "typed": "100"})
    page = client.get(f"{KILN}/store?view=sizing").text
    now = html.unescape(re.search(r'<noscript><a class="fix" href="([^"]+)"', page)[1])
    assert "What each barrel" in client.get(now).text


@pytest.mark.parametrize(("typed", "told"), [
    ("12 mm", "After 12 mm of rain"), ("0.5 in", "After 13 mm of rain"), ("much", "“much”"),
    ("9 m", "is out of reach"), ("", "Did it rain?")])
def test_rain_that_was_typed_says_how_long_to_hold(client, typed, told):
    page = client.get(f"{KILN}/time", params={"view": "season", "month": "7", "rained": typed})
    assert page.status_code == 200
    assert told in html.unescape(page.text).replace("\u00a0", " ").replace("\u202f", " ")
