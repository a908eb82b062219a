"""A picture of one's own under the plan: sent, kept small and bare, carried along, printed."""

import base64
import datetime as dt
import io
import json
import re

import pypdf
import pytest
from PIL import Image

from euhydra.store.going import delete, purge
from euhydra.store.sketches import Sketches
from gardens import poured

TEST = "/g/test"


def picture(size=(2400, 1200), form="JPEG", **more):
    out = io.BytesIO()
    Image.effect_mandelbrot(size, (-2, -1, 1, 1), 20).convert("RGB").save(out, form, **more)
    return out.getvalue()


def with_place():
    exif = Image.Exif()
    exif[0x010F] = "a camera"
    return picture(exif=exif)


@pytest.fixture
def small(gardens, library):
    gardens.add(poured(library), "made")


@pytest.fixture
def laid(client, small):
    answer = client.post(f"{TEST}/sketch", files={"file": ("plan.jpg", with_place())},
                         follow_redirects=False)
    assert answer.status_code == 303
    return client


def kept_of(client):
    page = client.get(f"{TEST}/lay?view=plan").text
    return re.search(r'href="(/g/test/sketch/[0-9a-f]{16}\.jpg)"', page)[1]


def test_it_is_kept_small_and_bare_and_drawn_where_it_lies(laid):
    answer = laid.get(kept_of(laid))
    with Image.open(io.BytesIO(answer.content)) as kept:
        assert kept.size == (1600, 800)
        assert not kept.getexif()
    assert "immutable" in answer.headers["cache-control"]
    laid.post(f"{TEST}/edit", data={"path": "sketch/turn_deg", "typed": "30", "station": "lay"})
    laid.post(f"{TEST}/edit", data={"path": "sketch/faded", "typed": "25 %", "station": "lay"})
    drawn = re.search(r"<g [^>]*d-picture[^>]*>", laid.get(f"{TEST}/lay?view=plan").text)[0]
    assert 'opacity="0.75"' in drawn
    assert "rotate(-30)" in drawn
    assert "measures" in laid.get(f"{TEST}/lay?view=plan").text


def test_it_is_scaled_by_a_length_typed_and_moved(laid, gardens):
    def lies():
        return gardens.load("test").garden.sketch

    before = lies()
    a, b = f"{before.at.x_m},{before.at.y_m}", f"{before.at.x_m + 2},{before.at.y_m}"
    laid.post(f"{TEST}/sketch/scale", data={"a": a, "b": b, "true": "10 ft"})
    assert lies().wide_m == pytest.approx(before.wide_m * 3.048 / 2)
    assert lies().at == before.at
    laid.post(f"{TEST}/plan", data={"do": "picture", "east": "1.5", "north": "-2"})
    assert lies().at.x_m == pytest.approx(before.at.x_m + 1.5)
    for typed, why in (("", "Nothing typed"), ("far", "number"), ("-3 m", "no length"),
                       ("9 km", "")):
        answer = laid.post(f"{TEST}/sketch/scale", data={"a": a, "b": b, "true": typed})
        assert answer.status_code == 422, typed
        assert why in answer.text
    answer = laid.post(f"{TEST}/sketch/scale", data={"a": "x", "b": "1e9,2", "true": "3 m"})
    assert answer.status_code == 422
    assert "Measure between two places" in answer.text


@pytest.mark.parametrize("body", [b"", b"no picture", picture()[:900], b"\x89PNG\r\n\x1a\n"])
def test_what_is_no_picture_is_said_beside_the_button(client, small, body):
    answer = client.post(f"{TEST}/sketch", files={"file": ("a.jpg", body)})
    assert answer.status_code == 422
    assert "cannot be read as a picture" in answer.text
    assert client.get(f"{TEST}/lay").text.count("d-picture") == 0


def test_it_goes_out_and_comes_in_with_the_garden_and_undo_finds_it(laid):
    first = kept_of(laid)
    laid.post(f"{TEST}/sketch", files={"file": ("other.png", picture((300, 300), "PNG"))})
    second = kept_of(laid)
    assert first != second
    body = laid.get(second).content
    text = laid.get(f"{TEST}/export/garden.json").text
    assert base64.b64decode(json.loads(text)["sketch"]["jpeg"]) == body
    packed = laid.get(f"{TEST}/export/everything.zip").content
    for name, sent in (("g.json", text.encode()), ("g.zip", packed)):
        came = laid.post("/import", files={"file": (name, sent)}, follow_redirects=False)
        at = came.headers["location"].rsplit("/", 1)[0]
        page = laid.get(f"{at}/lay?view=plan").text
        assert laid.get(re.search(rf'href="({at}/sketch/\w+\.jpg)"', page)[1]).content == body
    for _ in range(2):  # that it was opened, then the other picture
        laid.post(f"{at}/undo")
    assert first.split("/")[-1] in laid.get(f"{at}/lay?view=plan").text
    laid.post(f"{TEST}/sketch/away")
    assert "d-picture" not in laid.get(f"{TEST}/lay?view=plan").text
    laid.post(f"{TEST}/undo")
    assert kept_of(laid) == second


def test_a_file_whose_picture_is_missing_or_spoilt(laid):
    tree = json.loads(laid.get(f"{TEST}/export/garden.json").text)
    tree["garden"]["sketch"]["picture"] = "0" * 16
    spoilt = tree | {"sketch": {"jpeg": base64.b64encode(b"none").decode()}}
    answer = laid.post("/import", files={"file": ("g.json", json.dumps(spoilt).encode())})
    assert answer.status_code == 422
    assert "cannot be read as a picture" in answer.text
    del tree["sketch"]
    came = laid.post("/import", files={"file": ("g.json", json.dumps(tree).encode())})
    assert came.status_code == 200
    assert "d-picture" not in laid.get(came.url.path.replace("/push", "/lay")).text


def test_it_stands_on_paper_only_when_asked_and_goes_with_its_garden(laid, gardens):
    address = kept_of(laid)
    assert not on_paper(laid)
    laid.post(f"{TEST}/edit", data={"path": "sketch/on_paper", "typed": "yes", "station": "lay"})
    assert len(on_paper(laid)) == 1
    assert "sketch/" not in laid.get(f"{TEST}/export/plan.svg").text
    name, now = address.split("/")[-1].removesuffix(".jpg"), dt.datetime.now(dt.UTC)
    purge(gardens.database, now)
    assert Sketches(gardens.database).load(name)
    delete(gardens.database, "test", now - dt.timedelta(days=40))
    purge(gardens.database, now)
    assert Sketches(gardens.database).load(name) is None
    assert laid.get(address).status_code == 404


def on_paper(laid):
    """The photographs on the first sheet."""
    book = pypdf.PdfReader(io.BytesIO(laid.get(f"{TEST}/export/garden.pdf").content))
    return list(book.pages[0].images)
