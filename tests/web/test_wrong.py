"""What is wrong over HTTP: seen, read in any words, cured and logged, practised."""

import html
import re
from urllib.parse import urlencode

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from euhydra.web.look import ANSWER, CASE

KILN = "/g/kiln-yard"
BEDS = "zone-bed-1"


def shown(client, garden=KILN, **pairs):
    query = urlencode([("view", "trouble"), *((k, v) for k, each in pairs.items() for v in (
        each if isinstance(each, list) else [each]))])
    answer = client.get(f"{garden}/keep?{query}")
    assert answer.status_code == 200
    return html.unescape(answer.text).replace("\u00a0", " ").replace("\u202f", " ")


def likely(page):
    found = re.search(r'<ol class="likely".*?</ol>', page, re.S)
    return re.findall(r"<li><span>(.*?)</span>", found[0])


def test_one_sees_reads_and_is_told_what_it_is_and_how_it_is_cured(client):
    first = shown(client)
    assert "What do you see?" in first
    assert "The near outlets give well, the far ones hardly" in first
    case = shown(client, see=f"{BEDS}~weak")
    assert "Everything gets too little" in case
    assert "Log it" not in case
    assert 'name="key"' in case
    done = shown(client, see=f"{BEDS}~weak", r=["filter~1", "valve~0", "walk~0", "outlets~0"])
    assert likely(done)[0] == "The filter is blocked"
    assert "Sure enough to act on." in done
    assert "a spare mesh, if it is torn" in done
    assert 'name="kind" value="filter"' in done
    assert "What was read, and what each cause gives here" in done
    other = re.search(r'href="([^"]+)">It was not that', done)[1]
    after = client.get(other)
    assert after.status_code == 200
    assert likely(html.unescape(after.text))[0] != "The filter is blocked"


@pytest.mark.parametrize("typed", ["0.1 cup", "25 mL", "25"])
def test_a_number_is_typed_in_any_unit(client, typed):
    page = shown(client, see=f"{BEDS}~far-weak", key="jug-last", typed=typed)
    read = re.search(r"last outlet of Bed 2, for 5 min.</span> <b>(\d+) mL", page)
    assert int(read[1]) in (24, 25)


@pytest.mark.parametrize(("typed", "said"), [
    ("moon", "“moon”"), ("", "Nothing typed"), ("-3", "out of reach"), ("1e300", "out of reach"),
    ("<b>", "“<b>”")])
def test_what_cannot_be_read_is_said_beside_it_and_stays(client, typed, said):
    page = shown(client, see=f"{BEDS}~far-weak", r="filter~0", key="jug-last", typed=typed)
    assert said in page
    assert 'aria-describedby="typed-err"' in page
    assert "hold it to the light" in page, "what was read before is still there"


def test_in_gallons_and_feet_nothing_is_told_in_litres_and_metres(client):
    client.post(f"{KILN}/edit", data={"path": "units", "typed": "us"})
    page = shown(client, see=f"{BEDS}~far-weak", key="tube")
    words = re.sub(r"<[^>]+>", " ", page[page.index('class="wrong"'):page.index("</section>")])
    assert re.search(r"\d ft\b", words)
    assert not re.search(r"\d (m|cm|L|mL|kPa)\b", words)


def test_a_reading_that_one_cannot_make_is_not_asked_for_again(client):
    page = shown(client, see=f"{BEDS}~weak")
    key = re.search(r'name="key" value="([^"]+)"', page)[1]
    assert f'name="key" value="{key}"' not in shown(client, see=f"{BEDS}~weak", cannot=key)


def test_it_is_logged_where_the_log_is(client):
    page = shown(client, see="barrels~falls", r=["ground~1", "still~0.06", "night~0.03"])
    assert "It leaks, or its spigot drips" in page
    form = dict(re.findall(r'name="(kind|about|note|units_typed)" value="([^"]*)"',
                           page[page.index("<form method=\"post\""):]))
    assert client.post(f"{KILN}/log", data=form).status_code == 200
    log = shown(client, view="log")
    assert "Barrels leaks, or its spigot drips" in log


def test_practice_gives_what_is_read_and_tells_what_it_was(client):
    page = shown(client, see=f"{BEDS}~", play="7")
    assert "Practice, a made-up fault" in page
    read = shown(client, see=f"{BEDS}~", play="7", r=["filter", "jug-first"])
    assert "of readings." in read
    guesses = re.findall(r'<option value="([^"]+)">', read[read.index('id="guess"'):])
    told = [shown(client, see=f"{BEDS}~", play="7", guess=guess) for guess in guesses]
    assert sum("Found: " in page for page in told) == 1
    assert all("the tool takes" in page for page in told)


@pytest.mark.parametrize("garden", ["/g/plot-27", "/g/balcony"])
def test_each_garden_asks_of_what_it_has_alone(client, garden):
    page = shown(client, garden)
    things = re.findall(r'<option value="([^"]+)"', page[page.index('id="see"'):])
    assert things
    for thing in things:
        there = client.get(thing)
        assert there.status_code == 200
        assert len(re.findall(r'class="fix" href="[^"]+see=', there.text)) > 1
    assert ("barrel" in page.lower()) == (garden == "/g/plot-27")


def test_what_a_run_watched_suspects_is_looked_into(client):
    client.get("/g/balcony/devices")
    client.post("/g/balcony/devices/faults", data={"fault": "flat-battery"})
    for _ in range(3):
        client.post("/g/balcony/devices/clock", data={"minutes": "1440"})
    page = html.unescape(client.get("/g/balcony/time?view=watch").text)
    found = re.search(r'href="([^"]+)">Find out why', page)
    case = html.unescape(client.get(found[1]).text)
    assert "No water comes" in case
    assert "The timer has no power: a flat battery" in likely(case)


def test_what_the_log_makes_one_doubt_is_looked_into_from_there(client):
    for day, deep in (("2026-07-01", "80 cm"), ("2026-07-03", "20 cm")):
        client.post(f"{KILN}/log", data={"kind": "dip", "about": "barrels", "typed": deep,
                                         "day": day})
    page = html.unescape(client.get(f"{KILN}/keep").text)
    found = re.search(r'href="([^"]+)">Find out why', page)
    assert "see=barrels~falls" in found[1]
    assert "Its water falls too fast" in client.get(found[1]).text


@settings(deadline=None, max_examples=30, suppress_health_check=list(HealthCheck))
@given(st.lists(st.tuples(st.sampled_from([*CASE, *ANSWER]), st.one_of(
    st.text(max_size=30), st.sampled_from(
        ["zone-bed-1~weak", "barrels~falls", "zone-bed-1~", "jug-last~0.2", "walk~99", "filter~x",
         "jug-last~nan", "dip~-1", "dip~0", "tube~1e400", "7", "filter:zone-bed-1", "jug-last",
         "filter"]))), max_size=8))
def test_whatever_an_address_says_is_answered(client, pairs):
    query = urlencode([("view", "trouble"), *pairs])
    assert client.get(f"{KILN}/keep?{query}").status_code == 200
