"""Store: what the stores hold, how they are joined, and what they carry the garden through."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core import storage
from euhydra.core.editing.edits import Add, SetValue
from euhydra.core.garden.model import Store
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Later, Remedy, StationReport, worst_first
from euhydra.core.stations import carried, overflows, reach, standing
from euhydra.core.storage import Bank
from euhydra.core.units import show, show_month_day
from euhydra.core.weather.frost import timer_in, timer_out

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

WORTH_ANOTHER = 0.02  # a barrel that gains less than this share is not offered
MOST_BARRELS = 24
IDLE_L = 5.0
BOLD = 1.3  # a rule that asks for more than this times what still pays is too bold


def report(r: Results) -> StationReport:
    """What Store says."""
    if not r.garden.stores:
        return _without(r)
    opens = r.flows.valve.opens
    gives = (", and rain alone gives {share} of what the timer opens for." if opens else
             "; as it is set, the timer never opens.")
    verdict = carried.verdict(r) or say(
        "{usable} can come out" + gives, usable=Amount(r.usable_l, "volume"),
        share=Amount(r.season.rain_share, "share"))
    return StationReport(
        "store", "Store", verdict, say("{v}", v=Amount(r.usable_l, "volume")), _figures(r),
        worst_first([*_reliability(r), *reach.findings(r), *_idle(r), *_dry_outlet(r), *_siphons(r),
                     *standing.findings(r), *_order(r), *carried.findings(r), *_winter(r),
                     *overflows.findings(r)]))


def _without(r: Results) -> StationReport:
    """A garden on the tap alone."""
    tap = r.season.a_year(r.season.tap)
    figure = Figure("tap_year", "From the tap in a year", Amount(tap, "yearly"), Working(
        "the timer's minutes × each plot's flow, day by day, all plots added", tuple(
            Term(r.season.world.name_of(plot), Amount(float(litres) / r.years, "yearly"))
            for plot, litres in zip(r.season.world.plots, (
                r.season.given - r.season.world.grey).sum(axis=(1, 2)), strict=True)),
        "season by day, the timer as it is set", "published"))
    note = Finding("store.none", "note", Phrase("Nothing is stored here"),
                   say("The tap feeds the lines itself, {v} a year. A barrel under a downspout "
                       "would take part of that.", v=Amount(tap, "yearly")),
                   (Remedy("add-store", Phrase("Add a barrel"), Phrase("drawn"), Add("store")),))
    return StationReport("store", "Store", Phrase("No store: the tap feeds the lines itself."),
                         Phrase("none"), (figure,), (note,))


def _figures(r: Results) -> tuple[Figure, ...]:
    season = r.season
    asked, rain = season.a_year(season.asked), season.a_year(season.rain)
    how = f"season by day, the timer as it is set, {r.years} years"
    grows = int(season.world.grows.any(axis=0).sum()) * r.years
    figures = [
        Figure("usable", "Usable water", Amount(r.usable_l, "volume"), Working(
            "what stands above the outlets, each bank filled to its lowest overflow",
            tuple(Term(bank.name, Amount(bank.usable_l, "volume"), f"holds {_litres(r, bank)}" + (
                "" if i in r.reached or not r.reached else ", but nothing draws from it: not in"))
                  for i, bank in enumerate(r.banks.banks)),
            "water below the outlet never comes out; joined stores fill as their levels let them",
            "common practice")),
        Figure("day_reliability", "Days of the season not short",
               Amount(season.days_met, "share"), Working(
            "1 − short days ÷ days on which something grows",
            (Term("short", Amount(int(season.short.sum()), "days")),
             Term("something grows", Amount(grows, "days"))), how, "published")),
        Figure("longest_dry_run", f"Longest dry run in {r.years} years",
               Amount(season.longest_dry_run, "days"), Working(
            "the longest stretch of short days, within a growing season",
            (Term("from", Amount((season.dry_run[0] + season.world.begins) % 365, "date")),
             Term("to", Amount((sum(season.dry_run) - 1 + season.world.begins) % 365, "date")),
             Term("in water year", Amount(season.dry_run[0] // 365 + 1, "count")))
            if season.longest_dry_run else (Term("short", Amount(0, "days")),),
            how, "published"))]
    if season.world.inflow.any():
        figures += _rain_figures(r, how)
    given = Working("opened for = rain + what fills in + lacking", (
        Term("opened for", Amount(asked, "yearly")), Term("rain", Amount(rain, "yearly")),
        Term("well", Amount(season.a_year(season.well), "yearly")),
        Term("tap", Amount(season.a_year(season.tap), "yearly")),
        *((Term("by hand", Amount(season.a_year(season.by_hand), "yearly")),)
          if season.world.filled_at.any() else ()),
        Term("lacking", Amount(season.a_year(season.lacking), "yearly"))), how, "published")
    if r.garden.wells:
        figures.append(Figure("well_year", "From the well in a year",
                              Amount(season.a_year(season.well), "yearly"), given))
    if r.garden.taps:
        figures.append(Figure("tap_year", "From the tap in a year",
                              Amount(season.a_year(season.tap), "yearly"), given))
    if not r.garden.taps or season.a_year(season.lacking) > 1:
        figures.append(Figure("lacking_year", "Lacking in a year",
                              Amount(season.a_year(season.lacking), "yearly"), given))
    figures += carried.figures(r)
    return (*figures, *(f for store in r.garden.stores for f in _standing_figures(r, store)),
            *overflows.figures(r))


def _rain_figures(r: Results, how: str) -> list[Figure]:
    """What rain gives and spills, where any comes to the stores."""
    season = r.season
    asked, rain = season.a_year(season.asked), season.a_year(season.rain)
    return [
        Figure("reliability", "Given by rain alone", Amount(season.rain_share, "share"), Working(
            "rain used ÷ what timer and float valves open for",
            (Term("rain used in a year", Amount(rain, "yearly")),
             Term("opened for in a year", Amount(asked, "yearly"))), how, "published")),
        Figure("overflow_share", "Spills over", Amount(season.over_share, "share"), Working(
            "spilled ÷ what comes",
            (Term("spilled in a year", Amount(season.a_year(season.over), "yearly")),
             Term("comes in a year", Amount(season.a_year(season.world.inflow), "yearly"))), how,
            "published"))]


def _litres(r: Results, bank: Bank) -> str:
    return show(bank.capacity_l, "volume", r.garden.units)


def _standing_figures(r: Results, store: Store) -> tuple[Figure, ...]:
    many = len(r.garden.stores) > 1
    tail = f", {store.name}" if many else ""
    key = f"_{store.id}" if many else ""
    return (
        Figure(f"full_mass{key}", f"Weight when full{tail}",
               Amount(storage.full_mass_kg(store), "mass"), Working(
            "weight of the water, and of the empty vessels",
            (Term("water", Amount(storage.total_l(store), "volume")),
             Term("under the outlet", Amount(storage.dead_l(store), "volume")),
             Term("one empty", Amount(store.shell_kg, "mass"))), "density of water", "physics")),
        Figure(f"bearing{key}", f"Pressure under it{tail}",
               Amount(storage.bearing_kpa(store), "pressure"), Working(
            "weight of one brim-full vessel ÷ what it bears on",
            (Term("bears on", Amount(storage.footprint_m2(store), "area", 2),
                  storage.SHAPES[store.shape].footing_note),
             Term("one full vessel", Amount(store.volume_l + store.shell_kg, "mass")),
             Term("this soil bears", Amount(standing.bears_kpa(r.garden.site.soil), "pressure"),
                  "residential code, recalled")), "weight over area", "physics")))


def _reliability(r: Results) -> list[Finding]:
    season = r.season
    share, lacking = season.rain_share, season.a_year(season.lacking)
    by_hand = season.world.filled_at.any() and not season.world.inflow.any()
    if share >= 0.95 or by_hand:
        return []
    days = Amount(season.longest_dry_run, "days")
    covered = lacking < 1
    unmet = Amount(season.a_year(season.filled_in), "yearly")
    why = (say("What is carried and the others give the rest, {v} a year.", v=unmet)
           if covered and season.world.filled_at.any() else
           say("The tap and the well give the rest, {v} a year.",
               v=unmet) if covered and r.garden.wells else
           say("The tap gives the rest, {v} a year.",
               v=unmet) if covered else
           say("{v} give out; the longest stretch without enough was {days}.",
               v=Amount(r.usable_l, "volume"), days=days))
    return [Finding("store.too-small", "care" if covered or share > 0.6 else "stop",
                    say("Rain gives {share} of what " + (
                        "the timer opens for" if r.flows.valve.opens else "float valves let in"),
                        share=Amount(share, "share")), why, Later(partial(_would_help, r)))]


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
    if not r.garden.taps:
        yield Remedy("fit-tap", Phrase("Top up from a tap"), say("{v} a year", v=Amount(
            r.season.a_year(r.season.lacking), "yearly")), Add("tap"))


def last_that_pays(r: Results) -> int:
    """Where in ``counts`` the last barrel stands that still gains its share; from the first up."""
    sizes, best = r.sizes, 0
    while (best + 1 < len(sizes.counts)
           and sizes.at(best + 1).given - sizes.at(best).given >= WORTH_ANOTHER):
        best += 1
    return best


def rule_verdict(r: Results, rule: storage.SizingRule) -> Phrase:
    """Whether a rule of thumb is too bold or too timid here, and why."""
    pays = r.sizes.curve[last_that_pays(r)].usable_l
    whole = max(size.given for size in r.sizes.curve)
    dry = int(np.median(storage.longest_dry_spell(r.weather.rain_mm)))
    if rule.size_l == math.inf:
        more = "more roof" if r.garden.taps else "more roof, a tap"
        comes, asked = (r.season.a_year(x) for x in (r.sizes.inflow_l, r.sizes.asked_l))
        why = ("{a} a year come and {b} are opened for" if comes < asked else
               "of the {a} that come a year not all can be kept for when they are asked for")
        return say("None does: " + why + ". The largest store could give {s}; " + more
                   + " or less to water would do more.",
                   a=Amount(comes, "yearly"), b=Amount(asked, "yearly"),
                   s=Amount(rule.reliability, "share"))
    if rule.key == "never-fails":
        return (say("Bold: the last {v} serve only the driest year.",
                    v=Amount(max(rule.size_l - pays, 0.0), "volume")) if rule.size_l > BOLD * pays
                else Phrase("Fair: here never failing takes little more than what pays."))
    if rule.size_l > BOLD * pays:
        return say("Too bold: past {v} each barrel gains less than {g}.",
                   v=Amount(pays, "volume"), g=Amount(WORTH_ANOTHER, "share"))
    if rule.size_l < pays / BOLD:
        why = ("it spreads the need over the year, and this garden drinks in a dry season"
               if rule.key == "five-percent" else "one spell does not outlast a dry season")
        return say("Too timid: " + why + "; {v} would give {s}.", v=Amount(pays, "volume"),
                   s=Amount(whole, "share"))
    return say("About right: it bridges {d} and lies near what still pays.",
               d=Amount(dry, "days"))


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
    siphons = [joint for joint in r.garden.joints if joint.kind == "siphon"]
    if not siphons:
        return []
    return [Finding(
        "store.siphons", "note", say("{n} siphons hold only while they are full of water",
                                     n=Amount(len(siphons), "count")),
        say("Fill each hose under water and keep both ends {end} or more off the floor and below "
            "the lowest water; once air is in, the levels part. A bottom link needs a hole and "
            "cannot lose its prime.", end=Amount(min(j.end_m for j in siphons), "small")))]


def _order(r: Results) -> list[Finding]:
    """Who fills in, in what order, and through what."""
    if not (r.garden.taps or r.garden.wells):
        return []
    season = r.season
    sources = " and then ".join([*(["the well"] if r.garden.wells else []),
                                 *(["the tap"] if r.garden.taps else [])])
    found = [Finding(
        "store.order", "note", Phrase(f"Rain first, then {sources}"),
        say("The well gives {w} a year and the tap {t}, only when the stores are out.",
            w=Amount(season.a_year(season.well), "yearly"),
            t=Amount(season.a_year(season.tap), "yearly")))]
    if r.garden.taps:
        found.append(Finding(
            "store.backflow", "note", Phrase("The tap fills through an air gap and nothing else"),
            say("{v} a year comes from the tap. Let it fall freely into the barrel, with a "
                "backflow preventer on the tap. Never join rain pipes to mains pipes; your local "
                "code and a licensed plumber decide what is allowed.",
                v=Amount(season.a_year(season.tap), "yearly")), caution=True))
    return found
