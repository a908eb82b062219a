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
