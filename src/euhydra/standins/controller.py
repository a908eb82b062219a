"""A small home controller: reads today's plan, opens what is not held, tells what its gauges read.

It knows nothing but addresses and two tokens, as any controller would; its gauges are the
stand-ins at ``/g/GARDEN/devices``. Run it with ``python -m euhydra.standins.controller``.
"""

from __future__ import annotations

import argparse
import datetime as dt
import json
import sys
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator, Sequence
from typing import Any

Ask = Callable[[str, str, Any], dict[str, Any]]  # address, token, body or None to an answer
TIMEOUT_S = 30.0


class NoAnswer(Exception):
    """The app could not be reached, or said why not; the message is its words."""


def over_http(at: str) -> Ask:
    """Ask the app at an address as ``http://localhost:8017``."""
    def ask(address: str, token: str, body: Any) -> dict[str, Any]:
        request = urllib.request.Request(  # noqa: S310  the person gave the address
            f"{at}{address}", method="GET" if body is None else "POST",
            data=None if body is None else json.dumps(body).encode(),
            headers={"Content-Type": "application/json"} | (
                {"Authorization": f"Bearer {token}"} if token else {}))
        try:
            with urllib.request.urlopen(request, timeout=TIMEOUT_S) as answer:  # noqa: S310
                found: dict[str, Any] = json.load(answer)
                return found
        except urllib.error.HTTPError as error:
            raise NoAnswer(f"{address}: {error.code} {error.read(400).decode(errors='replace')}"
                           ) from None
        except (urllib.error.URLError, ValueError) as error:
            raise NoAnswer(f"{address}: {error}") from None
    return ask


def morning(ask: Ask, garden: str, token: str) -> Iterator[str]:
    """What the controller does today, a line for each run, by today's plan."""
    plan = ask(f"/api/gardens/{garden}/today", token, None)
    yield f"{plan['day']}: {plan['says']}"
    for zone in plan["zones"]:
        for run in zone["runs"]:
            if zone["hold"]:
                yield f"{run['at'][:5]} {zone['name']}: held {zone['hold_h']} h, {zone['why']}"
            else:
                yield (f"{run['at'][:5]} {zone['name']}: open for {run['minutes']:g} min, "
                       f"{run['litres']:g} L")
    for one in plan["by_hand"]:
        yield f"by hand {one['name']}: {one['litres']:g} L{', done' if one['done'] else ''}"


def evening(ask: Ask, garden: str, token: str, day: dt.date) -> dict[str, Any]:
    """Tell what the stand-ins' gauge and rain feed show, and their week's forecast.

    Sent again on the same day it changes nothing.
    """
    told = ask(f"/g/{garden}/devices", "", None)
    readings: list[dict[str, Any]] = [{
        "kind": "rain", "value": told["weather"]["rain_mm_yesterday"],
        "day": (day - dt.timedelta(days=1)).isoformat(), "id": f"rain-{day.isoformat()}"}]
    gauge = told["gauge"]
    if gauge["of"] > 0:
        readings.append({"kind": "level", "about": gauge["store"],
                         "litres": min(gauge["litres"], gauge["of"]), "id": f"level-{day}"})
    ask(f"/api/gardens/{garden}/forecast", token, {"days": [
        {"day": (day + dt.timedelta(days=n)).isoformat(), "rain_mm": mm}
        for n, mm in enumerate(told["weather"]["forecast_mm"])]})
    return ask(f"/api/gardens/{garden}/readings", token, {"readings": readings})


def main(argv: Sequence[str] | None = None) -> int:
    """One morning of the controller, and its readings."""
    parser = argparse.ArgumentParser(prog="python -m euhydra.standins.controller",
                                     description="A home controller over the app's API.")
    parser.add_argument("garden")
    parser.add_argument("--at", default="http://localhost:8017", metavar="URL")
    parser.add_argument("--today", default="", metavar="TOKEN", help="a token for today's plan")
    parser.add_argument("--readings", default="", metavar="TOKEN", help="a token for readings")
    args = parser.parse_args(argv)
    ask = over_http(args.at)
    try:
        if args.today:
            for line in morning(ask, args.garden, args.today):
                print(line)
        if args.readings:
            kept = evening(ask, args.garden, args.readings, dt.date.today())
            print(f"readings kept: {kept['kept']}, known already: {kept['known']}")
    except NoAnswer as error:
        print(error, file=sys.stderr)
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
