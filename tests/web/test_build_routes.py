"""Build over HTTP: what is there, prices in any words, the page for the shop."""

import html
import re

import pytest

KILN = "/g/kiln-yard"


def noted(client, part, what, typed):
    return client.post(f"{KILN}/parts", data={"part": part, "what": what, "typed": typed},
                       headers={"x-fragment": "1"})


def part_ids(client):
    return re.findall(r'id="f-there-([a-z0-9-]+)"', client.get(f"{KILN}/build").text)


def test_a_part_is_ticked_off_priced_and_put_back(client, gardens):
    barrel = next(p for p in part_ids(client) if p.startswith("barrel"))
    assert "checked" in noted(client, barrel, "have", "3").text
    assert noted(client, barrel, "price", "55.5").status_code == 200
    (holding,) = gardens.load("kiln-yard").garden.holdings
    assert (holding.have, holding.price) == (3, 55.5)
    noted(client, barrel, "have", "")
    noted(client, barrel, "price", "")
    assert gardens.load("kiln-yard").garden.holdings == ()


def test_pipe_that_is_there_is_typed_in_any_length(client, gardens):
    pipe = next(p for p in part_ids(client) if p.startswith("tube"))
    noted(client, pipe, "have", "100 ft")
    (holding,) = gardens.load("kiln-yard").garden.holdings
    assert holding.have == pytest.approx(30.48)


@pytest.mark.parametrize(("what", "typed"), [("have", "some"), ("have", "-1"), ("price", "cheap"),
                                             ("price", "-5"), ("have", "1e9"), ("price", "9" * 30)])
def test_a_bad_entry_stays_with_its_reason(client, gardens, what, typed):
    part = part_ids(client)[0]
    said = noted(client, part, what, typed)
    assert said.status_code == 422
    assert f'value="{typed}"' in said.text
    assert typed[:20] in html.unescape(re.search(r'class="err"[^>]*>(.*?)</p>', said.text)[1])
    assert gardens.load("kiln-yard").garden.holdings == ()


def test_a_part_that_is_none_is_refused_in_words(client):
    said = noted(client, "moon", "have", "1")
    assert said.status_code == 422
    assert "no longer on the list" in said.text
    assert noted(client, "moon", "weight", "1").status_code in (400, 422)


def test_the_page_for_the_shop_needs_nothing_else(client):
    part = part_ids(client)[0]
    whole = client.get(f"{KILN}/export/shopping.html")
    assert "attachment" in whole.headers["content-disposition"]
    assert not re.search(r'(src|href)="', whole.text)
    assert f'data-part="{part}"' in whole.text
    noted(client, part, "have", "999")
    assert f'data-part="{part}"' not in client.get(f"{KILN}/export/shopping.html").text


def say(client, *ticks):
    """Ticks said at hours by a device's clock, sent when it stands at 4000."""
    hour = 3_600_000
    return client.post(f"{KILN}/ticks.json", json={"sent_ms": 4000 * hour, "ticks": [
        {"step": step, "done": done, "said_ms": at * hour} for step, done, at in ticks]})


def test_the_latest_word_on_a_step_stands_however_late_it_comes(client):
    assert say(client, ("walk", True, 2000), ("leaks", True, 1000)).json() == {
        "done": ["leaks", "walk"]}
    assert say(client, ("walk", False, 1500)).json()["done"] == ["leaks", "walk"]
    assert say(client, ("leaks", False, 3000)).json()["done"] == ["walk"]
    assert say(client, ("walk", True, 2000)).json()["done"] == ["walk"]
    page = client.get(f"{KILN}/build?view=steps").text
    assert re.search(r'data-step="walk"[^>]* checked', page)
    assert not re.search(r'data-step="leaks"[^>]* checked', page)


def test_without_a_script_a_step_is_ticked_and_unticked(client):
    for done, then in (("yes", ["walk"]), ("", [])):
        said = client.post(f"{KILN}/ticks", data={"step": "walk", "done": done},
                           follow_redirects=False)
        assert said.status_code == 303
        assert say(client).json()["done"] == then


@pytest.mark.parametrize("body", ["", "{}", '{"ticks": 3}', '{"ticks": [{"step": "", "done": 1}]}',
                                  '{"ticks": [{"step": "a", "done": true, "said_ms": -1}]}', "["])
def test_ticks_that_are_none_are_refused(client, body):
    said = client.post(f"{KILN}/ticks.json", content=body,
                       headers={"content-type": "application/json"})
    assert said.status_code in (400, 422)


def test_a_garden_that_is_none_takes_no_ticks(client):
    assert client.post("/g/moon/ticks.json", json={"ticks": []}).status_code == 404


def test_the_worker_stands_at_the_root_and_what_it_keeps_is_there(client):
    assert client.get("/outdoors.js").headers["content-type"].startswith("text/javascript")
    for address in client.get("/outdoors.json").json():
        assert client.get(address).status_code == 200, address


def test_more_pots_are_listed_added_and_undone(client, gardens):
    before = gardens.load("kiln-yard").garden.plot("pots-1").count
    told = client.get(f"{KILN}/build?view=more&asked=3:pots-1").text
    assert "Plain 2 L/h (0.5 gph) emitter" in told
    client.post(f"{KILN}/more", data={"count": "3", "beside": "pots-1"})
    assert gardens.load("kiln-yard").garden.plot("pots-1").count == before + 3
    assert gardens.load("kiln-yard").title == "3 more pots"
    client.post(f"{KILN}/undo")
    assert gardens.load("kiln-yard").garden.plot("pots-1").count == before
    for count, beside in (("0", ""), ("21", ""), ("x", ""), ("3", "moon")):
        assert client.post(f"{KILN}/more", data={"count": count, "beside": beside}
                           ).status_code == 422
    for asked in ("99:moon", "3:", "x", ":pots-1"):
        assert client.get(f"{KILN}/build", params={"view": "more", "asked": asked}
                          ).status_code == 200
