"""Where things stand on a page in the browser."""

from __future__ import annotations


def thing(page, path):
    """A thing on the ground plan, by its path in the garden."""
    return page.locator(f'[data-thing="{path}"]')


def box_of(locator) -> dict[str, float]:
    """Where a thing stands once nothing moves it any more: px from the top left."""
    locator.page.evaluate("document.fonts.ready.then(() => true)")
    locator.element_handle().wait_for_element_state("stable")
    return locator.bounding_box()


def middle_of(locator) -> tuple[float, float]:
    """The middle of a thing once it stands still."""
    box = box_of(locator)
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
