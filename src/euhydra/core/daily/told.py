"""A day in words: each sentence by a rule of its own, with where what it tells can be changed."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from euhydra.core.daily.run import Run
from euhydra.core.daily.thirst import Lead, Why, name_of, why
from euhydra.core.daily.year import LEAST_L, WET_MM, Year
from euhydra.core.results.results import Results
from euhydra.core.season.lasts import A_YEAR
from euhydra.core.season.state import SAME
from euhydra.core.statements.figures import NONE, Amount, Phrase, quoted, say

FIELD = re.compile(r"(?<!\{)((?:\{\{)*)\{(?=\w)")  # where an amount goes in, not a brace in a name
SOON = 60  # days without rain that are told of
DRY = 0.01  # of all that the stores hold


@dataclass(frozen=True)
class Told:
    """A sentence of a day: its rule, what it is about (an hour, a name), the words, where to."""

    rule: str
    about: str
    words: Phrase
    lead: Lead


@dataclass(frozen=True)
class Day:
    """A day: one sentence over all, why who is thirsty, then what came and went."""

    head: Phrase
    told: tuple[Told, ...]
    thirsty: tuple[Why, ...]


def day_told(year: Year, day: int) -> Day:
    """What there is to say of a day of the year, 0 to 364."""
    if not year.has(day):
        return Day(say("This day is still to come."), (), ())
    thirsty = tuple(found for p in range(len(year.plots)) if (found := why(year, p, day)))
    told = tuple(one for rule in RULES.values() for one in rule(year, day))
    return Day(_head(year, day, thirsty), _thirst(year, day, thirsty) + told, thirsty)


def _thirst(year: Year, day: int, thirsty: tuple[Why, ...]) -> tuple[Told, ...]:
    """Why who is thirsty; those of one cause together, told by the one that is longest so."""
    found = []
    for rule in dict.fromkeys(w.rule for w in thirsty):
        mine = sorted((w for w in thirsty if w.rule == rule), key=lambda w: (w.since - day) % 365)
        first = mine[0]
        since = (say("Thirsty since {day}. ", day=Amount(first.since, "date"))
                 if first.since != day else say("Thirsty from today. "))
        names = [year.season.world.name_of(w.plot) for w in mine]
        found.append(Told(rule, _listed(names), _joined(since, first.words), first.lead))
    return tuple(found)


def _joined(*phrases: Phrase) -> Phrase:
    """Phrases one after another; their amounts must go by different names."""
    template = ""
    amounts: dict[str, Amount] = {}
    for n, phrase in enumerate(phrases):
        template += FIELD.sub(rf"\1{{p{n}", phrase.template)
        amounts |= {f"p{n}{key}": value for key, value in phrase.amounts.items()}
    return Phrase(template, amounts)


def _head(year: Year, day: int, thirsty: tuple[Why, ...]) -> Phrase:
    """The sentence over the day: who is thirsty, and when the stores are dry without rain."""
    names = [quoted(year.season.world.name_of(w.plot)) for w in thirsty]
    if names:
        first = say(f"Thirsty: {_listed(names)}.")
    elif year.grows[:, day].any():
        first = say("Everything that grows has what it drinks.")
    else:
        first = say("Nothing grows on this day.")
    return _joined(first, _stores_last(year, day))


def _listed(names: list[str]) -> str:
    if len(names) > 3:
        return f"{len(names)} plots"
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


def _stores_last(year: Year, day: int) -> Phrase:
    world, stores = year.season.world, stores_of(year.results)
    if (year.lacking[world.stored, day] > LEAST_L).any():
        return say(f" The {stores} dry.")
    held = float(year.level[:, day].sum())
    filled_in = float(year.tap[day] + year.well[day])
    if world.stored.any() and held < DRY * world.size.sum() and filled_in > LEAST_L:
        both = " and ".join(name for name, gave in (("tap", year.tap), ("well", year.well))
                            if gave[day] > LEAST_L)
        return say(f" The {stores} dry; the {both} fill{'' if ' ' in both else 's'} in.")
    days = dry_without_rain(year, day)
    if days is None or days > SOON:
        return NONE
    if days == 1:
        return say(f" Without rain the {stores} dry tomorrow.")
    return say(f" Without rain the {stores} dry on {{day}}.",
               day=Amount((day + days) % 365, "date"))


def stores_of(r: Results) -> str:
    """What holds the garden's water, with the verb that suits it."""
    return "store is" if len(r.banks.banks) == 1 else "stores are"


def dry_without_rain(year: Year, day: int) -> int | None:
    """Days until the stores first fail the timer if no rain comes; None where none is asked."""
    stored = year.season.world.stored
    asked = year.season.asked[stored].sum()
    if not stored.any() or asked <= SAME:
        return None
    days = year.dry_after(day)
    return days if days < A_YEAR else None


def _ran(year: Year, day: int) -> list[Told]:
    """The runs of each zone: when, how long, how much, and of what was short."""
    runs: dict[str, list[Run]] = {}
    for run in year.runs_by_day.get(day, ()):
        runs.setdefault(run.of, []).append(run)
    return [Told("day.ran", _clocks(mine), _run_words(year, mine),
                 Lead("grow", "habits") if mine[0].by_hand else Lead("time", "week", zone=of))
            for of, mine in runs.items()]


def _clocks(runs: list[Run]) -> str:
    """The hours at which runs begin; of more than two the first and the last."""
    hours = [Amount(run.start_h % 24, "clock").show("metric") for run in runs]
    return ", ".join(hours) if len(hours) < 3 else f"{hours[0]} to {hours[-1]}"


