"""Store: what the stores hold, how they are joined, and what they carry the garden through."""

from __future__ import annotations

from typing import TYPE_CHECKING

from euhydra.core import storage
from euhydra.core.editing.edits import Add
from euhydra.core.garden.model import Store
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, say
from euhydra.core.statements.findings import Finding, Remedy, StationReport, worst_first
from euhydra.core.stations import carried, overflows, standing, store_findings, supplies
from euhydra.core.storage import Bank
from euhydra.core.units import show

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

def report(r: Results) -> StationReport:
    """What Store says."""
    if not r.garden.stores:
        return _without(r)
    opens = r.flows.opens
    gives = (f", and rain alone gives {{share}} of what {store_findings.asked_for(r)}."
             if opens or not r.garden.timed_zones else "; as it is set, the timer never opens.")
    verdict = carried.verdict(r) or say(
        "{usable} can come out" + gives, usable=Amount(r.usable_l, "volume"),
        share=Amount(r.season.rain_share, "share"))
    return StationReport(
        "store", "Store", verdict, say("{v}", v=Amount(r.usable_l, "volume")), _figures(r),
        worst_first(store_findings.findings(r)))


def _without(r: Results) -> StationReport:
    """A garden on tap or well alone, or on a laundry's drum."""
    if all(r.garden.drum_of(zone.source) for zone in r.garden.zones):
        return _by_a_drum(r)
    season, world = r.season, r.season.world
    straight = season.given - world.grey
    by_tap, by_well = world.bank < 0, (world.bank >= 0) & ~world.stored
    figures = tuple(
        Figure(f"{key}_year", f"From the {key} in a year", Amount(season.a_year(litres), "yearly"),
               Working("the timer's minutes × each plot's flow, day by day, all plots added", tuple(
                   Term(world.name_of(plot), Amount(float(came.sum()) / r.years, "yearly"))
                   for plot, came, its in zip(world.plots, straight, mine, strict=True) if its),
                   "season by day, the timer as it is set", "published"))
        for key, litres, mine, there in (("tap", season.tap, by_tap, r.garden.taps),
                                         ("well", season.well, by_well, r.garden.wells)) if there)
    drawn = {zone.source for zone in r.garden.zones} | {
        r.garden.source_of(p) for p in r.garden.hand_plots}
    who = supplies.named(tap=any(map(r.garden.on_mains, drawn)),
                         well=any(map(r.garden.well_of, drawn)), gives="feeds", give="feed")
    note = Finding("store.none", "note", Phrase("Nothing is stored here"),
                   say(f"{who} the lines straight, {{v}} a year. A barrel under a downspout would "
                       "take part of that.", v=Amount(season.a_year(season.tap + season.well),
                                                      "yearly")),
                   (Remedy("add-store", Phrase("Add a barrel"), Phrase("drawn"), Add("store")),))
    return StationReport("store", "Store", Phrase(
        f"No store: {who[0].lower()}{who[1:]} the lines straight."), Phrase("none"), figures,
        (note,))


def _by_a_drum(r: Results) -> StationReport:
    """All lines hang on a laundry's drum, which keeps nothing for another day."""
    grey = r.season.a_year(r.season.world.grey.sum(axis=0))
    figure = Figure("drum_year", "From the laundry in a year", Amount(grey, "yearly"), Working(
        "what comes less what the drum spills, on the days without frost", tuple(
            Term(r.season.world.name_of(plot), Amount(float(litres) / r.years, "yearly"))
            for plot, litres in zip(r.season.world.plots, r.season.world.grey.sum(axis=(1, 2)),
                                    strict=True)), "season by day", "published"))
    note = Finding("store.by-drum", "note", Phrase("Nothing is stored here"),
                   say("A drum of laundry water is empty again within the day: {v} a year go out "
                       "as they come. A barrel under a downspout would keep rain for dry days.",
                       v=Amount(grey, "yearly")),
                   (Remedy("add-store", Phrase("Add a barrel"), Phrase("drawn"), Add("store")),))
    return StationReport("store", "Store", Phrase("No store: the drum's water goes out as it "
                                                  "comes."), Phrase("none"), (figure,), (note,))


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
