"""What readings teach over HTTP: waited for, shown against the tables, taken over, given back."""

import html
import json
import re

import numpy as np
import pytest

from euhydra.core.assessment.assess import assess
from made_logs import LAST, Truth, log_of
from mornings import stand_still

BALCONY = "/g/balcony"
VIEW = "/keep?view=learnt"


@pytest.fixture
def read(client, gardens, library, monkeypatch):
    """Plot 27 with a season's readings of it, on the last day of them."""
    stand_still(monkeypatch, LAST)
    a = assess(gardens.load("plot-27").garden, library)
    log = log_of(a, Truth(0.6, 1.0, 0.8, 0.0, 0.03), np.random.default_rng(5))
    client.app.state.shelf.log.put("plot-27", log, back=False)
    return "/g/plot-27"


def shown(client, address):
    answer = client.get(address)
    assert answer.status_code == 200
    return html.unescape(answer.text).replace("\u00a0", " ").replace("\u202f", " ")


def worked_out(client, garden, more=""):
    """The page once the work that it waits for is done."""
    page = shown(client, f"{garden}{VIEW}{more}")
    work = re.search(r'data-work="([^"]+)"', page)
    if work is None:
        return page
    steps = [json.loads(line) for line in client.get(work[1]).text.splitlines()]
    assert steps[-1] == {"share": 1}
    return shown(client, f"{garden}{VIEW}{more}")


def test_without_a_log_it_says_what_to_read(client):
    page = shown(client, BALCONY + VIEW)
    assert "Nothing was logged yet" in page
    assert "data-work" not in page


def test_what_was_learnt_is_taken_over_reckoned_with_and_given_back(client, read, gardens):
    assert "Your readings are being weighed" in shown(client, read + VIEW)
    page = worked_out(client, read)
    assert "What your readings teach" in page
    assert "from memory" in page
    flows = re.findall(r'value="(learn:flow-[^"]+)"', page)
    assert flows
    before = shown(client, f"{read}/time")
    client.post(f"{read}/remedy?view=learnt", data={"station": "keep", "remedy": flows[0]})
    garden = gardens.load("plot-27").garden
    key = flows[0].removeprefix("learn:")
    assert [x.key for x in garden.learnt] == [key]
    assert next(z for z in garden.zones if key.endswith(z.id)).read_l_h > 0
    assert shown(client, f"{read}/time") != before
    again = worked_out(client, read)
    assert f'value="forget:{key}"' in again
    assert "Back to the tables" in again
    client.post(f"{read}/remedy?view=learnt", data={"station": "keep",
                                                    "remedy": f"forget:{key}"})
    garden = gardens.load("plot-27").garden
    assert garden.learnt == ()
    assert all(z.read_l_h == 0 for z in garden.zones)


def test_it_is_one_change_that_can_be_undone(client, read, gardens):
    key = re.findall(r'value="(learn:[^"]+)"', worked_out(client, read))[0]
    was = gardens.load("plot-27").garden
    client.post(f"{read}/remedy?view=learnt", data={"station": "keep", "remedy": key})
    assert gardens.load("plot-27").garden != was
    client.post(f"{read}/undo", data={"station": "keep"})
    assert gardens.load("plot-27").garden == was


def test_in_gallons_and_feet_nothing_is_told_in_litres(client, read):
    client.post(f"{read}/edit", data={"path": "units", "typed": "us"})
    page = worked_out(client, read)
    words = re.sub(r"<[^>]+>", " ", page[page.index('class="learnt"'):])
    words = words[:words.index("All measures")]
    assert "gph" in words
    assert not re.search(r"\d (L|L/h|L/day|mm)\b", words)


@pytest.mark.parametrize("name", ["learn:moon", "forget:moon", "learn:", "forget:", "learn:a:b"])
def test_what_was_not_learnt_cannot_be_taken_over(client, read, name):
    answer = client.post(f"{read}/remedy?view=learnt", data={"station": "keep", "remedy": name})
    assert answer.status_code < 500
    assert "no longer applies" in html.unescape(answer.text)


def test_where_no_script_is_it_is_worked_out_at_once(client, read):
    assert "What your readings teach" in shown(client, f"{read}{VIEW}&now=1")
