"""The garden on a day over HTTP: its page, its words, its numbers, its files."""

import html
import io
import re
import xml.etree.ElementTree as ET
from decimal import ROUND_HALF_UP, Decimal

import numpy as np
import pytest
from PIL import Image

from euhydra.core import units
from euhydra.core.daily.year import TONES, Year, named_years
from euhydra.core.editing.file import from_json
from euhydra.data import garden_text
from euhydra.web.drawings.film import TONE_FILLS
from gardens import any_garden, poured
from markup import plain

KILN = "/g/kiln-yard/garden"
SVG = "{http://www.w3.org/2000/svg}"


def test_the_page_tells_the_day_and_every_sentence_leads_somewhere(client):
    """To a station that answers, from which the Run leads back to the same day."""
    found = set()
    for day, year in (("07-14", "dry"), ("05-20", "wet"), ("09-01", "12")):
        page = client.get(f"{KILN}?day={day}&year={year}").text
        leads = re.findall(r'<a href="(/g/kiln-yard/[^"]+)" aria-label="[^"]+"', page)
        assert leads
        for lead in map(html.unescape, leads):
            there = client.get(lead)
            assert there.status_code == 200
            back = re.search(r'<li><a href="([^"]+)" ><b>Garden</b>', there.text)
            assert html.unescape(back[1]) == f"{KILN}?day={day}&year={year}"
            found.add(lead.split("?")[0])
    assert len(found) > 2


@pytest.mark.parametrize("query", ["day=99-99", "day=", "year=moon", "year=0", "year=9999",
                                   "year=31", "day=02-29&year=-1", "of=moon", "year=%00", "day=🌱"])
def test_what_the_address_cannot_mean_is_passed_over(client, query):
    for part in ("", "/day", "/year", "/small.svg"):
        assert client.get(f"{KILN}{part}?{query}").status_code == 200
    assert client.get(f"{KILN}/own?{query}").status_code == 404


def test_a_thing_of_its_own_has_its_own_year(client):
    for of in ("bed-1", "laundry/fig", "wicking", "bank:0", "bank:1"):
        told = client.get(f"{KILN}/own?of={of}&day=07-14")
        assert told.status_code == 200
        assert "data-playhead" in told.text
    for none in ("bank:7", "bank:x", "bank:99999999999999999999", "zone:moon", "zone:", "moon"):
        assert client.get(f"{KILN}/own?of={none}").status_code == 404


def test_a_line_s_own_year_is_reached_from_its_plot_and_has_what_its_runs_bring(client):
    a = client.app.state.shelf.take("balcony").assessment
    year = Year(a, named_years(a)["typical"])
    zone = a.garden.zones[0]
    of_plot = client.get(f"/g/balcony/garden/own?of={zone.plots[0]}").text
    assert f'data-own="zone:{zone.id}"' in of_plot
    page = html.unescape(client.get(f"/g/balcony/garden/own?of=zone:{zone.id}").text)
    assert zone.name in page
    flows = [r.flow_l_h for r in year.runs if r.of == zone.id and r.litres >= 0.5]
    assert units.show(max(flows), "flow", "metric") in page
    line = re.search(r'<path d="([^"]+)" class="a-line"', page)[1]
    assert line.count("M") == len({r.day for r in year.runs if r.of == zone.id
                                   and r.litres >= 0.5})


def test_the_wash_of_a_drum_is_seen_on_its_way_to_its_beds(client, gardens, library):
    """On its days alone: in the drum, in its zone's lines, as a mark of each bed's year."""
    gardens.add(from_json(garden_text("wringer-lane"), library), "Here")
    a = client.app.state.shelf.take("wringer-lane").assessment
    year = Year(a, named_years(a)["typical"])
    bed = year.plots.index("border-1")
    (zone,) = (z for z in a.garden.zones if z.source == "drain-1")
    came = year.came_to(zone)
    assert came == pytest.approx(year.grey[[year.plots.index(p) for p in zone.plots]].sum(axis=0))
    washes, still = (int(np.flatnonzero(on)[20]) for on in (came > 1, came == 0))
    for day, seen in ((washes, True), (still, False)):
        date = np.datetime64("2001-01-01") + day
        page = client.get(f"/g/wringer-lane/garden?day={str(date)[5:]}").text
        drum = re.search(r'<path [^>]*class="d-grey-fill"[^>]*>', page)[0]
        way = re.search(f'<g [^>]*data-zone="{zone.id}".*?</g>', page)[0]
        line = re.search(r'<path [^>]*class="a-runs a-runs-grey"[^>]*>', way)[0]
        assert ['display="none"' not in part for part in (drum, line)] == [seen, seen]
    marks = re.findall(r'<path d="([^"]+)" class="a-tick a-used"', page)
    assert marks[0].count("M") == np.count_nonzero(year.grey[bed])
    own = client.get(f"/g/wringer-lane/garden/own?of=zone:{zone.id}").text
    assert "flow, running" not in own, "no timer opens it"
    assert re.search(r'<path d="M[^"]+" class="d-grey"', own)


