"""What goes on paper: the PDFs' own text read back, their greys, their codes."""

import asyncio
import datetime as dt
import html
import io
import json
import os
import re
import sys
from concurrent.futures import ThreadPoolExecutor

import pypdf
import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.holes import holes
from euhydra.core.log import KINDS
from euhydra.web import paper, typeset
from euhydra.web.drawings.standalone import grey, standing_alone
from euhydra.web.labels import printed
from euhydra.web.paper import Written
from euhydra.web.press import NoPrinter, Press
from gardens import any_garden
from markup import plain


def read(answer):
    assert answer.headers["content-type"] == "application/pdf"
    return pypdf.PdfReader(io.BytesIO(answer.content))


def words(text):
    return " ".join(text.replace("\u00a0", " ").replace("\u202f", " ").split())


STRANGE = ('#panic("no") *a* $x$ \\ "q" `r` @b <c>', "// no /* name ~ = of - mine",
           "]}\u0430\u6c34\U0001f331")
NAME = 'A "long" name \\ <b>of mine</b>' + " and more" * 4
FOR_THE_SHED = ("Ground plan", "Timer settings of the year", "What falls due",
                "For the neighbour")
HEADS = (*FOR_THE_SHED, "How it stands", "Section", "Zones", "Parts",
         "Marking out, kits, heads and cuts", "Steps", "Cautions", "Through the year")


def test_the_whole_garden_is_read_back_from_its_pdf(client, gardens):
    client.post("/g/balcony/edit", data={"path": "name", "typed": NAME})
    book = read(client.get("/g/balcony/export/garden.pdf"))
    pages = [words(page.extract_text()) for page in book.pages]
    whole, garden = " ".join(pages), gardens.load("balcony").garden
    contents = next(page for page in pages if "How it stands Place" in page)
    marked = {words(at.title): book.get_destination_page_number(at) + 1
              for at in flat(book.outline)}
    starts = [next(n for title, n in marked.items() if title.startswith(head)) for head in HEADS]
    assert starts == sorted(starts)
    for head, n in zip(HEADS, starts, strict=True):
        assert f"{head} {n}" in contents  # as the table of contents says
    for thing in (*garden.zones, *garden.plots, *garden.stores):
        assert words(thing.name) in whole
    bought = re.findall(r'<th scope="row">([^<]+)<small>',
                        html.unescape(client.get("/g/balcony/build").text))
    assert len(bought) > 10
    for name in bought:
        assert words(name) in whole, name
    assert all(f"{i} of {len(pages)}" in page and words(NAME) in page
               for i, page in enumerate(pages, start=1))
    assert_grey(book)


@pytest.mark.parametrize(("units", "points"), [("metric", (595, 842)), ("us", (612, 792))])
def test_kiln_yard_is_at_most_fourteen_pages_and_its_first_hangs_in_the_shed(
        client, gardens, units, points):
    client.post("/g/kiln-yard/edit", data={"path": "units", "typed": units})
    book = read(client.get("/g/kiln-yard/export/garden.pdf"))
    pages = [words(page.extract_text()) for page in book.pages]
    assert len(pages) <= 14
    assert all(head in pages[0] for head in FOR_THE_SHED)
    a = gardens.load("kiln-yard").garden
    assert all(words(zone.name) in pages[0] for zone in a.timed_zones)
    assert all(pages[i] and len(pages[i]) > 400 for i in range(len(pages)))
    assert {tuple(round(float(x)) for x in page.mediabox[2:]) for page in book.pages} == {points}


def flat(outline):
    """The bookmarks of a book, those within others too."""
    return [at for one in outline for at in (flat(one) if isinstance(one, list) else [one])]


def assert_grey(book):
    """Every colour that is set is one number: a grey."""
    drawn = 0
    for page in book.pages:
        content = page.get_contents().get_data().decode("latin-1")
        for form in (page["/Resources"].get("/XObject") or {}).values():
            content += form.get_object().get_data().decode("latin-1")
        for colour in re.findall(r" cs ([\d. ]*?) ?(?:scn|SCN)\b", content, re.IGNORECASE):
            drawn += 1
            assert len(colour.split()) == 1, colour
        assert not re.findall(r"[\d.] (?:rg|RG|k|K)\b", content)
    assert drawn > 100


@pytest.mark.parametrize(("colour", "shade"), [("#fff", "#ffffff"), ("#000000", "#000000"),
                                               ("#f2f0e6", "#ffffff"), ("#0a6c86", "#595959")])
def test_a_colour_becomes_the_grey_of_its_lightness(colour, shade):
    assert grey(colour) == shade


def test_letters_over_a_drawing_keep_their_halo_on_paper():
    drawing = '<svg viewBox="0 0 9 9"><text class="d-lab d-halo">Bed</text></svg>'
    halo = re.search(r"\.d-halo\{([^}]*)\}", standing_alone(drawing, on_paper=True))
    assert "paint-order:stroke" in halo[1]
    assert "stroke:#ffffff" in halo[1]


def test_each_label_leads_to_a_page_of_its_own_thing(client, gardens):
    garden = gardens.load("kiln-yard").garden
    shown = printed(garden, gardens.library, "http://garden.local:8017")
    book = read(client.get("/g/kiln-yard/export/labels.pdf"))
    whole = words(" ".join(page.extract_text() for page in book.pages))
    for label in shown:
        assert words(label.title) in whole
        assert label.sign in whole
        page = html.unescape(client.get(label.page).text)
        assert f'<h2 class="one">{label.title.split(": way")[0].lstrip()}' in page
    assert whole.count("Not for drinking") == sum(x.sign == "Not for drinking" for x in shown)


