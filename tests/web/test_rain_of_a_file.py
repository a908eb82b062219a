"""A daily file brought into the log: the rain of this year, and only that."""

import html

import pytest

from mornings import JULY, stand_still

KILN = "/g/kiln-yard"


@pytest.fixture
def july(client, monkeypatch):
    stand_still(monkeypatch)
    return client


def read(client, table, name="mast.txt"):
    return client.post(f"{KILN}/log/csv", files={"file": (name, table)})


def shown(answer):
    return html.unescape(answer.text).replace("\u00a0", " ").replace("\u202f", " ")


def test_it_comes_beside_what_was_logged_by_hand_and_goes_again(july):
    july.post(f"{KILN}/log", data={"kind": "rain", "typed": "3 mm", "day": "2026-07-12"})
    table = "# our mast\ndate;low;rain (in)\n" + "\n".join(
        f"{day};x;{inches}" for day, inches in (
            ("2025-08-01", 9), ("2026-07-11", 0), ("2026-07-12", 1), ("2026-07-13", 0.2),
            (JULY.isoformat(), 0.4)))
    for _ in range(2):
        log = shown(read(july, table))
    assert "11 July to 14 July 2026: 15 mm" in log
    assert log.count("mast.txt") == 3
    told = july.get(f"{KILN}/garden/year?year=this&on=1").json()
    assert told["rain"][191:195] == [0.0, 3.0, 5.08, 10.16]
    july.post(f"{KILN}/log/out-file", data={"entry": "2026"})
    log = shown(july.get(f"{KILN}/keep?view=log"))
    assert "mast.txt" not in log
    assert "3 mm" in log


@pytest.mark.parametrize(("table", "words"), [
    ("date,rain\n2026-01-01,5", "does not say its unit"), ("date,low\n", "No column was found"),
    ("date,rain (mm)\n2025-01-01,5", "Years that are over go to Place"),
    ("date,rain (mm)\nsoon,5", "“soon” is not a day"), ("date,rain (mm)", "0 days with rain"),
    ("date,rain (mm)\n2026-07-14,1200", "out of reach"),
    (b"\x00\x01,\xff", "is not text"), ("", "The first line names the columns")])
def test_one_that_tells_nothing_of_this_year_is_refused_whole(july, table, words):
    answer = read(july, table)
    assert answer.status_code == 422
    assert words in shown(answer)
    assert "Nothing logged yet" in shown(july.get(f"{KILN}/keep?view=log"))