@pytest.mark.parametrize("system", ["metric", "us"])
@pytest.mark.parametrize("garden", ["kiln-yard", "plot-27"])
def test_what_the_script_shows_is_what_the_server_would(client, garden, system):
    """To the last place, though a script rounds halves up, and numbers come with few places."""
    client.post(f"/g/{garden}/edit", data={"path": "units", "typed": system})
    a = client.app.state.shelf.take(garden).assessment
    for which in range(0, a.years, 7):
        told = client.get(f"/g/{garden}/garden/year?year={which + 1}").json()
        year = Year(a, which)
        for n in range(len(a.banks.banks)):
            for day in range(365):
                assert by_script(told["level"][n][day], told["volume"]) == units.show(
                    year.level[n, day], "volume", system), (which, n, day)
        for day in np.flatnonzero(year.rain_mm >= 0.05).tolist():
            assert by_script(told["rain"][day], told["depth"]) == units.show(
                year.rain_mm[day], "depth", system)


def by_script(value, unit):
    """As ``amount`` of assets/js/alive/picture.js writes it; ``toFixed`` rounds halves up."""
    places = unit[1] + (0 < abs(value) < 10 ** -unit[1])
    text = Decimal(value).quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP)
    return f"{text:,}".replace(",", "\u202f") + "\u00a0" + unit[0]


@pytest.mark.parametrize("units", ["metric", "us"])
def test_the_numbers_of_a_year_are_the_seasons_in_the_units_shown(client, gardens, library, units):
    client.post("/g/kiln-yard/edit", data={"path": "units", "typed": units})
    told = client.get(f"{KILN}/year?year=wet").json()
    a = client.app.state.shelf.take("kiln-yard").assessment
    year = Year(a, named_years(a)["wet"])
    litres = 1.0 if units == "metric" else 1 / 3.785411784
    assert told["volume"] == (["L", 0] if units == "metric" else ["gal", 0])
    for n in range(len(year.level)):
        assert told["level"][n] == pytest.approx(year.level[n] * litres, abs=0.51)
    for p, plot in enumerate(year.plots):
        assert told["left"][plot] == pytest.approx(100 * year.left[p], abs=0.51)
        assert told["tone"][plot] == "".join(map(str, year.tone[p]))
    assert told["tap"] == pytest.approx({str(d): float(v) * litres for d, v in enumerate(year.tap)
                                         if v >= 0.5}, abs=0.51)
    assert [w == "1" for w in told["wet"]] == (year.rain_mm >= 0.05).tolist()
    dry = np.array(told["dry"])
    assert (dry[year.rain_mm >= 0.05] == 0).all()
    assert dry[1:].tolist() == [0 if wet == "1" else before + 1 for wet, before in zip(
        told["wet"][1:], dry, strict=False)]


def test_files_of_the_day_and_the_year(client):
    drawn = client.get("/g/kiln-yard/export/day.svg?day=07-14")
    assert 'filename="kiln-yard-07-14.svg"' in drawn.headers["content-disposition"]
    words = " ".join(ET.fromstring(drawn.content).itertext())
    assert "Espalier pears" in words
    assert "data-" not in drawn.text
    assert "var(" not in drawn.text
    image = Image.open(io.BytesIO(client.get("/g/kiln-yard/export/day.png?day=07-14").content))
    assert image.format == "PNG"
    assert image.width == 1760
    assert len(image.convert("L").getcolors()) > 50


