"""Panes of Prove: the stores, thirst by plot, the ledger, days away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from euhydra.core import units
from euhydra.core.advise import while_away
from euhydra.core.advise.comparison import compared
from euhydra.core.assessment.assess import Assessment
from euhydra.core.editing.fields import measure_at
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.base import month_day
from euhydra.core.garden.model import Bed
from euhydra.core.season import absence
from euhydra.core.season.thirsty import thirst_of
from euhydra.core.statements.figures import Amount
from euhydra.core.statements.findings import Remedy
from euhydra.core.stations import season as as_set
from euhydra.core.stations.place import MONTHS
from euhydra.core.stations.prove import months_of_water
from euhydra.web import charts
from euhydra.web.drawings import prove as draw
from euhydra.web.fields import Field, shown
from euhydra.web.panes.base import Fold, Folds, Form, Links, Pane, Table, bar, kinds_of_timers
from euhydra.web.sheet import Sheet

LENGTHS = (3, 7, 14, 21, 28)
FIRST_AWAY = 212  # the first of August, when most people go


def tank(sheet: Sheet) -> list[Pane]:
    """The stores through the year."""
    a = sheet.assessment
    usable = sheet.show(a.usable_l, "volume")
    filled = bool(sheet.garden.taps or sheet.garden.wells)
    rows = tuple((MONTHS[m], *(sheet.show(litres, "volume") for litres in (
        month.level_l, month.inflow_l, month.asked_l, month.rain_l,
        *((month.filled_in_l,) if filled else ()), month.lacking_l)), f"{month.short_days:.1f}")
        for m, month in enumerate(months_of_water(a)))
    fields = [sheet.fields.at(f"stores/{s.id}/{key}", s.name, f"{s.name}: {word}")
              for s in sheet.garden.stores[:2] for key, word in (("count", "how many"),
                                                                 ("volume_l", "volume"))]
    fields += [sheet.fields.at(f"roofs/{roof.id}/{key}", roof.name)
               for roof in sheet.garden.roofs[:1] for key in ("width_m", "depth_m")]
    return [Pane(bar=tuple(fields)), Pane(chart=charts.tank_year(sheet)), Pane(table=Table(
        f"Month by month, mean of {a.years} years, {usable} usable, the timer as it is set",
        ("Month", "Level", "Comes in", "Opened for", "From rain",
         *(("Filled in",) if filled else ()), "Lacking", "Days short"), rows,
        frozenset(range(1, 8))))]


def thirst(sheet: Sheet) -> list[Pane]:
    """A strip for each plot."""
    a, rows = sheet.assessment, []
    s = a.season
    middle = dict(thirst_of(a.season, a.demand, by_washing=True))
    for i, plot in enumerate(s.world.plots):
        rows.append((s.world.name_of(plot), f"{middle[plot]:.0f}",
                     f"{s.thirsty_days[i].max():.0f}",
                     sheet.show(float(s.given[i].sum()) / s.years, "yearly"),
                     sheet.show(float(s.wasted[i].sum()) / s.years, "yearly")))
    return [bar(sheet, *kinds_of_timers(sheet.garden), ("longer", "Time"),
                ("rain_hold_mm", "Time")),
            Pane(drawing=draw.strips(sheet)),
            Pane(table=Table(f"Thirsty days in {s.years} years, the timer as it is set",
                             ("Plot", "Middle year", "Worst year", "Given a year",
                              "Past its roots"), tuple(rows), frozenset(range(1, 5))))]


def ledger(sheet: Sheet) -> list[Pane]:
    """Where the litres came from and where they went."""
    entries = as_set.ledger(sheet.assessment)

    def table(caption: str, *, comes: bool) -> Pane:
        mine = [e for e in entries if e.comes == comes]
        total = sum(e.litres for e in mine)
        rows = [(e.name[0].upper() + e.name[1:], sheet.show(e.litres, "yearly"),
                 f"{100 * e.litres / max(total, 1e-9):.0f} %") for e in mine]
        return Pane(table=Table(caption, ("What", "A year", "Share"), (
            *rows, ("In all", sheet.show(total, "yearly"), "100 %")), frozenset({1, 2})))

    return [table("Where it comes from, mean year", comes=True),
            table("Where it goes", comes=False)]


@dataclass(frozen=True)
class Copy(Form):
    """A copy of the garden, to be changed."""

    template = "_copy.html"


def variants(sheet: Sheet) -> list[Pane]:
    """The garden beside another: a copy of it with something changed, or any other."""
    base = f"/g/{sheet.garden.id}/prove?view=variants"
    picked = sheet.other.garden.id if sheet.other else ""
    panes = [Pane(form=Copy())]
    if sheet.gardens:
        panes.append(Pane(links=Links("Beside", tuple(
            (f"{base}&other={key}", name, key == picked) for key, name in sheet.gardens))))
    if sheet.other is None:
        return [*panes, Pane(words="Copy the garden, change the copy, and see both here. Or pick "
                             "another garden.")]
    garden = sheet.garden
    return [*panes, Pane(bar=tuple(_sliders(sheet))),
            Pane(add=(("pump", "Put in a pump"),) if len(garden.lifts) < len(garden.stores) else (),
                 remove=tuple((f"lifts/{x.id}", f"Take {x.name} out") for x in garden.lifts[:1])),
            Pane(chart=charts.two_tanks(sheet, sheet.other)),
            Pane(table=Table("Side by side, each timer as it is set (● better)", (
                "What", sheet.garden.name, sheet.other.garden.name, "This one has"),
                _compared(sheet, sheet.other), frozenset({1, 2, 3})))]


def _sliders(sheet: Sheet) -> list[Field]:
    """What is most often asked: barrels, shares of roofs, longer runs, holds, mulch, the timer."""
    garden, fields = sheet.garden, sheet.fields
    found = [fields.slider(f"stores/{s.id}/count", s.name, 1, 10, 1) for s in garden.stores[:3]]
    found += [fields.slider(f"roofs/{roof.id}/downspouts/{spout.id}/share",
                            f"{roof.name} caught", 0, 1, 0.05)
              for roof in garden.roofs[:2] for spout in roof.downspouts[:1] if spout.to]
    often = fields.slider("every_days", "days between runs", 0, 7, 1)
    if not garden.every_days:
        often = replace(often, label="days between runs: we choose")
    found += [often,
              fields.slider("longer", "runs longer by", -0.5, 1, 0.05),
              fields.slider("rain_hold_mm", "held after rain of", 0, 30, 1)]
    beds = [p for p in garden.plots if isinstance(p, Bed)][:2]
    return found + [fields.at(path, "", label) for path, label in (
        *kinds_of_timers(garden), *((f"plots/{b.id}/mulch", f"{b.name}: mulch") for b in beds),
        *((f"lifts/{x.id}/kind", x.name) for x in garden.lifts[:1]))]


def _compared(sheet: Sheet, other: Assessment) -> tuple[tuple[str, ...], ...]:
    rows = []
    for both in compared(sheet.assessment, other):
        amount = both.mine.amount
        told = Amount(abs(both.gap), amount.kind).show(sheet.system)
        rows.append((both.mine.label, amount.show(sheet.system),
                     both.theirs.amount.show(sheet.system), "the same" if both.gap == 0 else
                     f"{told} {'more' if both.gap > 0 else 'less'}{' ●' * both.better}"))
    return tuple(rows)


@dataclass(frozen=True)
class Help:
    """What helps while away; ``path`` and ``typed`` where it is one value."""

    label: str
    effect: str
    path: str = ""
    typed: str = ""


@dataclass(frozen=True)
class Away(Form):
    """Days away: what helps, and the neighbour's note."""

    template = "_away.html"
    helps: Sequence[Help]
    failing: bool
    note: Sequence[str]
    when: str
    days: int


