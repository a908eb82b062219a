"""What is said of litres and of days: of a year, of plots, of stores."""

from __future__ import annotations

from collections.abc import Iterator

from euhydra import report
from euhydra.audit.statements import Said, Statement, exactly, of_amount, shown
from euhydra.core.advise.comparison import measured
from euhydra.core.assessment.assess import STATIONS
from euhydra.core.season import absence
from euhydra.core.season.hand_filling import fillings
from euhydra.core.stations import season as book
from euhydra.core.units import to_inside
from euhydra.core.weather.generator import MONTH_LENGTHS
from euhydra.exports.tables import TABLES
from euhydra.web import charts
from euhydra.web.drawings import first_pour


def a_year(said: Said) -> Iterator[Statement]:
    """Litres of a mean year, from where they come to where they go."""
    a, season, system = said.a, said.a.season, said.system
    for name, station, key in (
            ("caught", "catch", "caught_year"), ("need", "catch", "wanted_year"),
            ("need", "grow", "need_year"), ("tap", "store", "tap_year"),
            ("well", "store", "well_year"), ("lacking", "store", "lacking_year"),
            ("rain used", "prove", "used_year"), ("spilled", "prove", "spilled_year"),
            ("given", "prove", "given_year"), ("past the roots", "prove", "past_roots"),
            ("rain share", "store", "reliability"), ("spilled share", "store", "overflow_share"),
            ("days not short", "store", "day_reliability")):
        yield from said.figure(f"{name} a year", station, key)
    for name, station, rule, word in (
            ("tap", "prove", "prove.tap", "v"), ("tap", "store", "store.order", "t"),
            ("tap", "store", "store.backflow", "v"), ("well", "store", "store.order", "w"),
            ("tap and well", "store", "store.none", "v"), ("lacking", "prove", "prove.thirst", "v"),
            ("rain share", "store", "store.too-small", "share"),
            ("spilled share", "store", "store.overflow", "share")):
        yield from said.finding(f"{name} a year", station, rule, word)
    for row in said.tables("catch", "supply")[-1].rows:
        name = {"R": "rain used", "W": "well", "T": "tap", "H": "by hand",
                "L": "lacking"}[row[0][0]]
        yield shown(f"{name} a year", f"Catch, who gives: {row[0]}", row[1], "yearly", system)
    yield exactly("tap and well a year", "the season", season.a_year(season.tap + season.well))
    yield exactly("opened for a year", "the season", season.a_year(season.asked))
    yield exactly("opened for a year", "rain + what fills in + lacking", sum(
        season.a_year(x) for x in (season.rain, season.filled_in, season.lacking)))
    yield exactly("spilled a year", "came and stood there, less what was used and is left",
                  season.a_year(season.world.inflow) + season.a_year(season.start)
                  + season.a_year(season.poured) - season.a_year(season.by_hand)
                  - season.a_year(season.emptied) - season.a_year(season.leaked)
                  - season.a_year(season.rain) - season.a_year(season.end))
    for carried in fillings(a.season, a.banks):
        bank = a.banks.banks[carried.bank]
        yield from said.figure(f"carried to {bank.id}", "store", f"carried_{bank.id}")
        yield exactly(f"carried to {bank.id}", "times × litres each",
                      carried.times * carried.each_l)
    entries = book.ledger(a)
    sides = {side: sum(e.litres for e in entries if e.comes == side) for side in (True, False)}
    yield Statement("the ledger's sides", "Prove, in all that comes", sides[True], 0.1,
                    f"{sides[True]:.2f}")
    yield exactly("the ledger's sides", "Prove, in all that goes", sides[False])
    slack = 0.05 * len(entries)  # a line of less is not shown
    for name, words in (("tap", "tap"), ("well", "wells")):
        litres = sum(e.litres for e in entries if e.comes and e.name == words)
        yield Statement(f"{name} a year", f"Prove, ledger: {words}", litres, slack, f"{litres:.2f}")
    given = sum(e.litres for e in entries if e.name.endswith(("to its roots", "past its roots")))
    yield Statement("given a year", "Prove, ledger: all plots", given, slack, f"{given:.2f}")
    past = sum(e.litres for e in entries if e.name.endswith("past its roots"))
    yield Statement("past the roots a year", "Prove, ledger", past, slack, f"{past:.2f}")
    for one in measured(a):
        if one.key in ("tap", "wasted"):
            name = "tap" if one.key == "tap" else "past the roots"
            yield of_amount(f"{name} a year", f"another way, {one.label}", one.amount, system)