def test_one_thing_offers_what_can_be_logged_of_it(client):
    def offered(about):
        page = client.get(f"/g/kiln-yard/keep?view=one&asked=about:{about}").text
        return re.findall(rf"<a\s+href=\"[^\"]*asked=([a-z]+):{about}\"", page)

    assert offered("bed-1")[:4] == ["soil", "leaf", "harvest", "feed"]
    assert offered("barrels")[0] == "dip"
    assert offered("zone-bed-1")[:2] == ["flow", "filter"]
    assert "changed" in KINDS
    assert all("changed" not in offered(x) for x in ("bed-1", "barrels", "zone-bed-1"))
    picked = plain(client.get("/g/kiln-yard/keep?view=log&asked=soil:bed-3").text)
    assert '<option value="bed-3" selected>' in picked
    assert client.get("/g/kiln-yard/keep?view=one&asked=about:moon").status_code == 200


@pytest.mark.parametrize(("program", "says"), [
    ("import sys; sys.exit(1)", "could not be set"),
    ("import os; os.abort()", "could not be set")])
def test_a_press_that_fails_says_why(client, program, says):
    client.app.state.press.command = (sys.executable, "-c", program)
    said = client.get("/g/kiln-yard/export/labels.pdf")
    assert said.status_code == 501
    assert says in said.text


def test_a_pdf_ends_when_nobody_waits_for_it_and_the_next_is_made(tmp_path):
    """The first press would work for ever, and says where it runs."""
    told = tmp_path / "pid"
    slow = f"import os, time; open({str(told)!r}, 'w').write(str(os.getpid())); time.sleep(1e6)"
    quick = "import sys; sys.stdout.write('%PDF')"

    def nothing():
        return Written("labels", {})

    async def both():
        async def left():
            return told.exists() and told.read_text() != ""

        async def waits():
            return False

        press = Press((sys.executable, "-c", slow))
        with pytest.raises(NoPrinter, match="Nobody waits"):
            await press.pdf(nothing, left)
        press.command = (sys.executable, "-c", quick)
        return await press.pdf(nothing, waits)

    with ThreadPoolExecutor(1) as apart:
        assert apart.submit(asyncio.run, both()).result() == b"%PDF"
    with pytest.raises(ProcessLookupError):
        os.kill(int(told.read_text()), 0)


MM_PT = 72 / 25.4


def strokes(page):
    """What is drawn on a page: each path's size across and up, mm, with the page's own scale."""
    found, points, begun = [], [], []

    def see(operator, operands, matrix, _text):
        a, b, c, d, e, f = matrix
        if operator in (b"m", b"l", b"c"):
            xy = [float(v) for v in operands]
            at = [(a * x + c * y + e, b * x + d * y + f)
                  for x, y in zip(xy[::2], xy[1::2], strict=True)]
            if operator == b"m":  # nothing is drawn until a line goes on from there
                begun[:] = at
            else:
                points.extend([*begun, *at])
        elif operator in (b"S", b"s", b"B", b"f", b"n") and points:
            xs, ys = zip(*points, strict=True)
            found.append(((max(xs) - min(xs)) / MM_PT, (max(ys) - min(ys)) / MM_PT))
            points.clear()

    page.extract_text(visitor_operand_before=see)
    return found


@pytest.mark.parametrize(("units", "line_mm"), [("metric", 100.0), ("us", 101.6)])
def test_drilling_templates_are_of_true_size_in_the_pdf(client, gardens, units, line_mm):
    """Points to millimetres: the line to check by, and a circle for every bore that is drilled."""
    client.post("/g/kiln-yard/edit", data={"path": "units", "typed": units})
    book = read(client.get("/g/kiln-yard/export/drilling.pdf"))
    drawn = [size for page in book.pages for size in strokes(page)]
    assert any(abs(w - line_mm) < 0.1 and h < 0.1 for w, h in drawn), "the line to check by"
    garden = gardens.load("kiln-yard").garden
    bores = {hole.mm for hole in holes(garden, gardens.library) if hole.mm >= 4}
    assert len(bores) > 4
    for mm in bores:
        assert any(abs(w - mm) < 0.1 and abs(h - mm) < 0.1 for w, h in drawn), mm
    whole = words(" ".join(page.extract_text() for page in book.pages))
    assert ("10 cm long" if units == "metric" else "4 in long") in whole
    assert ("saw of 76 mm" if units == "metric" else "saw of 3 in") in whole
    assert "print again at 100 %" in whole


@pytest.mark.parametrize("seed", range(6))
def test_any_garden_is_set_on_paper(library, seed):
    """Whatever its name: what would be a mark-up elsewhere is text here."""
    named = any_garden(library, seed).model_copy(update={"name": STRANGE[seed % len(STRANGE)]})
    assessment = assess(named, library)
    for written in (paper.whole_garden(assessment, dt.date(2026, 7, 14)),
                    paper.labels(assessment, "http://garden.local"), paper.drilling(assessment)):
        made = typeset.pdf(written.sheets, json.dumps(written.told))
        assert pypdf.PdfReader(io.BytesIO(made)).metadata.title == written.told["title"]