def away(sheet: Sheet) -> list[Pane]:
    """Days away: who holds, what fails first, what helps, the neighbour's note."""
    a = sheet.assessment
    first = sheet.today if sheet.asked_day else FIRST_AWAY
    told = absence.away(a.season_inputs, a.season, first, sheet.away)
    base = f"/g/{sheet.garden.id}/prove?view=away&day={month_day(first)}"
    links = Links("Away for", tuple((f"{base}&away={n}", f"{n} days", n == sheet.away)
                                    for n in LENGTHS), listed=True)
    name = a.season.world.name_of
    rows = tuple((name(p.plot), f"{100 * p.holds:.0f} %",
                  f"day {p.fails_on}" if p.fails_on else "–", f"{p.thirsty_days:.1f}",
                  sheet.show(p.litres_day, "daily")) for p in told.plots)
    return [Pane(links=links), Pane(drawing=draw.away_strip(sheet, told)),
            Pane(words=first_to_fail(sheet, told)),
            Pane(form=Folds((Fold(f"Chance to hold, {a.years} years", lines=(
                "Every plot is watered the evening before; it holds as long as it gets four "
                "fifths of what it would drink.",), table=Table("Chance to hold", (
                    "Plot", "Holds in", "Fails about", "Thirsty days", "Drinks"), rows,
                    frozenset({1, 2, 3, 4}))),))),
            Pane(form=Away(
                [_help(sheet, remedy) for remedy in while_away.helps(a, told)],
                failing=told.first_to_fail is not None,
                note=[p.show(sheet.system) for p in absence.neighbour_note(a.season, told)],
                when=units.show_date(first), days=told.days))]


def first_to_fail(sheet: Sheet, told: absence.Away) -> str:
    """Which plot fails first, when, and how often."""
    worst = told.first_to_fail
    if worst is None:
        return "Every plot holds in every year." if told.plots else "Nothing grows then."
    return (f"First to fail: {sheet.assessment.season.world.name_of(worst.plot)}, on day "
            f"{worst.fails_on}, in {100 * (1 - worst.holds):.0f}\u00a0% of the years.")


def _help(sheet: Sheet, remedy: Remedy) -> Help:
    edit = remedy.edit
    words = remedy.label.show(sheet.system), remedy.effect.show(sheet.system)
    if not isinstance(edit, SetValue):
        return Help(*words)
    after = measure_at(edit.apply(sheet.garden, sheet.assessment.tables), edit.path)
    return Help(*words, edit.path, shown(after, sheet.system))
