"""The pane of what would help most: a wish, and the changes that serve it best."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from urllib.parse import urlencode

from euhydra.core.advise.helping import told
from euhydra.core.advise.helping.moves import Move
from euhydra.core.advise.helping.search import Found, Helps, Step
from euhydra.core.advise.helping.weighing import COUNTED_YEARS, Weighed
from euhydra.core.advise.helping.wishes import Wish
from euhydra.core.assessment.assess import Assessment
from euhydra.core.season.thirsty import MANY_DAYS
from euhydra.core.statements.figures import Phrase
from euhydra.web.drawings.front import Point, front
from euhydra.web.offers import HELP, named
from euhydra.web.panes.base import Form, Pane, Table
from euhydra.web.sheet import Sheet
from euhydra.web.wishing import NEEDS, Asked, asked_of, goals_of

SEEN = {"thirst": ("thirsty a year, all plots together", "days"),
        "tap_l": ("from the tap a year", "yearly"), "hand_h": ("of carrying a year", "hours"),
        "lasts": ("that full stores last", "days")}


@dataclass(frozen=True)
class Change:
    """A change, or several that go together: what it buys, makes worse and takes; how to try it."""

    label: str
    buys: Sequence[str]
    worse: Sequence[str]
    takes: str
    price: str
    instead: str
    caution: Sequence[str]
    try_on: str = ""


@dataclass(frozen=True)
class Asking(Form):
    """The wish: aims, refusals, limits, what is left alone; ``work`` where it is searched for."""

    template = "_helps.html"
    asked: Asked
    goal: str
    goals: Sequence[tuple[str, str]]
    needs: Sequence[tuple[str, str]]
    things: Sequence[tuple[str, str]]
    work: str
    now: str


@dataclass(frozen=True)
class Answer(Form):
    """A set of changes with what each buys, and the best changes by themselves."""

    template = "_helped.html"
    head: str
    sums: Sequence[tuple[str, str, str]]
    steps: Sequence[Change]
    name: str
    plan: str
    singles: Sequence[Change]
    how: str


def helps(sheet: Sheet) -> list[Pane]:
    """What is wanted; and, once it was searched for, what would help most to it."""
    a = sheet.before or sheet.assessment
    asked = asked_of(sheet.wish, a.garden)
    found = a.helps(asked.wish) if asked.wish else None
    query = urlencode([("view", "helps"), *sheet.wish])
    base = f"/g/{a.garden.id}/prove"
    goals = goals_of(a, asked.wish.weeks if asked.wish else 3)
    panes = [Pane(form=Asking(
        asked, asked.typed.get("goal", "") or next(iter(goals)), tuple(goals.items()),
        tuple(NEEDS.items()),
        tuple((x.id, x.name) for x in (*a.garden.stores, *a.garden.plots)),
        f"{base}/work?{query}" if asked.wish and found is None else "", f"{base}?{query}&now=1"))]
    if found is None or asked.wish is None:
        return panes
    return [*panes, *_answer(sheet, a, asked, asked.wish, found)]


def _answer(sheet: Sheet, a: Assessment, asked: Asked, wish: Wish, found: Helps) -> list[Pane]:
    sets = [*found.front, *found.singles]
    picked = next((s for s in sets if s.moves and asked.picked == tuple(m.key for m in s.moves)),
                  None)
    moves = picked.moves if picked else found.moves
    end = picked.weighed if picked else found.end
    here = urlencode([("view", "helps"), *((k, v) for k, v in sheet.wish if k != "set")])
    base = f"/g/{a.garden.id}/prove?{here}"
    steps = ([_part(sheet, move) for move in picked.moves] if picked else
             [_step(sheet, wish, step, found.end) for step in found.steps])
    panes = [Pane(form=Answer(
        _head(found, picked), _sums(sheet, found.start, end), steps, named(moves) if moves else "",
        f"/g/{a.garden.id}/lay?{urlencode({'try': named(moves)})}" if moves else "",
        [_single(sheet, base, s, found.start) for s in found.singles],
        _how(a, found)))]
    if len(found.front) > 1:
        panes += _front(sheet, base, wish, found, moves)
    return panes


def _how(a: Assessment, found: Helps) -> str:
    """How it was weighed, and what counts."""
    sifted = ("" if found.sift_years == a.years else
              f"; of most sets {found.sift_years} years sift, all {a.years} confirm what is told")
    tap = f" Money counts {COUNTED_YEARS} years of tap water." if _taps(found) else ""
    return (f"{found.gardens} gardens were weighed, {found.alone} of the {found.could} changes "
            f"that you allow by themselves{sifted}. A good year is one in which no plot is thirsty "
            f"on more than {MANY_DAYS} days. Prices are a made-up book, or your own; hours of work "
            f"from memory.{tap}")


def _taps(found: Helps) -> bool:
    """Whether a tap gives water in any of the gardens that are told of."""
    return any(w.tap_l > 0 for w in (found.start, found.end, *(x.weighed for x in (
        *found.front, *found.singles))))


def _head(found: Helps, picked: Found | None) -> str:
    """What was found, in one sentence."""
    aim = found.wish.aim.words
    if picked:
        return f"{len(picked.moves)} change{'s' if len(picked.moves) != 1 else ''} of the front"
    if not found.steps:
        return (f"{aim}: so it is already." if found.reached else
                f"{aim}: nothing that was weighed comes nearer.")
    many = len(found.moves)
    some = f"{many} changes" if many > 1 else "one change"
    if found.wish.aim.least:
        return f"{aim}: {some}"
    return (f"{aim}: {some} reach{'es' if many == 1 else ''} it" if found.reached else
            f"{aim}: no set that was weighed reaches it; {some} come{'s' if many == 1 else ''} "
            "nearest")


def _sums(sheet: Sheet, start: Weighed, end: Weighed) -> list[tuple[str, str, str]]:
    """The garden as it is, and with the set."""
    rows = [("Thirsty days a year, all plots", "days", start.thirst, end.thirst),
            ("Good years", "share", start.sure, end.sure)]
    if start.tap_l or end.tap_l:
        rows.append(("Tap water a year", "yearly", start.tap_l, end.tap_l))
    if max(start.hand_h, end.hand_h) >= 0.1:
        rows.append(("Carrying a year", "hours", start.hand_h, end.hand_h))
    if start.lasts != end.lasts:
        rows.append(("Full stores last", "days", start.lasts, end.lasts))
    return [(name, sheet.show(was, kind), sheet.show(then, kind)) for name, kind, was, then in rows]


def _shown(sheet: Sheet, phrases: Iterable[Phrase]) -> list[str]:
    return [phrase.show(sheet.system) for phrase in phrases]


def _change(sheet: Sheet, moves: Sequence[Move], before: Weighed, after: Weighed,
            instead: str = "") -> Change:
    return Change(
        "; ".join(_shown(sheet, (m.label for m in moves))), _shown(sheet, told.buys(before, after)),
        _shown(sheet, told.worsens(before, after)),
        ", ".join(_shown(sheet, told.costs(before, after))),
        sheet.show(max(after.bought - before.bought, 0.0), "money", 0), instead,
        list(dict.fromkeys(m.caution for m in moves if m.caution)))


def _part(sheet: Sheet, move: Move) -> Change:
    """A change of a set that is told in all."""
    work = f"{sheet.show(move.hours, 'hours')} of work"
    return Change(move.label.show(sheet.system), (), (), work, "", "",
                  [move.caution] if move.caution else [])


def _step(sheet: Sheet, wish: Wish, step: Step, end: Weighed) -> Change:
    """A step, and by how little it beats the next best in its place."""
    instead = ""
    if step.beaten:
        move, w = step.beaten
        seen, kind = SEEN[wish.aim.seen]
        both = [sheet.show(abs(wish.aim.show_by(x)), kind) for x in (w, end)]
        money = [sheet.show(x.bought, "money", 0) for x in (w, end)]
        instead = (f"Next best in its place: {move.label.show(sheet.system)}; the whole then has "
                   f"{both[0]}, not {both[1]}, {seen}, and costs {money[0]}, not {money[1]}.")
    return _change(sheet, step.moves, step.before, step.after, instead)


def _single(sheet: Sheet, base: str, found: Found, start: Weighed) -> Change:
    return replace(_change(sheet, found.moves, start, found.weighed),
                   try_on=f"{base}&{urlencode({'try': named(found.moves)})}")


def _front(sheet: Sheet, base: str, wish: Wish, found: Helps, moves: Sequence[Move]
           ) -> list[Pane]:
    """The gardens of which none is both cheaper and better, as a drawing and as a table."""
    seen, kind = SEEN[wish.aim.seen]
    mine = {m.key for m in moves}

    def amount(w: Weighed) -> float:
        return abs(wish.aim.show_by(w))

    def money(w: Weighed) -> str:
        return sheet.show(wish.cost(w, found.start), "money", 0)

    points = [Point(wish.cost(s.weighed, found.start), amount(s.weighed),
                    f"{len(s.moves)} change{'s' if len(s.moves) > 1 else ''}, {money(s.weighed)}: "
                    f"{sheet.show(amount(s.weighed), kind)}",
                    f"{base}&{urlencode({'set': named(s.moves).removeprefix(HELP)})}",
                    {m.key for m in s.moves} == mine) for s in found.front if s.moves]
    if not points:
        return []
    stands = Point(0.0, amount(found.start), "as it is", "")
    costs, seens = [p.cost for p in (stands, *points)], [p.seen for p in (stands, *points)]
    title = f"What can be had for how much: {seen}"
    rows = tuple((money(s.weighed), sheet.show(amount(s.weighed), kind), "; ".join(
        _shown(sheet, (m.label for m in s.moves))) or "as it is") for s in found.front)
    bought = "bought" + ", and what the tap costs more in ten years" * _taps(found)
    return [Pane(drawing=front(
        points, stands, title,
        (bought, sheet.show(min(costs), "money", 0), sheet.show(max(costs), "money", 0)),
        (seen, sheet.show(0, kind), sheet.show(max(seens), kind)))),
        Pane(table=Table(title, ("Money", seen.capitalize(), "Changes"), rows, frozenset({0, 1})),
             twin=True)]
