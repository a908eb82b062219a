"""The three tools that help to decide, measured: what helps, what is wrong, what readings teach."""

from __future__ import annotations

import time

import numpy as np

from euhydra.core.advise.diagnosing.case import cases_of, suspects_at
from euhydra.core.advise.diagnosing.practice import MadeUp, found_out
from euhydra.core.advise.diagnosing.weighing import Weighed
from euhydra.core.advise.helping.wishes import Wish
from euhydra.core.assessment.assess import assess
from euhydra.core.editing.file import from_json
from euhydra.core.log.learning.lessons import LEAST_LEAK_L, lessons
from euhydra.core.log.learning.water import fit_water
from euhydra.core.supply.runoff import table_runoff
from euhydra.data import garden_text
from gardens import made
from made_logs import LAST, any_truth, log_of

DEMOS = ("kiln-yard", "plot-27", "balcony", "wringer-lane", "quarry-steps", "lantern-patio")


def helps(tables) -> tuple[float, int]:
    """Milliseconds that a search takes, and how many gardens it weighs."""
    a = assess(from_json(garden_text("kiln-yard"), tables), tables)
    assert a.season.years
    assert a.moves
    wish = Wish("sure-8", frozenset({"carrying"}))
    began = time.perf_counter()
    for _ in a.look_for(wish):
        pass
    return (time.perf_counter() - began) * 1000, a.helps(wish).gardens


def wrong(tables) -> tuple[float, float, float, float]:
    """Of 400 faults made up in the demo gardens: how many are found first, how many among three,
    readings for each, milliseconds to put all that may be wrong into a garden.
    """
    gardens = [assess(from_json(garden_text(name), tables), tables) for name in DEMOS]
    began = time.perf_counter()
    every = [suspects_at(a, of, 0.6, 6) for a in gardens for of in cases_of(a)]
    for suspects in every:
        Weighed(suspects, "", {})
    each = (time.perf_counter() - began) * 1000 / len(every)
    ways = [(case.fault, found_out(case)) for case in (
        MadeUp(every[seed % len(every)], seed) for seed in range(400))]
    ranks = [[x.fault for x in way[-1].likely].index(fault) for fault, way in ways]
    return (sum(r == 0 for r in ranks) / 400, sum(r < 3 for r in ranks) / 400,
            sum(len(way) - 1 for _, way in ways) / 400, each)


def learns(tables, gardens=40) -> tuple[dict[str, float], float]:
    """How often the 90 % range of what a made-up season of readings teaches holds the true value,
    by quantity; milliseconds that Kiln Yard's own log takes.
    """
    held: dict[str, list[bool]] = {}
    for seed in range(gardens):
        dice = np.random.default_rng(seed)
        a = assess(made(tables, ("site/years", 5), barrels=int(dice.choice([1, 2, 4])), pots=0,
                        roof_width_m=float(dice.uniform(3, 8))), tables)
        truth = any_truth(dice)
        fit = fit_water(a, log_of(a, truth, dice), LAST)
        most = 1 / table_runoff(a.garden.roofs[0], tables)
        for kind, true in (("runoff", min(truth.runoff, most)), ("thirst", truth.thirst),
                           ("leak", truth.leak_l)):
            told = fit.range_of(kind, 0) if fit else None
            if told:
                low = 0.0 if told[1] < LEAST_LEAK_L and kind == "leak" else told[1]
                held.setdefault(kind, []).append(low <= true <= told[2] + 1e-9)
    kiln = assess(from_json(garden_text("kiln-yard"), tables), tables)
    log = log_of(kiln, any_truth(np.random.default_rng(1)), np.random.default_rng(1))
    began = time.perf_counter()
    lessons(kiln, log, LAST)
    return ({kind: sum(x) / len(x) for kind, x in held.items()},
            (time.perf_counter() - began) * 1000)
