"""Why a plot is thirsty on a day, from what the season did: one cause, and what could change it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from euhydra.core.daily.run import Run
from euhydra.core.daily.year import Year
from euhydra.core.season.state import SAME
from euhydra.core.statements.figures import NONE, Amount, Phrase, quoted, say
from euhydra.core.weather.generator import MONTH_OF_DAY

EMPTY = 0.02  # of what a store holds
LOOK_BACK = 45  # days; who has had no run for longer gets none


@dataclass(frozen=True)
class Lead:
    """Where something can be changed: a station, a way of looking, what is picked there."""

    station: str
    view: str = ""
    zone: str = ""
    plot: str = ""
    store: str = ""


@dataclass(frozen=True)
class Why:
    """A cause of thirst: its rule, since which day of the year, in words, where it is changed."""

    rule: str
    plot: str
    since: int
    words: Phrase
    lead: Lead


@dataclass(frozen=True, eq=False)
class _Case:
    """A plot on a day: its number ``p``, its zone's id, its last run and how it stood after."""

    year: Year
    p: int
    day: int

    @property
    def plot(self) -> str:
        return self.year.plots[self.p]

    @cached_property
    def zone(self) -> str:
        zones = self.year.results.garden.zones
        return next((z.id for z in zones if self.plot in z.plots), "")

    @property
    def of(self) -> str:
        """Whose runs are its: a zone's, or its own where it is watered by hand."""
        return self.zone or self.plot

    @cached_property
    def last(self) -> Run | None:
        """The last run up to this day, going round the year."""
        for back in range(LOOK_BACK):
            day = (self.day - back) % 365
            mine = [run for run in self.year.runs_by_day.get(day, ()) if run.of == self.of]
            if mine:
                return mine[-1]
        return None

    def litres(self, day: int) -> Amount:
        return Amount(float(self.year.given[self.p, day]), "volume")


Rule = Callable[[_Case], tuple[Phrase, Lead] | None]


def why(year: Year, p: int, day: int) -> Why | None:
    """Why plot ``p`` is thirsty on a day; None where it is not. The first rule that holds."""
    if not year.thirsty[p, day]:
        return None
    case, since = _Case(year, p, day), _since(year, p, day)
    for name, rule in RULES.items():
        told = rule(case)
        if told:
            return Why(name, case.plot, since, *told)
    return Why("thirst.other", case.plot, since, NONE, Lead("prove", "thirst", plot=case.plot))


def _since(year: Year, p: int, day: int) -> int:
    """The first day of the stretch of thirst that a day is in."""
    for back in range(1, 365):
        if not year.thirsty[p, (day - back) % 365]:
            return (day - back + 1) % 365
    return day


def _led_only(case: _Case) -> tuple[Phrase, Lead] | None:
    """Only a laundry or a drum waters it."""
    if case.plot not in case.year.season.world.washed:
        return None
    return say("Only used water comes here."), Lead("catch", "used")


def _shut(case: _Case) -> tuple[Phrase, Lead] | None:
    """Its valve never opens."""
    if not case.year.season.world.stuck[case.p]:
        return None
    return (say("Its valve stays shut: there is too little pressure to open it."),
            Lead("push", "section", zone=case.zone))


def _float_lacks(case: _Case) -> tuple[Phrase, Lead] | None:
    """A float valve stands open and nothing comes, or too slowly."""
    world = case.year.season.world
    if not world.always_on[case.p]:
        return None
    if case.year.lacking[case.p, case.day] > SAME or _empty(case):
        return say("Its float valve is open, and nothing is left to come."), _store(case)
    return (say("Its float valve lets in {v} a day, no more.", v=case.litres(case.day)),
            Lead("grow", "wicking", plot=case.plot))


def _empty(case: _Case) -> bool:
    """Whether its store holds next to nothing in the morning."""
    world = case.year.season.world
    bank = int(world.bank[case.p])
    if bank < 0 or world.size[bank] <= 0:
        return False
    there = case.year.level[bank, case.day - 1] + case.year.poured[bank, case.day]
    return bool(there < EMPTY * world.size[bank])


def _dry(case: _Case) -> tuple[Phrase, Lead] | None:
    """When it last was to be watered, the source had not enough."""
    last = case.last
    if last is None or last.lacking <= SAME + SAME * last.litres:
        return None
    lead = _store(case)
    what = "store" if lead.store else "well"
    return (say(f"On {{day}} it was to get water, and the {what} was dry: {{v}} short.",
                day=Amount(last.day, "date"), v=Amount(last.lacking, "volume")), lead)


