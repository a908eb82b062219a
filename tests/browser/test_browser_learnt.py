"""What readings teach as a person uses it: waited for, looked at, taken over, given back."""

import datetime as dt
import re

from playwright.sync_api import expect

from euhydra.core.log.entries import Entry
from euhydra.store.log import Log


def test_a_flow_read_by_jug_is_taken_over_and_given_back(site, gardens, watched):
    page = watched.page
    first = dt.date.today() - dt.timedelta(days=40)
    Log(gardens.database).put("balcony", [
        Entry(f"jug-{n:06d}", first + dt.timedelta(days=9 * n), "flow", "zone-pots-1", 40.0 - n)
        for n in range(5)])
    page.goto(f"{site}/g/balcony/keep?view=learnt")
    take = page.get_by_role("button", name=re.compile("^Take it over: .* gives, just rinsed"))
    expect(take).to_be_visible()
    watched.axe()
    take.click()
    back = page.get_by_role("button", name=re.compile("^Back to the tables: .* gives"))
    expect(back).to_be_visible()
    page.set_viewport_size({"width": 390, "height": 844})
    watched.axe()
    back.click()
    expect(take).to_be_visible()
