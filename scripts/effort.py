"""``make effort``: what a person does for six goals, by a keystroke-level model.

A key takes 0.28 s, a point with its click 1.1 s, a thought 1.35 s (Card, Moran and Newell 1980, as
recalled): one before each thing that is looked for. What the app takes is not counted.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field

from playwright.sync_api import Locator, Page, expect, sync_playwright
from served import BENCH, CHROMIUM, FLAGS, PHONE, served

KEY_S, POINT_S, THOUGHT_S = 0.28, 1.1, 1.35


@dataclass
class Hand:
    """A hand on a page: what it did so far."""

    page: Page
    site: str
    clicks: int = 0
    keys: int = 0
    thoughts: int = 0
    pages: set[str] = field(default_factory=set)
    scrolls: int = 0

    def look(self) -> None:
        """Look for what is next; what is off the screen is scrolled to."""
        self.thoughts += 1
        self.pages.add(re.sub(r"[?#].*", "", self.page.url))

    def point(self, what: Locator) -> None:
        """Point at it and click, once it is on the screen."""
        what.wait_for()
        box, tall = what.bounding_box(), self.page.viewport_size
        if box and tall and not 0 <= box["y"] <= tall["height"] - 10:
            self.scrolls += 1
        what.click()
        self.clicks += 1
        self.settle()

    def press(self, *keys: str) -> None:
        """Press keys."""
        for key in keys:
            self.page.keyboard.press(key)
            self.keys += 1
        self.settle()

    def type(self, words: str) -> None:
        """Type words, letter by letter."""
        self.page.keyboard.type(words)
        self.keys += len(words)

    def settle(self) -> None:
        """Nothing is under way any more."""
        self.page.wait_for_load_state()
        expect(self.page.locator("#page[aria-busy=true]")).to_have_count(0, timeout=60_000)
        self.pages.add(re.sub(r"[?#].*", "", self.page.url))

    @property
    def seconds(self) -> float:
        """By the model."""
        return KEY_S * self.keys + POINT_S * (self.clicks + self.scrolls) + (
            THOUGHT_S * self.thoughts)


def first_verdict(hand: Hand) -> None:
    """From the front door to what is said of the garden last worked on."""
    hand.page.goto(hand.site)
    hand.look()
    hand.point(hand.page.locator(".gardens a").first)
    expect(hand.page.locator("h1")).to_contain_text("reaches")
    hand.look()


def ten_pots(hand: Hand) -> None:
    """A garden of ten pots, watered from the tap."""
    page = hand.page
    page.goto(hand.site)
    hand.look()
    hand.point(page.get_by_role("link", name="Start a garden").first)
    hand.look()
    hand.point(page.locator("#has_tap"))
    hand.point(page.locator("#w_pots"))
    hand.look()
    hand.point(page.locator("#pots"))
    hand.press("Control+a")
    hand.type("10")
    hand.look()
    hand.point(page.locator("form[data-pour] button").last)
    expect(page.locator(".verdict")).to_be_visible()


def raised_beds(hand: Hand) -> None:
    """Beds 20 cm above three barrels, and what helps."""
    page = hand.page
    page.goto(f"{hand.site}/first-pour")
    hand.look()
    hand.point(page.locator("#has_roof"))
    hand.point(page.locator("#w_beds"))
    hand.look()
    hand.point(page.locator("#barrels"))
    hand.press("Control+a")
    hand.type("3")
    hand.look()
    page.locator("#fall_way").select_option("higher")
    hand.clicks += 2
    hand.press("Tab")
    hand.type("20 cm")
    hand.look()
    hand.point(page.locator("form[data-pour] button").last)
    hand.look()
    hand.point(page.locator(".remedy button").first)
    hand.look()


def august_away(hand: Hand) -> None:
    """Two weeks away in August: who holds."""
    page = hand.page
    page.goto(f"{hand.site}/g/kiln-yard/push")
    hand.look()
    hand.press("/")
    hand.type("holiday")
    hand.press("ArrowDown", "Enter")
    hand.look()
    expect(page.get_by_text("First to fail")).to_be_visible()


def dip_and_soil(hand: Hand) -> None:
    """On a phone: how deep the barrel is, and how the soil feels."""
    page = hand.page
    page.goto(f"{hand.site}/g/plot-27/keep")
    hand.look()
    hand.point(page.get_by_role("link", name="Tank dip", exact=True))
    hand.type("45 cm")
    hand.press("Enter")
    expect(page.get_by_text("Logged.")).to_be_visible()
    hand.look()
    hand.point(page.get_by_role("link", name="Soil feel", exact=True))
    hand.point(page.locator("#entry .words label", has_text="right"))
    hand.point(page.get_by_role("button", name="Log it"))
    expect(page.get_by_text("Logged.")).to_be_visible()


def valve_two_today(hand: Hand) -> None:
    """How long valve 2 runs today."""
    page = hand.page
    page.goto(f"{hand.site}/g/plot-27/push")
    hand.look()
    hand.press("7")
    expect(page.get_by_text("A week in").first).to_be_visible()
    hand.look()


GOALS: dict[str, tuple[Callable[[Hand], None], dict[str, int], int]] = {
    "first verdict": (first_verdict, BENCH, 6),
    "ten pots on a hose": (ten_pots, BENCH, 25),
    "beds 20 cm above three barrels, and the cure": (raised_beds, BENCH, 20),
    "August away": (august_away, BENCH, 7),
    "dip and soil on a phone": (dip_and_soil, PHONE, 12),
    "how long valve 2 runs today": (valve_two_today, BENCH, 5),
}


def main() -> None:
    """Do each, and say what it took."""
    print(f"{'goal':46} clicks keys pages scrolls  seconds  at most")
    with served() as site, sync_playwright() as play:
        browser = play.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        for name, (do, size, most) in GOALS.items():
            hand = Hand(browser.new_page(viewport=size), site)
            do(hand)
            print(f"{name:46} {hand.clicks:6} {hand.keys:4} {len(hand.pages):5} "
                  f"{hand.scrolls:7} {hand.seconds:8.1f} {most:8}")
            hand.page.close()
        browser.close()


if __name__ == "__main__":
    main()
