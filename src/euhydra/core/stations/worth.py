"""Up to which size another barrel pays, and whether a rule of thumb is too bold or too timid."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from euhydra.core import storage
from euhydra.core.statements.figures import Amount, Phrase, say

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

WORTH_ANOTHER = 0.02  # a barrel that gains less than this share is not offered
BOLD = 1.3  # a rule that asks for more than this times what still pays is too bold


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
