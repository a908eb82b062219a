"""What Store finds amiss: sizes that no longer pay, water nothing reaches, winter, siphons."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from euhydra.core import storage
from euhydra.core.advise.bounds import MOST_BARRELS
from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.learnt import source_of
from euhydra.core.garden.model import Store, Well
from euhydra.core.statements.figures import Amount, Phrase, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy
from euhydra.core.stations import carried, feeding, overflows, reach, standing
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.season import FEW_LITRES, lacking_share
from euhydra.core.stations.supplies import beside_rain
from euhydra.core.stations.worth import WORTH_ANOTHER, last_that_pays
from euhydra.core.units import show_month_day
from euhydra.core.weather.frost import timer_in, timer_out
from euhydra.core.weather.generator import MONTH_OF_DAY

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

IDLE_L = 5.0


def findings(r: Results) -> list[Finding]:
    """All of it: what is kept, what it stands on, how it is joined, filled and emptied."""
    return [*_reliability(r), *reach.findings(r), *_idle(r), *_dry_outlet(r), *_siphons(r),
            *_leaks(r), *standing.findings(r), *_order(r), *carried.findings(r), *_winter(r),
            *overflows.findings(r),
            *feeding.findings(r, "store.feed", [store.id for store in r.garden.stores])]


def _reliability(r: Results) -> list[Finding]:
    season = r.season
    share, lacking = season.rain_share, season.a_year(season.lacking)
    by_hand = season.world.filled_at.any() and not season.world.inflow.any()
    if share >= 0.95 or by_hand:
        return []
    days = Amount(season.longest_dry_run, "days")
    covered = lacking < 1
    little = lacking_share(r) <= FEW_LITRES
    unmet = Amount(season.a_year(season.filled_in), "yearly")
    why = (say("What is carried and the others give the rest, {v} a year.", v=unmet)
           if covered and season.world.filled_at.any() else
           say(f"{beside_rain(r.garden)} the rest, {{v}} a year.",
               v=unmet) if covered else
           say("{v} give out; the longest stretch without enough was {days}.",
               v=Amount(r.usable_l, "volume"), days=days))
    return [Finding("store.too-small", "care" if covered or little or share > 0.6 else "stop",
                    say(f"Rain gives {{share}} of what {asked_for(r)}",
                        share=Amount(share, "share")), why, Later(partial(_would_help, r)))]


def _leaks(r: Results) -> list[Finding]:
    """What a store loses, as it was read."""
    return [Finding("store.leaks", "care", say(f"{quoted(store.name)} loses " + "{x}", x=Amount(
        store.leak_l_day, "daily")),
        Phrase(f"By {source_of(r.garden, f'stores/{store.id}/leak_l_day')}. All stores together "
               "lose what Prove's ledger tells. Keep, What is wrong, looks for the place."))
        for store in r.garden.stores if store.leak_l_day > 0]


def asked_for(r: Results) -> str:
    """Who asks for the water that is given, in words: the timer, or float valves alone."""
    timed = r.flows.opens and r.garden.timed_zones
    return "the timer opens for" if timed else "float valves let in"


def _would_help(r: Results) -> Iterator[Remedy]:
    """One more barrel, the largest bank shown that still gains by each, and a tap."""
    sizes, store = r.sizes, r.garden.store
    own, best = sizes.own, last_that_pays(r)
    like = f" like {quoted(store.name)}"
    for i in dict.fromkeys((own + 1, max(best, own + 1))):
        count = int(sizes.counts[i]) if i < len(sizes.counts) else MOST_BARRELS + 1
        if (count <= MOST_BARRELS
                and sizes.at(i).given - sizes.at(own).given >= WORTH_ANOTHER):
            more = "One more" if count == store.count + 1 else f"{count - store.count} more"
            yield Remedy(f"barrels-{count}", say(more + like + ": {n} in all",
                                                 n=Amount(count, "count")),
                         say("{share}", share=Amount(sizes.at(i).given, "share")),
                         SetValue(f"stores/{store.id}/count", count))
    lacking = r.season.a_year(r.season.lacking)
    if not r.garden.taps and lacking >= 1:
        yield Remedy("fit-tap", Phrase("Top up from a tap"),
                     say("{v} a year", v=Amount(lacking, "yearly")), Add("tap"))


def _idle(r: Results) -> list[Finding]:
    """Room that never fills since a joined store overflows first."""
    found = []
    for bank in r.banks.banks:
        if bank.idle_l < IDLE_L:
            continue
        low = min(bank.stores, key=storage.full_z_m)
        tops = sorted(storage.full_z_m(store) for store in bank.stores)
        lift = round(min(low.stand_m + tops[1] - tops[0], 3.0), 2) if len(tops) > 1 else 0.0
        edit = SetValue(f"stores/{low.id}/stand_m", lift)
        after = r.after(edit)
        gain = after.usable_l - r.usable_l
        remedies = (Remedy(f"lift-{low.id}", say(f"{quoted(low.name)} on " + "{h}",
                                                 h=Amount(lift, "length")),
                           say("{v} more", v=Amount(gain, "volume")), edit),) if gain > 1 else ()
        found.append(Finding(
            "store.idle-room", "care",
            say("{v} of room never fills", v=Amount(bank.idle_l, "volume")),
            say(f"Joined stores stand at one level, and {quoted(low.name)} overflows first, at "
                + "{z} over the datum. Set their rims level.", z=Amount(tops[0], "length")),
            remedies))
    return found


def _dry_outlet(r: Results) -> list[Finding]:
    """An outlet that lines draw from, higher than the water ever stands."""
    return [Finding(
        "store.dry-outlet", "stop", Phrase(f"Water never reaches {quoted(store.name)}'s outlet"),
        say("It stands at {z}; the stores it is joined with overflow at {full}.",
            z=Amount(storage.outlet_z_m(store), "length"), full=Amount(bank.full_z_m, "length")))
        for bank in r.banks.banks for store in bank.stores
        if store.id in storage.drawn_from(r.garden)
        and storage.outlet_z_m(store) >= bank.full_z_m]


def _winter(r: Results) -> list[Finding]:
    """What is let go before the frost, and what it would bring to keep it."""
    litres = r.season.a_year(r.season.emptied)
    out = [b for b, days in zip(r.banks.banks, r.inflow.winters, strict=False) if days.any()]
    if litres < 1 or not out or not r.season.world.inflow.any():
        return []
    return [Finding(
        "store.winter", "note", say("{v} a year are let out before the frost", v=Amount(
            litres, "yearly")),
        say(f"The stores are emptied on {show_month_day(timer_in(r.garden.site))}, before ice "
            f"splits them, and fill again from {show_month_day(timer_out(r.garden.site))}."),
        Later(partial(_kept_warm, r, out[0].stores[0])))]


def _kept_warm(r: Results, store: Store) -> Iterator[Remedy]:
    edit = SetValue(f"stores/{store.id}/indoors", True)
    then = r.after(edit).season
    yield Remedy(f"indoors-{store.id}", Phrase(f"{quoted(store.name)} free of frost, indoors"),
                 say("rain gives {s}", s=Amount(then.rain_share, "share")), edit)


def _siphons(r: Results) -> list[Finding]:
    ends = [joint.end_m for joint in r.garden.joints if joint.kind == "siphon"]
    ends += [store.outlet_m for store in r.garden.stores if store.linked == "siphon"
             for _ in range(store.count - 1)]
    if not ends:
        return []
    return [Finding(
        "store.siphons", "note", say("{n} siphons hold only while they are full of water",
                                     n=Amount(len(ends), "count")),
        say("Fill each hose under water and keep both ends {end} or more off the floor and below "
            "the lowest water; once air is in, the levels part. A bottom link needs a hole and "
            "cannot lose its prime.", end=Amount(min(ends), "small")))]


def _order(r: Results) -> list[Finding]:
    """Who fills in, in what order, and through what."""
    if not (r.garden.taps or r.garden.wells):
        return []
    season = r.season
    filling = [well for well in r.garden.wells if well.tops_up]
    tapped = any(tap.tops_up for tap in r.garden.taps)
    sharing = next((well for well in filling if well.share > 0), None)
    then = " and then ".join([*(["the well"] if filling else []), *(["the tap"] if tapped else [])])
    title = (say(f"{{s}} of each draw from {quoted(sharing.name)}, the rest from rain",
                 s=Amount(sharing.share, "share")) if sharing else
             Phrase(f"Rain first, then {then}" if then else "Each source waters its own plots"))
    why = ("; the tap only when both are out" if sharing and tapped else "" if sharing else
           ", only when the stores are out" if then else "")
    found = [Finding(
        "store.order", "note", title,
        say("The well gives {w} a year and the tap {t}" + why + "." + (
            " Who decides is you: let it run into the barrel on watering days, {x} a day in "
            f"{MONTHS[r.demand.peak_month]}, or lead it there through a valve set to that."
            if sharing else ""),
            w=Amount(season.a_year(season.well), "yearly"),
            t=Amount(season.a_year(season.tap), "yearly"),
            x=Amount(_shared_l(r, sharing) if sharing else 0.0, "volume")))]
    if tapped:
        found.append(Finding(
            "store.backflow", "note", Phrase("The tap fills through an air gap and nothing else"),
            say("{v} a year comes from the tap. Let it fall freely into the barrel, with a "
                "backflow preventer on the tap. Never join rain pipes to mains pipes; your local "
                "code and a licensed plumber decide what is allowed.",
                v=Amount(season.a_year(season.tap), "yearly")), caution=True))
    return found


def _shared_l(r: Results, well: Well) -> float:
    """What a well's share of the draws comes to on a day of the thirstiest month, the mean."""
    bank = r.banks.of_store[well.tops_up]
    drawn = r.season.asked[r.season.world.bank == bank].sum(axis=0)
    return well.share * float(drawn[:, MONTH_OF_DAY == r.demand.peak_month].mean())
