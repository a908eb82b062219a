"""Store, the water that is too much: where each overflow goes, rain gardens, wet ground."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from euhydra.core.editing.edits import Add
from euhydra.core.editing.values import SetValue
from euhydra.core.garden.model import Store, WetArea
from euhydra.core.hydraulics import drainage
from euhydra.core.statements.figures import Amount, Figure, Phrase, Term, Working, quoted, say
from euhydra.core.statements.findings import Finding, Remedy
from euhydra.core.storage import storm
from euhydra.core.storage.storm import Spill

if TYPE_CHECKING:
    from euhydra.core.results.results import Results

STORM_MM_H = 75.0
LEAST_L_H, MANY = 1.0, 99  # an overflow that lets through less, more openings than anyone drills
BORES_MM = (40.0, 50.0, 63.0, 75.0, 100.0, 150.0, 200.0)
FORBIDDEN = {"sewer": "The sewer is not for rain without leave: it backs up into houses.",
             "neighbour": "Water led onto a neighbour's ground is yours to answer for.",
             "unknown": "Decide first where the water may lawfully go; nothing else matters "
                        "before that."}


def spills_out(r: Results) -> list[Spill]:
    """The overflows that leave the stores."""
    return [spill for spill in r.spills if spill.out]


def figures(r: Results) -> tuple[Figure, ...]:
    """The rain garden's size and the wet ground's plan."""
    found = [_rain_garden_figure(r, spill.store, spill.area_m2) for spill in spills_out(r)
              if spill.store.overflow_to == "rain-garden" and spill.area_m2 > 0]
    for wet in r.garden.wet_areas:
        plan = drainage.wet_plan(wet, r.library)
        found.append(Figure(
            f"wet_{wet.id}", f"{wet.name}: water standing", Amount(plan.stands_l, "volume"),
            Working("area × flood depth", (
                Term("area", Amount(wet.length_m * wet.width_m, "area")),
                Term("deep", Amount(wet.flood_m, "small")),
                Term("soaks in by itself in", Amount(plan.soaks_h, "hours"))), "your entry",
                "your entry")))
    return tuple(found)


def _rain_garden_figure(r: Results, store: Store, area: float) -> Figure:
    hollow = next(iter(r.garden.rain_gardens), None)
    depth = hollow.depth_m if hollow else 0.15
    soil = r.library.soils[hollow.soil if hollow else r.garden.site.soil]
    litres = drainage.shower_l(area)
    return Figure(
        f"rain_garden_{store.id}", f"Rain garden for {store.name}",
        Amount(drainage.rain_garden_m2(litres, depth, soil.soaks_mm_h), "area"), Working(
            "litres of a shower ÷ (depth of the hollow + what soaks in meanwhile)",
            (Term("roof that spills here, times runoff", Amount(area, "area")),
             Term("shower, in an hour", Amount(drainage.SHOWER_MM, "rain"), "from memory"),
             Term("litres", Amount(litres, "volume")), Term("hollow", Amount(depth, "small")),
             Term(f"{soil.name} soaks in an hour", Amount(soil.soaks_mm_h, "rain"))),
            "water balance of one storm with all stores full", "common practice"))


def findings(r: Results) -> list[Finding]:
    """Every rule on overflows and wet ground."""
    found: list[Finding] = []
    for spill in spills_out(r):
        if spill.area_m2 > 0:
            found += [*_goal(spill), *_thin(spill), *_rain_garden(r, spill)]
    for wet in r.garden.wet_areas:
        found += [*_outfall(wet), _wet_plan(r, wet)]
    return [*found, _overflow(r)] if r.season.world.inflow.any() else found


def _overflow(r: Results) -> Finding:
    fast = max((drainage.outflow_m_s(spill.store) for spill in spills_out(r)), default=0.0)
    scours = (", which washes bare soil away: end it on stones." if fast > drainage.SCOUR_M_S
              else ".")
    return Finding(
        "store.overflow", "note",
        say("{share} of the rain spills: lead it somewhere harmless",
            share=Amount(r.season.over_share, "share")),
        say("An overflow as wide as the inlet, away from walls, not to a neighbour, and not to a "
            "sewer without leave. It runs out at up to {v}" + scours,
            v=Amount(fast, "speed")), caution=True)


def _goal(spill: Spill) -> list[Finding]:
    store = spill.store
    if store.overflow_to not in ("nowhere", "neighbour", "drain"):
        return []
    shower = Amount(drainage.shower_l(spill.area_m2), "volume")
    border = Remedy(f"to-border-{store.id}", Phrase("Lead it to a border"), Phrase("harmless"),
                    SetValue(f"stores/{store.id}/overflow_to", "border"))
    if store.overflow_to == "drain":
        return [Finding("store.overflow-drain", "note",
                        Phrase(f"{quoted(store.name)}: ask before it goes to a drain"),
                        say("A shower sends {v} down it. A storm drain may take it with leave; the "
                            "sewer may not. Your local code decides.", v=shower), caution=True)]
    words = ("leads nowhere yet" if store.overflow_to == "nowhere" else "runs to a neighbour")
    return [Finding(
        "store.overflow-goal", "stop", Phrase(f"{quoted(store.name)}: the overflow {words}"),
        say("One heavy shower, full barrels, and {v} runs where it likes: to your wall, or onto "
            "ground you answer for.", v=shower), (border,), caution=True)]


def _thin(spill: Spill) -> list[Finding]:
    store, coming = spill.store, spill.area_m2 * STORM_MM_H
    takes = storm.most_over_l_h(store)
    if coming <= takes:
        return []
    wide = next((d for d in BORES_MM if storm.most_over_l_h(store, d) >= coming), None)
    head = store.overflow_down_m or storm.OVERFLOW_HEAD_M
    most = storm.most_over_l_h(store, BORES_MM[-1])
    openings = math.ceil(coming / most) if most > LEAST_L_H else MANY + 1
    way_out = ("" if wide else " No opening so close under the rim takes it: set it lower." if (
        openings > MANY) else " No single opening under this rim takes it: {n} of {d} do, or set "
        "it lower.")
    return [Finding(
        "store.overflow-thin", "care",
        say(f"{quoted(store.name)}: the overflow takes " + "{takes} of {coming}",
            takes=Amount(takes, "flow", 0), coming=Amount(coming, "flow", 0)),
        say("That is what {rate} of rain an hour brings once it is full, with the {head} from its "
            "lowest edge to the rim. The rest runs over the rim and down the stand." + way_out,
            rate=Amount(STORM_MM_H, "rain"), head=Amount(head, "small"),
            n=Amount(openings, "count"), d=Amount(BORES_MM[-1], "hole")),
        (Remedy(f"wide-overflow-{store.id}", say("Overflow of {d}", d=Amount(wide, "bore")),
                say("{q}", q=Amount(storm.most_over_l_h(store, wide), "flow", 0)),
                SetValue(f"stores/{store.id}/overflow_mm", wide)),) if wide else ())]


def _rain_garden(r: Results, spill: Spill) -> list[Finding]:
    if spill.store.overflow_to != "rain-garden":
        return []
    shower = drainage.shower_l(spill.area_m2)
    if not r.garden.rain_gardens:
        return [Finding(
            "store.rain-garden", "care", Phrase("There is no rain garden to take the overflow"),
            say("A shower sends {v} there.", v=Amount(shower, "volume")),
            (Remedy("add-rain-garden", Phrase("Add a rain garden"), Phrase("drawn"),
                    Add("rain-garden")),))]
    hollow = r.garden.rain_gardens[0]
    need = drainage.rain_garden_m2(shower, hollow.depth_m, r.library.soils[hollow.soil].soaks_mm_h)
    there = sum(g.length_m * g.width_m for g in r.garden.rain_gardens)
    found = []
    if there < need - 1e-9:
        longer = round(hollow.length_m + (need - there) / hollow.width_m + 0.05, 1)
        remedies = (Remedy("longer-rain-garden", say("{l} long", l=Amount(longer, "length")),
                           Phrase("takes the shower"),
                           SetValue(f"rain_gardens/{hollow.id}/length_m", longer)),) if (
            longer <= 40) else ()
        found.append(Finding(
            "store.rain-garden", "care",
            say(f"{quoted(hollow.name)}: " + "{there} where {need} is needed",
                there=Amount(there, "area"), need=Amount(need, "area")),
            say("A shower of {mm} in an hour overtops it. Longer, or deeper.",
                mm=Amount(drainage.SHOWER_MM, "rain")), remedies))
    if (hours := drainage.soaks_away_h(hollow, r.library)) > drainage.DRY_WITHIN_H:
        found.append(Finding(
            "store.rain-garden-slow", "care",
            say(f"{quoted(hollow.name)} stands wet for " + "{h}", h=Amount(hours, "hours", 0)),
            say("Mosquitoes hatch in water that stands past {most}. A shallower, wider hollow "
                "dries sooner.", most=Amount(drainage.DRY_WITHIN_H, "hours", 0)), caution=True))
    return found


def _outfall(wet: WetArea) -> list[Finding]:
    if wet.outfall not in FORBIDDEN:
        return []
    return [Finding(
        "store.outfall", "stop",
        Phrase(f"{quoted(wet.name)}: " + ("no outfall yet" if wet.outfall == "unknown" else
                                          f"not to the {wet.outfall}")),
        say(FORBIDDEN[wet.outfall] + " It would be {v} at a time. Your local code decides.",
            v=Amount(wet.length_m * wet.width_m * wet.flood_m * 1000, "volume")), caution=True)]


def _wet_plan(r: Results, wet: WetArea) -> Finding:
    plan = drainage.wet_plan(wet, r.library)
    name = quoted(wet.name)
    soaks = Amount(plan.soaks_h, "hours", 0)
    if plan.way == "soaks":
        return Finding("store.wet-ground", "note", Phrase(f"{name} soaks away by itself"),
                       say("The soil takes it in {h}; a drain would gain little.", h=soaks))
    if plan.way == "drain":
        return Finding(
            "store.wet-ground", "care", say(
                f"{name}: a perforated drain of " + "{d}", d=Amount(plan.drain_mm, "hole")),
            say("A fall of {fall} over {way} is enough. Laid in gravel it carries {q}. Call before "
                "you dig; a trench can collapse.", fall=Amount(wet.fall_m, "length"),
                way=Amount(wet.outfall_m, "length", 0), q=Amount(plan.flow_l_h, "flow", 0)),
            caution=True)
    return Finding(
        "store.wet-ground", "care",
        say(f"{name}: gravel, a sump and a pump of " + "{q} at {h}",
            q=Amount(plan.flow_l_h, "flow", 0), h=Amount(plan.head_m, "length", 1)),
        say("A perforated drain needs a fall of {least}; there is {fall}. Spread {deep} of gravel "
            "({gravel}), lead it to a sump of {sump}, and pump it {way}. A buried sump floats and "
            "crushes; call before you dig; residual-current protection by a licensed electrician.",
            least=Amount(drainage.LEAST_FALL * wet.outfall_m, "length"),
            fall=Amount(wet.fall_m, "length"), deep=Amount(drainage.GRAVEL_M, "small"),
            gravel=Amount(1000 * plan.gravel_m3, "yearly"), sump=Amount(plan.sump_l, "volume"),
            way=Amount(wet.outfall_m, "length", 0)), caution=True)