def _run_words(year: Year, runs: list[Run]) -> Phrase:
    name, first = name_of(year, runs[0].of), runs[0]
    litres, lacking = (sum(getattr(run, what) for run in runs) for what in ("litres", "lacking"))
    amounts = {"v": Amount(litres, "volume"), "m": Amount(first.minutes, "minutes"),
               "lacks": Amount(lacking, "volume"), "n": Amount(len(runs), "count")}
    often = {1: "", 2: " twice"}.get(len(runs), " {n} times")
    how = "gets {v} by hand" if first.by_hand else f"runs {{m}}{often}: {{v}}"
    if lacking > LEAST_L:
        how = (f"{how}, {{lacks}} short" if litres >= LEAST_L
               else "was to get {lacks} by hand, and there was none" if first.by_hand
               else f"opens{often}, and nothing comes: {{lacks}} short")
    return Phrase(f"{name} {how}.", amounts)


def _let_in(year: Year, day: int) -> list[Told]:
    """What float valves let in through the day."""
    world = year.season.world
    open_ = [p for p in np.flatnonzero(world.always_on).tolist()
             if year.given[p, day] > LEAST_L]
    if not open_:
        return []
    names = _listed([quoted(world.names[p]) for p in open_])
    return [Told("day.let-in", "all day", say(
        f"By float valve: {{v}} to {names}.",
        v=Amount(float(year.given[open_, day].sum()), "volume")),
        Lead("grow", "wicking", plot=year.plots[open_[0]]))]


def _rained(year: Year, day: int) -> list[Told]:
    """What the rain was worth, or that it fell as snow."""
    if year.rain_mm[day] < WET_MM:
        return []
    mm, came = Amount(float(year.rain_mm[day]), "depth"), float(year.caught[:, day].sum())
    lead = Lead("catch", "roofs")
    if year.snow_mm[day] > year.snow_mm[(day - 1) % 365] + WET_MM:
        return [Told("day.snow", "snow", say("{mm} falls as snow and lies.", mm=mm), lead)]
    if came > LEAST_L:
        words = say("{mm} of rain, {v} of it into store.", mm=mm, v=Amount(came, "volume"))
    else:
        words = say("{mm} of rain.", mm=mm)
    return [Told("day.rain", "rain", words, lead)]


def _melts(year: Year, day: int) -> list[Told]:
    """Snow that melts without rain."""
    fell = year.snow_mm[(day - 1) % 365] - year.snow_mm[day]
    came = float(year.caught[:, day].sum())
    if fell < WET_MM or came <= LEAST_L or year.rain_mm[day] >= WET_MM:
        return []
    return [Told("day.melts", "snow", say("Melting snow: {v} into store.",
                                          v=Amount(came, "volume")), Lead("catch", "roofs"))]


def _over(year: Year, day: int) -> list[Told]:
    """What ran over the rims."""
    if year.over[day] <= LEAST_L:
        return []
    return [Told("day.over", "over", say("{v} runs over.", v=Amount(
        float(year.over[day]), "volume")), Lead("store", "overflow"))]


def _filled_in(year: Year, day: int) -> list[Told]:
    """What taps, wells and people gave where the rain did not do."""
    found = []
    for rule, name, litres in (("day.tap", "tap", year.tap[day]),
                               ("day.well", "well", year.well[day])):
        if litres > LEAST_L:
            found.append(Told(rule, name, say(f"The {name} gives {{v}}.", v=Amount(
                float(litres), "volume")), Lead("catch", "supply")))
    poured = float(year.poured[:, day].sum())
    if poured > LEAST_L:
        found.append(Told("day.poured", "by hand", say("{v} is filled in by hand.", v=Amount(
            poured, "volume")), Lead("store", "bank")))
    return found


def _washed(year: Year, day: int) -> list[Told]:
    """Used water on its way."""
    if year.used[day] <= LEAST_L:
        return []
    world = year.season.world
    got = [quoted(world.names[p]) for p in range(len(year.plots)) if year.grey[p, day] > LEAST_L]
    to = f" to {_listed(got)}" if got else ""
    of = {d.fixture for d in year.results.garden.drains}
    words = say(f"Used water: {{v}}{to}.", v=Amount(float(year.used[day]), "volume"))
    return [Told("day.washed", of.pop() if len(of) == 1 else "drains", words,
                 Lead("catch", "used"))]


def _drank(year: Year, day: int) -> list[Told]:
    """What the air takes, and what that is in the garden."""
    if not year.grows[:, day].any():
        return []
    drunk = float(year.drunk[:, day].sum())
    return [Told("day.drank", "all day", say(
        "The air takes {mm}; the garden drinks {v}.", mm=Amount(float(year.air_mm[day]), "depth"),
        v=Amount(drunk, "volume")), Lead("grow", "thirst"))]


def _emptied(year: Year, day: int) -> list[Told]:
    """Stores let out before the frost."""
    if year.emptied[day] <= LEAST_L:
        return []
    return [Told("day.emptied", "frost", say(
        "Emptied before the frost: {v}.",
        v=Amount(float(year.emptied[day]), "volume")), Lead("store", "bank"))]


Rule = Callable[[Year, int], list[Told]]
RULES: dict[str, Rule] = {
    "ran": _ran, "let-in": _let_in, "rained": _rained, "melts": _melts, "over": _over,
    "filled-in": _filled_in, "washed": _washed, "drank": _drank, "emptied": _emptied}
