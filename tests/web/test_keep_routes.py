"""Keep over HTTP: entries in any words, advice that moves the timer, the log as a table."""

import csv
import datetime as dt
import html
import io
import re
import zipfile

import pytest
from PIL import Image

from euhydra.exports.log_csv import from_csv
from euhydra.store.log import fresh_id

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
    put(client, "rain", typed="9 mm", day=day(2), entry=key)
    for said in ("8 mm", "5 mm"):
        assert said in html.unescape(client.post(f"{KILN}/log/undo", data={"entry": key}).text
                                     ).replace("\u00a0", " ")
    assert client.post(f"{KILN}/log/undo", data={"entry": key}).status_code == 422
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

    assert "Flies or mosquitoes" in seen("kiln-yard")
    assert "Flies or mosquitoes" not in seen("balcony")
    assert "hums and moves no water" not in seen("kiln-yard")
    client.post(f"{KILN}/things", data={"add": "pump", "station": "push"})
    assert "hums and moves no water" in seen("kiln-yard")


def picture(kind="JPEG", size=(2400, 1200), exif=None):
    image = Image.new("RGB", size, "#204060")
    image.paste("#e0c040", (0, 0, size[0] // 2, size[1]))
    out = io.BytesIO()
    image.save(out, kind, **({"exif": exif} if exif else {}))
    return out.getvalue()


def camera(taken):
    exif = Image.Exif()
    exif[274] = 6  # held upright: the picture is to be turned
    exif[271] = "Maker of cameras"
    exif.get_ifd(0x8769)[36867] = taken
    exif.get_ifd(0x8825)[1] = "N"
    return exif


def test_a_photo_is_turned_made_small_dated_and_rid_of_where_it_was_taken(client):
    taken = dt.date.today() - dt.timedelta(days=9)
    sent = picture(exif=camera(f"{taken:%Y:%m:%d} 10:00:00"))
    assert client.post(f"{KILN}/log", data={"kind": "photo", "about": "bed-1", "note": "first"},
                       files={"file": ("a.jpg", sent)}, follow_redirects=False).status_code == 303
    shown = page(client)
    assert f"{taken.day} {taken:%b %Y}" in shown
    (path,) = set(re.findall(rf'src="({KILN}/photos/[^"]+)"', shown))
    kept = Image.open(io.BytesIO(client.get(path).content))
    assert kept.size == (800, 1600)
    assert not kept.getexif()
    assert client.get(path.replace("photos/", "photos/x")).status_code == 404


@pytest.mark.parametrize("data", [b"", b"GIF89a nothing", picture("JPEG")[:200], b"%PDF-1.4",
                                  picture("GIF", (9, 9)), picture("PNG", (9000, 9000))])
def test_what_is_no_picture_is_refused_and_nothing_typed_is_lost(client, data):
    said = client.post(f"{KILN}/log", data={"kind": "photo", "about": "bed-1", "note": "my note"},
                       files={"file": ("holiday.jpg", data)})
    assert said.status_code == 422
    assert 'value="my note"' in said.text
    assert "JPEG" in said.text or "million" in said.text
    assert "Nothing logged yet" in page(client)


def test_a_log_with_its_photos_goes_to_another_garden_whole(client):
    client.post(f"{KILN}/log", data={"kind": "photo", "about": "bed-1", "day": day(1)},
                files={"file": ("a.png", picture("PNG", (60, 40)))})
    put(client, "rain", typed="3.3 mm", day=day(2))
    packed = client.get(f"{KILN}/export/log.zip").content
    for _ in range(2):
        client.post("/g/plot-27/log/csv", files={"file": ("log.zip", packed)})
    assert client.get("/g/plot-27/export/log.zip").content[:2] == b"PK"
    with zipfile.ZipFile(io.BytesIO(client.get("/g/plot-27/export/log.zip").content)) as there, \
            zipfile.ZipFile(io.BytesIO(packed)) as here:
        assert there.namelist() == here.namelist()
        assert there.read("log.csv").count(b"\n") == 3
        (photo,) = [name for name in here.namelist() if name.startswith("photos/")]
        assert Image.open(there.open(photo)).size == (60, 40)


@pytest.mark.parametrize("files", [{}, {"other.csv": "day,kind"}, {"log.csv": "no,table"},
                                   {"log.csv": "day,kind,id\n2026-05-01,photo,abcdefgh\n",
                                    "photos/abcdefgh.jpg": "no picture"}])
def test_a_zip_that_is_no_log_is_refused_whole(client, files):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as packed:
        for name, text in files.items():
            packed.writestr(name, text)
    said = client.post(f"{KILN}/log/csv", files={"file": ("x.zip", out.getvalue())})
    assert said.status_code == 422
    assert "Nothing logged yet" in page(client)


def test_a_photo_s_line_without_its_picture_shows_none(client):
    table = f"day,kind,about,id\n{day(1)},photo,bed-1,abcdef0123456789\n"
    client.post(f"{KILN}/log/csv", files={"file": ("log.csv", table)})
    assert "<img" not in page(client)
    assert "Photo" in page(client)


def test_next_year_begins_with_what_this_one_taught(client, gardens):
    put(client, "lesson", note="Net the barrel", day=day(0))
    year = dt.date.today().year
    client.post(f"{KILN}/edit", data={"path": "zones/zone-bed-1/longer", "typed": "-20 %"})
    answer = client.post(f"{KILN}/next-year", data={"year": str(year)}, follow_redirects=False)
    new = answer.headers["location"].split("/")[2]
    assert gardens.load(new).garden.name == f"Kiln Yard {year + 1}"
    assert gardens.load(new).garden.zones[0].longer == pytest.approx(-0.2)
    log = html.unescape(client.get(f"/g/{new}/keep").text)
    assert "Net the barrel" in log
    assert client.post(f"{KILN}/next-year", data={"year": "1999"}).status_code == 422
    again = client.post(f"/g/{new}/next-year", data={"year": str(year)}, follow_redirects=False)
    assert gardens.load(again.headers["location"].split("/")[2]).garden.name.endswith(
        f"Yard {year + 1}")


def test_the_year_and_its_changes_are_drawn_and_told(client):
    for ago, kind, more in ((9, "dip", {"about": "barrels", "typed": "60 cm"}),
                            (8, "rain", {"typed": "12 mm"}),
                            (7, "soil", {"about": "bed-1", "word": "dry"}),
                            (6, "repair", {"about": "bed-2", "note": "a tee <i>off</i>"})):
        put(client, kind, day=day(ago), **more)
    drawn = client.get(f"{KILN}/keep?view=season").text
    assert "No change of the timer" in drawn
    assert "Soil feel: dry" in drawn
    assert drawn.count("a tee &lt;i&gt;off&lt;/i&gt;") == 2  # on its mark and in its table
    year = html.unescape(client.get(f"{KILN}/keep?view=year").text)
    assert "a tee <i>off</i>" in year
    assert "nobody dipped it" in year  # the other barrel
    for asked in ("year:1999", "change:moon", "year:", ":"):
        for view in ("season", "year"):
            assert client.get(f"{KILN}/keep", params={"view": view, "asked": asked}
                              ).status_code == 200


def test_a_note_that_begins_like_a_formula_is_guarded_in_the_table_and_comes_back_whole(client):
    notes = ["=HYPERLINK(\"x\")", "+1", "-2", "@SUM", "'=x", "'tis warm"]
    for note in notes:
        put(client, "lesson", note=note, day="2026-05-01", about="")
    text = client.get("/g/kiln-yard/export/log.csv").text
    cells = [row["note"] for row in csv.DictReader(io.StringIO(text))]
    assert cells, "the notes are there"
    assert not any(cell[:1] in "=+-@" for cell in cells)
    back = [entry.note for entry in from_csv(text, dt.date(2026, 7, 31), fresh_id)]
    assert set(back) == set(notes)


@pytest.mark.parametrize("table", [
    "day,kind\r2026-05-01,rain\r", "day,kind," + "x" * 140_000,
    "day,kind\n2026-05-01," + "x" * 140_000])
def test_a_table_with_bare_returns_or_huge_cells_is_refused_in_words(client, table):
    said = client.post("/g/kiln-yard/log/csv", files={"file": ("log.csv", table.encode())})
    assert said.status_code == 422
    assert "log.csv" in said.text