def by_month(said: Said) -> Iterator[Statement]:
    """Months that add up to the year."""
    table = said.table("prove", "tank", "Opened for")
    if table is None:
        return
    names = {"Comes in": "caught", "Opened for": "opened for", "From rain": "rain used",
             "Lacking": "lacking"}
    for head, name in names.items():
        at = table.heads.index(head)
        cells = [shown("", "", row[at], "volume", said.system) for row in table.rows]
        total = sum(float(c.value) for c in cells)
        yield Statement(f"{name} a year", f"Prove, months added: {head}", total,
                        sum(c.slack for c in cells), f"{total:.0f} L")
    days = [float(row[-1]) for row in table.rows]
    yield Statement("mean short days", "Prove, months added", sum(days), 0.05 * len(days),
                    f"{sum(days):.1f}")
    yield exactly("mean short days", "the season", float(said.a.season.short_days.mean()))


def short_and_thirsty(said: Said) -> Iterator[Statement]:
    """Days: short, thirsty, the first, the longest, how long full stores last."""
    a, system = said.a, said.system
    yield from said.figure("short days", "prove", "short_days")
    yield from said.finding("short days", "prove", "prove.thirst", "d")
    report_ = a.station("prove")
    for phrase, where in ((report_.verdict, "verdict"), (report_.key_figure, "on the Run")):
        if "{d}" in phrase.template and "short" in phrase.template:
            yield of_amount("short days", f"Prove, {where}", phrase.amounts["d"], system)
    yield from said.figure("short days, worst", "prove", "short_days_worst")
    yield from said.finding("short days, worst", "prove", "prove.thirst", "w")
    yield from said.figure("longest dry run", "store", "longest_dry_run")
    yield from said.finding("longest dry run", "store", "store.too-small", "days")
    yield from said.figure("thirstiest plot", "prove", "thirsty")
    yield from said.finding("thirstiest plot", "prove", "prove.thirsty", "d")
    table = said.table("prove", "thirst", "Middle year")
    if table is not None and report_.figures and any(f.key == "thirsty" for f in report_.figures):
        washed = {a.season.world.name_of(p) for p in a.demand.grey_thirsts}
        most = max((float(row[1]) for row in table.rows if row[0] not in washed), default=0.0)
        yield Statement("thirstiest plot", "Prove, thirst by plot", most, 0.5, f"{most:.0f}")
        yield from (of_amount("thirstiest plot", f"another way, {m.label}", m.amount, system)
                    for m in measured(a) if m.key == "thirst")
    at = a.season.longest_dry_run
    worst = int(a.season.short_days.max())
    yield exactly("a dry run within its water years", "Store", str(at <= 365 * a.years))
    yield exactly("short days and dry run", "Prove and Store", str((at > 0) == (worst > 0)))
    yield exactly("short days and dry run", "both or none", "True")


def stores(said: Said) -> Iterator[Statement]:
    """What can come out, wherever it is told."""
    a, system = said.a, said.system
    if not a.garden.stores:
        return
    yield from said.figure("usable water", "store", "usable")
    verdict = a.station("store").verdict
    if "usable" in verdict.amounts:
        yield of_amount("usable water", "Store, verdict", verdict.amounts["usable"], system)
    yield from (of_amount("usable water", f"another way, {m.label}", m.amount, system)
                for m in measured(a) if m.key == "usable")
    yield exactly("usable water", "the season's stores", sum(
        a.season.world.size[list(a.reached) or slice(None)].tolist()))
    curve = a.sizes.with_barrels(a.garden.store.count)
    yield exactly("usable water", "sizing curve, own barrels", curve.usable_l)
    if a.sizes.as_set:
        yield exactly("rain share a year", "sizing curve, own barrels", curve.given)
        yield exactly("days not short a year", "sizing curve, own barrels", curve.days_met)
        yield exactly("longest dry run", "sizing curve, own barrels", curve.dry_run)
        yield exactly("lacking a year", "sizing curve, own barrels", curve.lacking_l)
    full = charts.tank_year(said.sheet)["full"]
    yield Statement("usable water", "Prove, the chart's brim", to_inside(full, "volume", system),
                    0.05, f"{full}")
    yield from said.figure("full stores last", "prove", "lasts")
    yield exactly("full stores last", "the season from full", a.lasts.dry)


