"""Someone at the page, the seconds that takes them by a model, and what their garden says."""

import json
import re
from dataclasses import dataclass, field

from playwright.sync_api import expect

from euhydra.audit import audit
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.file import from_json
from euhydra.data import library

GALLON_L, POUND_KG = 3.785411784, 0.45359237
KEY_S, POINT_S, THOUGHT_S, MOST_S = 0.28, 1.1, 1.35, 180.0


@dataclass
class Person:
    """Someone at the page: what they touch and type, and the seconds that takes by a model."""

    watched: object
    seconds: float = 0.0
    garden: str = ""
    figures: dict = field(default_factory=dict)

    @property
    def page(self):
        return self.watched.page

    def touch(self, *pictures):
        for picture in pictures:
            self.page.locator(f"#{picture}").check()
            self.seconds += POINT_S + THOUGHT_S

    def type(self, **texts):
        for name, text in texts.items():
            self.watched.unfold(self.page.locator(f"#{name}")).fill(text)
            self.seconds += POINT_S + KEY_S * (len(text) + 1) + THOUGHT_S

    def pick(self, name, value):
        """A choice of First pour's."""
        self.page.locator(f"#{name}").select_option(value)
        self.seconds += 2 * POINT_S + THOUGHT_S

    def way(self, words):
        self.page.get_by_label(words).check()
        self.seconds += POINT_S + THOUGHT_S

    def pour(self):
        self.page.get_by_role("button", name="Pour").click()
        self.seconds += POINT_S + THOUGHT_S
        expect(self.page.locator(".run li")).to_have_count(11)
        self.garden = re.search(r"/g/([^/]+)/", self.page.url)[1]

    def choose(self, name, value):
        """A field of a page: typed or picked, and the answer waited for."""
        field_ = self.watched.unfold(self.page.locator(f"#{name}"))
        with self.page.expect_response(lambda said: "/edit" in said.url):
            if field_.evaluate("x => x.tagName") == "SELECT":
                field_.select_option(value)
            else:
                field_.fill(value)
                field_.press("Enter")
        self.watched.settled()
        self.seconds += POINT_S + KEY_S * (len(value) + 1) + THOUGHT_S

    def press(self, words):
        """A button of a page that adds, tries or keeps something, and the answer waited for."""
        button = self.watched.unfold(self.page.locator("button").get_by_text(words, exact=True))
        with self.page.expect_response(lambda said: said.request.method == "POST"):
            button.click()
        self.watched.settled()
        self.seconds += POINT_S + THOUGHT_S

    def at(self, site, station, view=""):
        self.page.goto(f"{site}/g/{self.garden}/{station}" + (f"?view={view}" if view else ""))
        self.seconds += POINT_S + THOUGHT_S

    def plot(self, site, name):
        """The id of a plot, once it was touched on Grow for its measures."""
        self.at(site, "grow")
        link = self.page.get_by_role("link", name=f"{name}: its measures")
        plot = link.get_attribute("href").rsplit("/", 1)[1]
        link.click()
        expect(self.page.locator(f"[id^='f-plots-{plot}-']").first).to_be_visible()
        return plot

    def join_another(self, site, kind):
        """A second store, with what joins it to the first."""
        self.at(site, "store")
        self.press("Add a store")
        self.press("Join two stores")
        self.choose("f-joints-joint-1-kind", kind)

    def figure(self, key):
        """A figure's number as it is shown."""
        shown = self.page.locator(f"[data-figure='{key}'] [data-value]").text_content()
        return number(shown)


def number(shown):
    return float(re.search(r"[\d.]+", re.sub(r"[\u202f\s](?=\d{3}\b)", "", shown))[0])


def whole(person, site, watched):
    """It says one thing throughout, and was made in three minutes at most."""
    said = watched.page.request.get(f"{site}/g/{person.garden}/export/garden.json").text()
    told = audit(assess(from_json(said, library()), library()))
    assert told.compared > 20
    assert not told.differ, told.differ
    assert person.seconds < MOST_S
    return json.loads(said)["garden"]


def pieces(page, part):
    """How many of a part are to be bought."""
    row = page.locator("tr", has=page.locator("th", has_text=part)).first
    return number(row.locator("td.r").first.text_content())
