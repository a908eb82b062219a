"""Keep over HTTP: entries in any words, advice that moves the timer, the log as a table."""

import datetime as dt
import html
import re

import pytest

KILN = "/g/kiln-yard"


def day(ago):
    return (dt.date.today() - dt.timedelta(days=ago)).isoformat()


def put(client, kind, **more):
    return client.post(f"{KILN}/log", data={"kind": kind} | more, follow_redirects=False)


def page(client, more=""):
    shown = html.unescape(client.get(f"{KILN}/keep?view=log{more}").text)
    return shown.replace("\u00a0", " ").replace("\u202f", " ")


def test_each_of_the_five_is_logged_and_shown(client):
    for kind, more in (("dip", {"about": "barrels", "typed": "2 ft"}),
                       ("flow", {"about": "zone-bed-1", "typed": "10 gal/h"}),
                       ("rain", {"typed": "0.5 in"}), ("soil", {"about": "bed-1", "word": "right"}),
                       ("leaf", {"about": "bed-2", "word": "yellow", "note": "lower leaves"})):
        assert put(client, kind, **more).status_code == 303, kind
    shown = page(client)
    for words in ("61 cm", "37.9", "13", "right", "yellow", "lower leaves"):
        assert words in shown


@pytest.mark.parametrize(("kind", "more", "says"), [
    ("dip", {"about": "barrels", "typed": "deep"}, "“deep”"),
    ("dip", {"about": "moon", "typed": "1 m"}, "say which store"),
    ("dip", {"about": "barrels", "typed": "9 m"}, "out of reach"),
    ("rain", {"typed": "-3 mm"}, "“-3 mm”"), ("soil", {"about": "bed-1", "word": "wet"}, "“wet”"),
    ("rain", {"typed": "3", "day": "yesterday"}, "“yesterday”"),
    ("rain", {"typed": "3", "day": "2999-01-01"}, "still to come"),
    ("changed", {"about": "zone-bed-1"}, "no kind of entry"), ("moon", {}, "no kind of entry")])
def test_a_bad_entry_stays_with_its_reason_and_nothing_is_kept(client, kind, more, says):
    said = put(client, kind, note="my note", **more)
    assert said.status_code == 422
    text = html.unescape(said.text)
    assert says in text
    if kind not in ("changed", "moon"):
        assert 'value="my note"' in text
        if "typed" in more:
            assert f'value="{more["typed"]}"' in text
    assert "Nothing logged yet" in page(client)


def test_an_entry_is_changed_taken_out_and_put_back(client):
    put(client, "rain", typed="5 mm", day=day(3))
    (key,) = re.findall(r"asked=entry:([0-9a-f]+)", page(client))
    assert 'value="5 mm"' in page(client, f"&asked=entry:{key}")
    put(client, "rain", typed="8 mm", day=day(3), entry=key)
    assert "8 mm" in page(client)
    out = client.post(f"{KILN}/log/out", data={"entry": key})
    assert "Put it back" in out.text
    assert "asked=entry:" not in out.text
    client.post(f"{KILN}/log/out", data={"entry": key, "back": "1"})
    assert f"asked=entry:{key}" in page(client)
    assert client.post(f"{KILN}/log/out", data={"entry": "moon"}).status_code == 422


def test_advice_is_taken_once_and_the_log_says_so(client, gardens):
    for ago in (5, 2):
        put(client, "soil", about="bed-3", word="muddy", day=day(ago))
    remedy = html.unescape(re.search(r'name="remedy" value="(keep.longer:[^"]+)"',
                                     client.get(f"{KILN}/keep").text)[1])
    client.post(f"{KILN}/remedy", data={"station": "keep", "remedy": remedy})
    zone = next(z for z in gardens.load("kiln-yard").garden.zones if "bed-3" in z.plots)
    assert zone.longer == -0.1
    after = page(client)
    assert "Timer changed" in after
    assert "keep.longer" not in after
    assert f",changed,{zone.id}," in client.get(f"{KILN}/export/log.csv").text


def test_the_log_goes_out_and_comes_in_once(client):
    for i in range(3):
        put(client, "rain", typed=f"{i + 0.1} mm", day=day(i), note="“quoted”, and more")
    table = client.get(f"{KILN}/export/log.csv").content
    assert table.decode("utf-8-sig").splitlines()[0].startswith("day,kind,about")
    assert len(table.splitlines()) == 4
    for garden in ("kiln-yard", "plot-27"):
        client.post(f"/g/{garden}/log/csv", files={"file": ("log.csv", table, "text/csv")})
        assert "“quoted”, and more" in client.get(f"/g/{garden}/keep").text
        assert client.get(f"/g/{garden}/export/log.csv").content == table
    bad = client.post(f"{KILN}/log/csv", files={"file": ("x.csv", b"\xff\xfe\x00", "text/csv")})
    assert bad.status_code == 422


def test_what_falls_due_is_on_the_care_view(client):
    assert "Through the year" in client.get(f"{KILN}/keep?view=care").text


@pytest.mark.parametrize("asked", ["moon", "entry:moon", "out:", "dip", "changed", "<b>"])
def test_whatever_is_asked_for_is_answered(client, asked):
    assert client.get(f"{KILN}/keep", params={"asked": asked}).status_code == 200


def test_troubles_are_those_that_the_garden_can_have(client):
    def seen(garden):
        return client.get(f"/g/{garden}/keep?view=trouble").text

    assert "float valve never shuts" in seen("kiln-yard")
    assert "float valve never shuts" not in seen("balcony")
    assert "hums and moves no water" not in seen("kiln-yard")
    client.post(f"{KILN}/things", data={"add": "pump", "station": "push"})
    assert "hums and moves no water" in seen("kiln-yard")
