"""Long work: a large garden's pages stand before it, it takes its turn, has an end, and is left."""

import asyncio
import html
import json
import re

import pytest

from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.file import to_json
from euhydra.web.longwork import MOST_WAITING, LongWork
from gardens import poured


@pytest.fixture
def large(client, library, monkeypatch):
    """A garden that falls short and counts as large, kept; its address."""
    monkeypatch.setattr("euhydra.core.results.results.LARGE_LINES", 4)
    flat = poured(library, stand_m=0.0, fall_m=0.1)
    said = client.post("/import", files={"file": ("g.json", to_json(flat), "application/json")},
                       follow_redirects=False)
    assert said.status_code == 303, said.text
    return said.headers["location"].rsplit("/", 1)[0].split("?")[0]


MOST = 100


def read(answer):
    return [json.loads(line) for line in answer.text.splitlines()]


def test_a_large_garden_shows_its_lack_before_what_would_cure_it(client, large):
    page = client.get(f"{large}/push").text
    assert "short" in page
    assert 'data-figure="least_head"' in page
    assert "What would help is being worked out" in page
    assert "Stand to" not in page
    assert "data-work=" not in client.get(f"{large}/time").text, "no other station waits for it"
    assert read(client.get(f"{large}/push/work"))[-1] == {"share": 1}
    done = client.get(f"{large}/push").text
    assert "data-work=" not in done
    name = html.unescape(re.search(r'name="remedy" value="(push\.starved:[^"]+)"', done)[1])
    assert client.post(f"{large}/remedy", data={"station": "push", "remedy": name},
                       follow_redirects=False).status_code == 303


def test_while_one_remedy_is_tried_no_other_is_waited_for(client, large):
    client.post(f"{large}/edit", data={"path": "timers/timer/kind", "typed": "dial-pilot"})
    tried = client.get(f"{large}/push", params={"try": "push.valve-shut:ball-valve"}).text
    assert "Nothing is kept yet" in tried
    assert "short with the barrel nearly empty" in html.unescape(tried).replace("\u00a0", " ")
    assert "data-work=" not in tried


@pytest.mark.parametrize("view", ["push?view=schools", "push?view=day", "lay?view=layings",
                                  "time?view=season&month=7"])
def test_a_heavy_view_is_drawn_as_long_work_and_kept(client, large, view):
    first = client.get(f"{large}/{view}").text
    assert "is being worked out" in first
    work = html.unescape(re.search(r'data-work="([^"]+)"', first)[1])
    assert read(client.get(work))[-1] == {"share": 1}
    done = client.get(f"{large}/{view}").text
    assert "data-work=" not in done
    at_once = client.get(f"{large}/{view}&now=1").text
    canvas = re.compile(r'<section class="canvas".*?</section>\s*<aside', re.S)
    assert canvas.search(done)[0] == canvas.search(at_once)[0]


def counted(n, spent=None):
    for i in range(n):
        if spent is not None:
            spent.append(i)
        yield i / n


async def told(room, steps, most=None):
    found = []
    async for line in room.lines(steps):
        found.append(json.loads(line))
        if most and len(found) == most:
            break
    return found


def test_long_work_takes_turns():
    async def both():
        room = LongWork()
        one = room.lines(counted(3))
        assert json.loads(await anext(one)) == {"share": 0.0}
        other = asyncio.ensure_future(told(room, counted(1)))
        await asyncio.sleep(0)
        assert room.waiting == 2
        rest = [json.loads(line) async for line in one]
        return rest, await other, room.waiting

    rest, other, waiting = asyncio.run(both())
    assert rest[-1] == {"share": 1}
    assert other == [{"share": 0, "waits": True}, {"share": 0.0}, {"share": 1}]
    assert waiting == 0


def test_long_work_ends_at_its_bound_and_with_its_reader():
    assert asyncio.run(told(LongWork(longest_s=-1), counted(9)))[-1]["said"].startswith(
        "That would take longer")

    async def left():
        room, spent = LongWork(), []
        lines = room.lines(counted(9, spent))
        await anext(lines)
        await lines.aclose()
        return await told(room, counted(1)), spent, room.waiting

    after, spent, waiting = asyncio.run(left())
    assert after[-1] == {"share": 1}
    assert spent == [0]
    assert waiting == 0


def test_too_many_that_wait_are_told_so(client):
    client.app.state.long_work.waiting = MOST_WAITING
    said = client.get("/g/kiln-yard/prove/work")
    assert said.status_code == 503
    assert "under way" in said.text


def test_a_garden_too_large_to_answer_at_once_is_not_taken_in_but_stays_open(
        client, gardens, library, monkeypatch):
    monkeypatch.setattr("euhydra.core.garden.validation.MOST_GROWN_OUTLETS", MOST)
    vast = poured(library, beds=[BedAnswer(length_m=5, width_m=2, group="leafy")] * 3)
    outlets = sum(run.points for run in vast.outlets)
    assert outlets > MOST
    said = client.post("/import", files={"file": ("g.json", to_json(vast), "application/json")})
    assert said.status_code == 422
    assert f"{outlets:,} outlets; {MOST:,} are the most" in said.text

    with monkeypatch.context() as before_the_bound:
        before_the_bound.setattr("euhydra.core.editing.file.require_not_grown", lambda *_: None)
        kept = gardens.add(vast, "kept before there was this bound")
    assert client.get(f"/g/{kept.id}/store").status_code == 200

    def does(path, typed):
        return client.post(f"/g/{kept.id}/edit", data={"path": path, "typed": typed,
                                                       "station": "grow"}, follow_redirects=False)

    assert does("plots/bed-1/name", "North lawn").status_code == 303
    assert does("plots/bed-2/width_m", "1.8 m").status_code == 303
    grown = does("plots/bed-3/width_m", "4 m")
    assert grown.status_code == 422
    assert "the most that can be reckoned" in grown.text
    assert gardens.load(kept.id).garden.plot("bed-3").width_m == 2.0


def test_another_site_has_no_long_work_done(client):
    visits = {"sec-fetch-site": "cross-site", "sec-fetch-mode": "navigate",
              "sec-fetch-dest": "document"}
    assert client.get("/g/kiln-yard/prove?view=thirst", headers=visits).status_code == 200
    assert client.get("/g/kiln-yard/prove?view=thirst&now=1", headers=visits).status_code == 403
