"""What would help most over HTTP: asked for, weighed as long work, tried, kept, copied."""

import html
import json
import re

import pytest

BALCONY = "/g/balcony"
VIEW = f"{BALCONY}/prove?view=helps"


@pytest.fixture
def few(monkeypatch):
    """Fewer gardens than a person would have weighed, so that it is quick."""
    monkeypatch.setattr("euhydra.core.assessment.assess.BUDGET", 50)


def shown(client, address):
    answer = client.get(address)
    assert answer.status_code == 200
    return html.unescape(answer.text).replace("\u00a0", " ").replace("\u202f", " ")


def weighed(client, more="goal=sure-9&no=carrying"):
    """The page once the work that it waits for is done; some test may have had it done before."""
    page = shown(client, f"{VIEW}&{more}")
    work = re.search(r'data-work="([^"]+)"', page)
    if work is None:
        return page
    steps = [json.loads(line) for line in client.get(work[1]).text.splitlines()]
    shares = [step["share"] for step in steps]
    assert shares == sorted(shares)
    assert steps[-1] == {"share": 1}
    return shown(client, f"{VIEW}&{more}")


def test_it_is_asked_for_then_weighed_then_told_with_what_each_change_buys(client, few):
    first = shown(client, VIEW)
    assert "data-work" not in first
    assert "Nothing thirsty in nine years of ten" in first
    assert "Least carrying" not in first, "nobody carries here"
    assert "weeks without rain" not in first, "nothing stands here"
    told = weighed(client)
    assert "Nothing thirsty in nine years of ten: " in told
    assert re.search(r"Run everything \d+ % longer", told)
    assert "days a year less of thirst" in told
    assert "gardens were weighed, " in told
    assert "from memory" in told


def test_the_set_is_tried_on_the_plan_kept_as_one_change_and_undone(client, few, gardens):
    told = weighed(client)
    name = re.search(r'name="remedy" value="(help:[^"]+)"', told)[1]
    before = gardens.load("balcony").garden
    plan = re.search(r'href="(/g/balcony/lay\?try=[^"]+)"', told)[1]
    trying = shown(client, plan)
    assert "Trying: " in trying
    assert "thirsty a year, all plots together" in trying
    assert gardens.load("balcony").garden == before
    client.post(f"{BALCONY}/remedy", data={"station": "prove", "remedy": name})
    after = gardens.load("balcony").garden
    assert after != before
    assert re.search(r"longer|\d changes: ", gardens.history("balcony")[0])
    client.post(f"{BALCONY}/undo", data={"station": "prove"})
    assert gardens.load("balcony").garden == before


def test_a_copy_is_made_with_it_and_the_garden_stays(client, few, gardens):
    told = weighed(client)
    name = re.search(r'name="set" value="(help:[^"]+)"', told)[1]
    before = gardens.load("balcony").garden
    copy = client.post(f"{BALCONY}/helps/copy", data={"set": name}, follow_redirects=False)
    assert copy.headers["location"].endswith("garden?other=balcony")
    made = gardens.load(copy.headers["location"].split("/")[2]).garden
    assert made.name.endswith(", helped")
    assert gardens.load("balcony").garden == before
    assert made.model_copy(update={"id": before.id, "name": before.name}) != before
    assert client.get(copy.headers["location"]).status_code == 200


def test_a_point_of_the_front_opens_as_the_set_that_is_shown(client, few):
    told = weighed(client, "goal=tap&no=carrying")
    points = re.findall(r'href="([^"]+&set=[^"]+)"', told)
    assert len(points) > 1
    one = shown(client, html.unescape(points[-1]))
    assert "of the front" in one
    assert 'aria-current="true"' in one


@pytest.mark.parametrize(("field", "typed", "words"), [
    ("most", "a lot", "“a lot”: this asks for a sum"), ("hours", "-3", "out of reach"),
    ("most", "1e9", "reach"), ("hours", "<b>", "“<b>” is not"),
    ("weeks", "many", "no number of weeks"),
    ("weeks", "99", "from 1 to 26")])
def test_what_cannot_be_is_said_beside_what_was_typed(client, field, typed, words):
    page = shown(client, f"/g/plot-27/prove?view=helps&goal=weeks&{field}={typed}")
    assert words in page
    assert f'value="{typed}"' in page
    assert "data-work" not in page


@pytest.mark.parametrize("query", [
    "goal=moon", "goal=tap&set=no.such.keys", "goal=tap&leave=nothing&no=sleep", "goal=sure-8&set=",
    "goal=sure-8&" + "leave=x&" * 200, "goal=weeks&weeks=", "set=" + "a." * 900])
def test_whatever_is_asked_for_is_answered(client, query):
    assert client.get(f"{VIEW}&{query}").status_code == 200


@pytest.mark.parametrize("name", ["help:", "help:no-such", "help:longer-20.no-such", "help:.", "x",
                                  "help:longer-20.longer-50"])
def test_changes_that_are_not_to_be_had_are_refused(client, name, gardens):
    before = gardens.load("balcony").garden
    assert client.get(f"{BALCONY}/prove?view=helps&try={name}").status_code == 200
    for path, data in ((f"{BALCONY}/helps/copy", {"set": name}),
                       (f"{BALCONY}/remedy", {"station": "prove", "remedy": name})):
        said = client.post(path, data=data, follow_redirects=False)
        assert said.status_code in (422, 303)
    if name != "help:longer-20.longer-50":
        assert said.status_code == 422
        assert gardens.load("balcony").garden == before


def test_without_a_script_it_is_weighed_at_once(client, few):
    assert "gardens were weighed" in shown(client, f"{VIEW}&goal=sure-8&now=1")
