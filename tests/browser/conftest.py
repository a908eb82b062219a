"""The real app in a real browser. Any console error, failed request or axe fault fails a test."""

from __future__ import annotations

import shutil
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
import uvicorn
from person import POINT_S, THOUGHT_S, Person
from playwright.sync_api import Browser, Locator, Page, Response, expect, sync_playwright

from drawn import add_drawn
from euhydra.data import library
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.web.app import create_app

# Debian builds the same Chromium without its windows too, which spares a quarter of the work.
CHROMIUM = shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking",
         "--disable-component-update", "--disable-sync", "--no-first-run"]
expect.set_options(timeout=30_000)  # machines differ: what stands at last is what counts
AXE = (Path(__file__).parent / "axe.min.js").read_text(encoding="utf-8")


@pytest.fixture(scope="module")
def gardens(tmp_path_factory) -> Gardens:
    """What the site serves, from a file of its own."""
    kept = Gardens(Database(tmp_path_factory.mktemp("site") / "g.sqlite3"), library())
    add_drawn(kept)
    return kept


@pytest.fixture(scope="module")
def site(gardens) -> Iterator[str]:
    """The app, with these gardens; as a process it is in tests/store."""
    server = uvicorn.Server(uvicorn.Config(create_app(gardens), host="127.0.0.1", port=0,
                                           log_level="warning", server_header=False))
    thread = threading.Thread(target=server.run)
    thread.start()
    while not server.started:
        assert thread.is_alive()
        time.sleep(0.02)
    yield f"http://localhost:{server.servers[0].sockets[0].getsockname()[1]}"
    server.force_exit = server.should_exit = True
    thread.join()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as play:
        chromium = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield chromium
        chromium.close()


class Watched:
    """A page with what went wrong on it. ``expected`` holds the addresses that may answer 4xx."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.faults: list[str] = []
        self.refusals_expected = False
        page.on("console", self._console)
        page.on("pageerror", lambda error: self.faults.append(f"script: {error}"))
        page.on("requestfailed", self._failed)
        page.on("response", self._response)

    def _console(self, message) -> None:
        refusal = self.refusals_expected and "422" in message.text
        if message.type in ("error", "warning") and not refusal:
            self.faults.append(f"console: {message.text}")

    def _failed(self, request) -> None:
        # What a person leaves before it has loaded is no failure; a dropped write is.
        reads = request.method == "GET" or request.url.endswith("/preview")
        if not reads or request.failure != "net::ERR_ABORTED":
            self.faults.append(f"failed: {request.url}")

    def _response(self, response: Response) -> None:
        if response.status >= 400 and not (self.refusals_expected and response.status == 422):
            self.faults.append(f"{response.status}: {response.url}")

    def settled(self) -> None:
        """Nothing is under way any more: what was asked for is on the page."""
        expect(self.page.locator("#page")).not_to_have_attribute("aria-busy", "true")

    def press(self, key: str) -> None:
        """A key, once the page hears it: what is pressed while its scripts come is lost."""
        expect(self.page.locator("html")).to_have_attribute("data-awake", "1")
        self.page.keyboard.press(key)

    def unfold(self, what: Locator) -> Locator:
        """A thing, once all that it is folded in was opened, from the outside in."""
        what = what.first
        expect(what).to_be_attached()  # what comes later is not folded before it is there
        folded = what.locator("xpath=ancestor::details[not(@open)]/summary")
        while folded.count():
            folded.first.click()
        return what

    def axe(self, rules: tuple[str, ...] | None = None, without: tuple[str, ...] = ()) -> None:
        """No fault by axe-core on the page as it stands, by every rule or by some.

        ``without`` parts of it that were looked at already.
        """
        # axe goes in through the debugger, so the page's own policy stays as strict as it is.
        asked = {"resultTypes": ["violations"]} | ({"runOnly": list(rules)} if rules else {})
        if not self.page.evaluate("'axe' in window"):
            self.page.evaluate(AXE)
        said = self.page.evaluate("([without, asked]) => axe.run({ exclude: without }, asked)",
                                  [list(without), asked])
        firsts = [(v["id"], v["nodes"][0]) for v in said["violations"]]
        faults = [f"{rule}: {node['html'][:160]} {node['failureSummary'][:200]}"
                  for rule, node in firsts]
        assert not faults, "\n".join(faults)


@pytest.fixture
def watched(browser) -> Iterator[Watched]:
    context = browser.new_context(viewport={"width": 1280, "height": 800},
                                  reduced_motion="reduce")
    context.set_default_timeout(60_000)
    seen = Watched(context.new_page())
    yield seen
    context.close()
    assert not seen.faults, "\n".join(seen.faults)


@pytest.fixture(params=[(390, 844), (820, 1180)], ids=["phone", "tablet"])
def held(request, browser) -> Iterator[Watched]:
    """A page in the hand, to be touched."""
    wide, tall = request.param
    context = browser.new_context(viewport={"width": wide, "height": tall}, has_touch=True,
                                  is_mobile=True, reduced_motion="reduce")
    context.set_default_timeout(60_000)
    seen = Watched(context.new_page())
    yield seen
    context.close()
    assert not seen.faults, "\n".join(seen.faults)


@pytest.fixture(scope="session")
def big_garden(tmp_path_factory) -> Path:
    """The file of a garden of 60 beds and over 2,000 outlets."""
    from euhydra.core.editing.file import to_json
    from plans import sixty_beds

    path = tmp_path_factory.mktemp("files") / "sixty.json"
    path.write_text(to_json(sixty_beds(library())), encoding="utf-8")
    return path


@pytest.fixture
def person(watched):
    return Person(watched)


@pytest.fixture
def door(site, person):
    """First pour in litres or in gallons, by way of the front door."""
    def come(units="metric"):
        person.page.goto(site)
        person.page.get_by_role("link", name="Start a garden" if units == "metric" else
                                "in gallons and feet").first.click()
        person.seconds += 2 * (POINT_S + THOUGHT_S)
    return come