def _store(case: _Case) -> Lead:
    source = case.year.results.garden.source_of(
        case.year.results.garden.plot(case.plot))
    stored = any(s.id == source for s in case.year.results.garden.stores)
    return (Lead("store", "sizing", store=source) if stored else Lead("catch", "supply"))


def _indoors(case: _Case) -> tuple[Phrase, Lead] | None:
    """It grows while its timer is not out, or has no setting."""
    schedule = case.year.results.schedule
    if case.zone:
        on = schedule.timer_days[case.zone][case.day]
    else:
        hand = schedule.by_hand.get(case.plot)
        on = bool(hand and hand.days[case.day])
    if on:
        return None
    garden = case.year.results.garden
    timed = any(z.id == case.zone and garden.timer_of(z) for z in garden.zones)
    words = "Its timer is not out on this day." if timed else "Nobody waters it on this day."
    return say(words), Lead("time", "season", zone=case.zone)


def _held(case: _Case) -> tuple[Phrase, Lead] | None:
    """Rain held a run back since the last one."""
    r, year = case.year.results, case.year
    last = case.last
    if r.garden.rain_hold_mm <= 0 or last is None:
        return None
    gone = (case.day - last.day) % 365
    fell = float(sum(year.rain_mm[(case.day - n) % 365] for n in range(gone + 1)))
    every = _every(case)
    if not every or gone <= every or fell < r.garden.rain_hold_mm:
        return None
    return (say("{mm} of rain held its run back, which was not enough for it.",
                mm=Amount(fell, "depth")), Lead("prove", "thirst"))


def _never(case: _Case) -> tuple[Phrase, Lead] | None:
    """No run in weeks though its timer is out."""
    if case.last is not None:
        return None
    return (say("Nothing has run for it in {n}.", n=Amount(LOOK_BACK, "days")),
            Lead("time", "zones", zone=case.zone))


def _rare(case: _Case) -> tuple[Phrase, Lead] | None:
    """Its last run filled its roots; they were drawn down before the next."""
    year, last = case.year, case.last
    if last is None or last.day == case.day or not _filled(year, case.p, last.day):
        return None
    gone = (case.day - last.day) % 365
    return (say("It had enough on {day}; {n} without a run is too long for it.",
                day=Amount(last.day, "date"), n=Amount(gone, "days")),
            Lead("time", "week", zone=case.zone))


def _filled(year: Year, p: int, day: int) -> bool:
    """Whether a run left roots that are not under stress."""
    ready = year.of(year.season.world.ready)[p, day]
    return bool(year.depletion[p, day] <= ready + SAME)


def _little(case: _Case) -> tuple[Phrase, Lead] | None:
    """Its runs bring less than its roots lack."""
    last = case.last
    if last is None:
        return None
    lacks = case.litres(last.day).value + float(case.year.depletion[case.p, last.day])
    return (say("Its run of {min} brought {v}; its roots lacked {all}.",
                min=Amount(last.minutes, "minutes"), v=case.litres(last.day),
                all=Amount(lacks, "volume")),
            Lead("time", "zones", zone=case.zone) if case.zone else Lead("grow", "habits"))


def _every(case: _Case) -> float:
    """Days from one opening to the next by the setting of the day's month; 0 without one."""
    schedule, month = case.year.results.schedule, int(MONTH_OF_DAY[case.day])
    setting = (schedule.setting_in(case.zone, month) if case.zone in schedule.settings
               else schedule.by_hand[case.plot].setting_in(month)
               if case.plot in schedule.by_hand else None)
    return 7 / setting.runs_a_week if setting and setting.runs_a_week else 0.0


def name_of(year: Year, of: str) -> str:
    """What a zone or a plot is called, safe to put in a sentence."""
    zones = {z.id: z.name for z in year.results.garden.zones}
    return quoted(zones[of] if of in zones else year.season.world.name_of(of))


RULES: dict[str, Rule] = {
    "thirst.led-only": _led_only, "thirst.shut": _shut, "thirst.float": _float_lacks,
    "thirst.store-dry": _dry, "thirst.timer-in": _indoors, "thirst.held": _held,
    "thirst.never": _never, "thirst.rare": _rare, "thirst.little": _little}
