"""What falls due in a year: the timer's changes, and what keeps everything that is built sound."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra.core.construction.facts import Built, kits_of
from euhydra.core.construction.things import things
from euhydra.core.garden.base import day_of_year, month_day
from euhydra.core.garden.model import Drain, Garden
from euhydra.core.hydraulics.lint import cloggings
from euhydra.core.library import Library
from euhydra.core.library.kits import KitCare
from euhydra.core.schedule.calendar import Due, of_timer
from euhydra.core.schedule.feeds import fruit_sets
from euhydra.core.schedule.schedule import Schedule
from euhydra.core.weather import frost
from euhydra.core.weather.frost import BEFORE_FROST_DAYS
from euhydra.core.weather.hemispheres import turned_day

# Where there is no frost; how long before it the season is made ready; all from memory.
SPRING, AUTUMN, SPRING_BEFORE_DAYS = "04-01", "10-15", 14
LINTS = 26  # washes of a filter that are put down, at most
OFTEN_DAYS = 30  # what is done oftener is put down so often, with a word of how often
EVERY = {7: "each week"}


def due(garden: Garden, schedule: Schedule) -> tuple[Due, ...]:
    """Everything that falls due, through the year."""
    return tuple(sorted([*of_timer(schedule), *of_kits(garden, schedule.library),
                         *_feeds(garden, schedule.library), *_drums(garden, schedule.library)],
                        key=lambda d: d.day))


def of_kits(garden: Garden, library: Library) -> Iterator[Due]:
    """The care of every kit: what is the same for several things once, with their names."""
    spring, autumn = season(garden)
    often: dict[int, list[Due]] = {}
    for about in alike(garden, library).values():
        one = _told(garden, about, spring, autumn)
        if about[0][1].when == "season":
            often.setdefault(max(about[0][1].every_days, OFTEN_DAYS), []).append(one)
        else:
            yield one
    for days, rounds in often.items():
        yield from _rounds(rounds, days, spring, autumn)


def season(garden: Garden) -> tuple[str, str]:
    """Days (``MM-DD``) on which the garden is made ready for its season, and for its winter."""
    site = garden.site
    usual = (SPRING, AUTUMN) if site.latitude_deg >= 0 else (turned_day(SPRING),
                                                             turned_day(AUTUMN))
    return (_days_from(site.last_frost or usual[0], -SPRING_BEFORE_DAYS),
            _days_from(site.first_frost or usual[1], -BEFORE_FROST_DAYS))


def alike(garden: Garden, library: Library) -> dict[str, list[tuple[Built, KitCare]]]:
    """By its id each care with the things that want it."""
    found: dict[str, list[tuple[Built, KitCare]]] = {}
    for thing in things(garden, library):
        for kit in kits_of(thing, library):
            for care in kit.care:
                if thing.number(care.only) > 0:
                    found.setdefault(care.id, []).append((thing, care))
    return found


def _told(garden: Garden, about: list[tuple[Built, KitCare]], spring: str, autumn: str) -> Due:
    """A care of like things in words, on its day."""
    first, care = about[0]
    names = ", ".join(dict.fromkeys(thing.name for thing, _ in about))
    words = first.say(care.words).show(garden.units)
    often = f" {EVERY[care.every_days].capitalize()}." if care.every_days in EVERY else ""
    return Due(care.id, autumn if care.when == "autumn" else spring,
               first.say(care.title).show(garden.units), f"{names}:{often} {words}")


def _rounds(rounds: list[Due], days: int, spring: str, autumn: str) -> Iterator[Due]:
    """What is done every so many days, from the spring until the winter, on one day together."""
    for n in range(1, (day_of_year(autumn) - day_of_year(spring) - 1) % 365 // days + 1):
        day = _days_from(spring, n * days)
        if len(rounds) == 1:
            yield Due(f"{rounds[0].key}-{n}", day, rounds[0].title, rounds[0].words)
        else:
            yield Due(f"round-{days}-{n}", day, "Look round: " + "; ".join(
                one.title[0].lower() + one.title[1:] for one in rounds),
                "\n".join(f"{one.title}. {one.words}" for one in rounds))


def _feeds(garden: Garden, library: Library) -> Iterator[Due]:
    for store in garden.vessels:
        if store.feed_ml_l > 0 and (day := fruit_sets(garden, library, store.id)):
            yield Due(f"feed-{store.id}", day, f"Feed into {store.name}",
                      "Fruit sets about now. Store tells the dose and when it reaches each plot. "
                      "When it is used up, run clean water through the lines and rinse the "
                      "filters.")


def _drums(garden: Garden, library: Library) -> Iterator[Due]:
    spring, _ = season(garden)
    for drain in garden.drums:
        yield from _lint(garden, library, drain, spring)


def _lint(garden: Garden, library: Library, drain: Drain, spring: str) -> list[Due]:
    """Each washing of a drum's filter in the season, and each rinsing of its lines' ends."""
    zone = next((z for z in garden.zones if z.source == drain.id), None)
    if zone is None:
        return []
    every = max(int(library.fittings[zone.filter].wash_days), 1)
    days_out = (frost.timer_days(garden.site).sum() + SPRING_BEFORE_DAYS) // every
    found = [Due(f"lint-{drain.id}-{n}", _days_from(spring, n * every),
                 f"{drain.name}: lint out of the filter", "A full filter leaves the drum standing: "
                 "it runs over, or goes septic.") for n in range(min(int(days_out), LINTS))]
    first = next(iter(cloggings(garden, library, zone)), None)
    if first and (days := int(first.noticed_weeks * 7)):
        found += [Due(f"rinse-{drain.id}-{n}", _days_from(spring, n * days),
                      f"{drain.name}: rinse the ends of its lines",
                      "Open each end until it runs clear: by now lint has taken a quarter of the "
                      "flow.") for n in range(1, min(int(days_out * every / days), LINTS) + 1)]
    return found


def _days_from(day: str, by: int) -> str:
    return month_day(day_of_year(day) + by)