def test_the_film_shows_the_season_day_after_day(client):
    film = client.get("/g/kiln-yard/export/year.svg?year=wet")
    root = ET.fromstring(film.content)
    a = client.app.state.shelf.take("kiln-yard").assessment
    year = Year(a, named_years(a)["wet"])
    moves = list(root.iter(f"{SVG}animate"))
    assert len(moves) > 20
    for move in moves:
        times = [float(t) for t in move.get("keyTimes").split(";")]
        assert len(times) == len(move.get("values").split(";"))
        assert times[0] == 0
        assert times == sorted(times)
        assert times[-1] < 1
    begins = int(re.search(r'data-begins="(\d+)"', client.get(f"{KILN}?year=wet").text)[1])
    fills = [m for m in moves if m.get("attributeName") == "fill"]
    assert len(fills) == len(year.plots)
    shown = [on_day(m, 200) for m in fills]
    tones = [TONE_FILLS[TONES[t]] for t in year.tone[:, (begins + 200) % 365]]
    assert sorted(shown) == sorted(tones)


def on_day(move, day):
    """What an animation shows on a day from its beginning."""
    times = [float(t) * 365 for t in move.get("keyTimes").split(";")]
    return move.get("values").split(";")[max(i for i, t in enumerate(times) if t <= day + 0.1)]


@pytest.mark.parametrize("seed", range(5))
def test_any_garden_has_its_days(client, gardens, library, seed):
    made = gardens.add(any_garden(library, seed), "Any garden")
    for day in ("01-01", "07-15", "12-31"):
        page = client.get(f"/g/{made.id}/garden?day={day}")
        assert page.status_code == 200
        assert not re.search(r"\bnan\b|None|\{", plain(page.text))
    ET.fromstring(client.get(f"/g/{made.id}/export/year.svg").content)
    assert client.get(f"/g/{made.id}/garden/year").status_code == 200


def test_undo_and_units_stay_on_the_garden(client):
    client.post("/g/kiln-yard/edit", data={"path": "name", "typed": "Other"})
    for deed in ("units", "undo", "undo", "redo"):
        answer = client.post(f"/g/kiln-yard/{deed}?day=07-14", data={"station": "garden"},
                             follow_redirects=False)
        assert answer.headers["location"].startswith(f"{KILN}?day=07-14") or (
            "/garden?" in answer.headers["location"])


def test_the_front_door_renames_copies_deletes_and_puts_back(client, gardens):
    assert client.post("/g/balcony/rename", data={"typed": "High up"}).url.path == "/"
    assert gardens.load("balcony").garden.name == "High up"
    assert "High up" in client.get("/").text
    refused = client.post("/g/balcony/rename", data={"typed": "x" * 200})
    assert refused.status_code == 422
    assert "x" * 200 in refused.text
    assert 'role="alert"' in refused.text
    assert gardens.load("balcony").garden.name == "High up"
    client.post("/g/balcony/copy", data={"door": "1"})
    assert "High up, another way" in client.get("/").text
    gone = client.post("/g/balcony/delete", data={"door": "1"})
    assert "<b>High up</b> was deleted" in gone.text
    assert "balcony" not in {g.id for g in gardens.listed()}
    client.post("/g/balcony/back", data={"door": "1"})
    assert "balcony" in {g.id for g in gardens.listed()}


def test_a_demo_is_put_back_as_it_came_and_that_can_be_undone(client, gardens, library):
    first = gardens.load("balcony").garden
    assert "Put Ninth-floor balcony back" not in client.get("/").text
    client.post("/g/balcony/edit", data={"path": "longer", "typed": "30 %"})
    client.post("/g/balcony/rename", data={"typed": "High up"})
    changed = gardens.load("balcony").garden
    assert "Put High up back as it came" in client.get("/").text
    client.post("/g/balcony/as-it-came")
    assert gardens.load("balcony").garden == first
    client.post("/g/balcony/undo")
    assert gardens.load("balcony").garden == changed
    own = gardens.add(poured(library), "First pour")
    assert client.post(f"/g/{own.id}/as-it-came").status_code == 422


def test_an_undo_that_cannot_be_is_refused_on_the_garden(client):
    said = client.post("/g/kiln-yard/undo", data={"station": "garden", "mine": "999999"})
    assert said.status_code == 422
    assert "cannot be taken back by itself" in said.text
    assert "data-alive" in said.text


def test_names_with_braces_are_names_here_too(client):
    for path in ("plots/bed-1/name", "stores/barrels/name", "zones/zone-bed-1/name", "name"):
        client.post("/g/kiln-yard/edit", data={"path": path, "typed": "{x} {{y}} {day}"})
    for day in ("07-14", "05-03"):
        for part in ("", "/day"):
            told = client.get(f"{KILN}{part}?day={day}")
            assert told.status_code == 200
    assert "{x} {{y}} {day}" in html.unescape(client.get(f"{KILN}?day=07-14").text)
    assert client.get(KILN).status_code == 200