def need(said: Said) -> Iterator[Statement]:
    """What plots need, in the peak month and through the year."""
    a, system = said.a, said.system
    yield from said.figure("need in the peak month", "grow", "need_peak")
    yield from said.figure("need in the hottest week", "grow", "need_week")
    month = a.demand.peak_month
    table = said.table("grow", "thirst", "All")
    if table is not None:
        yield shown("need in the peak month", "Grow, by month", table.rows[month][-1], "daily",
                    system)
        cells = [shown("", "", row[-1], "daily", system) for row in table.rows]
        total = sum(float(c.value) * n for c, n in zip(cells, MONTH_LENGTHS, strict=True))
        yield Statement("need a year", "Grow, months added", total, sum(
            c.slack * n for c, n in zip(cells, MONTH_LENGTHS, strict=True)), f"{total:.0f} L")
    head = TABLES["plots"].columns.index("need_peak_month_l_day")
    rows = list(TABLES["plots"].rows(a))
    yield exactly("need in the peak month", "CSV, plots added", sum(float(r[head]) for r in rows))
    for row in rows:
        yield exactly(f"need of {row[0]}", "CSV, plots", float(row[head]))
        yield from said.figure(f"need of {row[0]}", "grow", f"need_{row[0]}")
    for row in TABLES["thirst"].rows(a):
        yield exactly(f"need of {row[0]}", "CSV, thirst by month", float(row[2 + month]))


def away(said: Said) -> Iterator[Statement]:
    """Days away: chart and table by one threshold."""
    if not said.a.garden.plots:
        return
    told = absence.away(said.a.season_inputs, said.a.season, 212, 14)
    once = 1 - told.holds
    if len(told.plots) == 1:
        yield Statement("a plot is thirsty while away", "Prove, table", once, 1e-9, f"{once:.2f}")
        ever = float((absence.season_away(said.a.season_inputs, said.a.season, 212, 14).thirsty[
            :, :, absence.days_of(212, 14)].any(axis=(0, 2))).mean())
        yield exactly("a plot is thirsty while away", "the season away", ever)
    # No day can be thirsty in more years than some plot fails in.
    yield exactly("the chart of days away", "Prove", str(
        max(told.chance, default=0.0) <= sum(1 - p.holds for p in told.plots) + 1e-9))
    yield exactly("the chart of days away", "within what the table says", "True")


def in_the_report(said: Said) -> Iterator[Statement]:
    """Every figure in the report's data beside the station's own."""
    for key in STATIONS:
        told = said.a.station(key)
        for figure in told.figures:
            data = report.figure_data(figure, said.system)
            kind = figure.amount.kind
            if kind in ("date", "head") or data["value"] is None:
                continue
            name = f"{key}: {figure.key}"
            yield of_amount(name, f"{told.name}, {figure.name}", figure.amount, said.system)
            yield exactly(name, "report as data", to_inside(data["value"], kind, said.system))


def in_first_pour(said: Said) -> Iterator[Statement]:
    """What First pour's barrels say."""
    a = said.a
    if not a.garden.stores:
        return
    words = first_pour.backup_words(a)
    if any(tap.tops_up for tap in a.garden.taps):
        yield shown("tap a year", "First pour", words.partition("gives ")[2], "yearly", said.system)
    else:
        yield shown("short days", "First pour", words.partition(", ")[2], "days", said.system)


HARVESTS = (a_year, by_month, short_and_thirsty, stores, need, away, in_the_report, in_first_pour)
