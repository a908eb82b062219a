"""The fifteen kinds of garden counted whole: heads, pipe, rows and outlets (common practice).

Each was drawn on squared paper from what was typed, and counted: beds stand 4 m from the source, a
header comes up 15 cm before a bed, rows are as long as it less 5 cm at either end. Pipe is bought
with a twentieth more, up to whole metres; where a header goes round a corner it may be a metre out.
What their kits take is counted in ``test_kits``.
"""

import pytest

from euhydra.core.construction.parts_list import parts_list
from fifteen import fifteen

# What stands at the source's outlet, once a valve.
BARREL = {"filter-filter-screen": 1, "adapter": 1, "label": 1}
TAP = {"filter-filter-screen": 1, "adapter": 1, "backflow": 1, "regulator": 1}
DIAL = {"timer-dial-ball": 1, "battery": 1}
PUMP = {"check-valve": 1, "residual-current": 1}  # each on the house's current
BY_HAND = {
    # rows 30 cm apart: 4 of 2.3 m and 3 turns in a bed, 2 of 5.9 m and one in the border: 62.6 m
    # header: 3.85 m east, 9.45 m up to the border, six branches of 0.2 m
    # and the sump's pump in the wet corner
    "three totes, soakers": BARREL | DIAL | PUMP | {
        "tube-soaker": 66, "coupling": 4, "flush-end": 6, "tee": 5, "tube-poly-16": 16},
    # 3 strips of 2.3 m a bed: 13.8 m; header 5.75 m and 1.8 m on, a branch and 0.8 m in each bed
    "a laundry drum, tape": PUMP | {
        "valve-hose-thread": 1, "tube-tape": 15, "flush-end": 6, "tee": 5, "tube-poly-16": 11,
        "filter-filter-lint": 1, "adapter": 1, "label": 1},
    # 4.9 m and 0.3 m to the first tower; 2.9 m on past five, 1.3 m up each
    "five towers": TAP | DIAL | {
        "tube-poly-16": 6, "tube-quarter-inch": 10, "dripper-plain-4": 10, "end-plug": 1,
        "flush-end": 1},
    # 3 rows of 2.3 m a bed, each on a pipe of its own: 4.85 m and 6.74 m, then 1 m in each bed
    "two terraces and a well": {k: 2 * n for k, n in (BARREL | DIAL).items()} | {
        "splitter": 1, "tube-dripline": 15, "flush-end": 6, "tee": 4, "tube-poly-16": 15},
    # 3.85 m and 1.35 m, 0.3 m into each gutter
    "two gutters": BARREL | {
        "valve-hose-thread": 1, "float-valve": 2, "tee": 1, "tube-poly-16": 7},
    "beds above four barrels": BARREL | DIAL | PUMP | {
        "pump-barrel": 1, "tube-dripline": 15,
        "flush-end": 6, "tee": 5, "tube-poly-16": 9},
    # 0.6 m and 0.3 m to the first; 7 × 0.4 m past the others and 0.5 m up
    "eight float pots": BARREL | {
        "valve-hose-thread": 1, "inline-filter": 1, "float-valve": 8, "end-plug": 1,
        "flush-end": 1, "tube-poly-16": 1, "tube-quarter-inch": 4},
    "one barrel": BARREL | DIAL | {
        "tube-dripline": 8, "flush-end": 3, "tee": 2, "tube-poly-16": 7},
    # border: 2 rows of 4.9 m in mix; lawn: 4 of 3.9 m in loam; three trunks 2 m apart, four
    # drippers each
    "a whole house": {k: 3 * n for k, n in (BARREL | DIAL).items()} | PUMP | {
        "splitter": 2, "pump-barrel": 1, "tube-dripline": 27, "dripper-plain-4": 12,
        "flush-end": 7, "tee": 4, "tube-poly-16": 29, "coupling": 1},
    "drilled pipe, a pump": BARREL | DIAL | PUMP | {
        "pump-barrel": 1, "tube-drilled": 6, "flush-end": 1, "tube-poly-16": 5},
    # pots: 5 × 0.38 m past them and 0.5 m up, 0.4 m up each
    "a border and pots": {k: 2 * n for k, n in (TAP | DIAL).items()} | {
        "splitter": 1, "tube-dripline": 11, "tube-quarter-inch": 6, "dripper-plain-2": 6,
        "end-plug": 1, "flush-end": 3, "tee": 1, "tube-poly-16": 11},
    # 3 rows of 3.9 m and two turns: 12.3 m
    "a flower bed": TAP | DIAL | {"tube-soaker": 13, "flush-end": 1, "tube-poly-16": 5},
    # nine times 10.1 m, in rolls of 15 m; up one side of five, across 3.4 m, up four
    "nine beds": TAP | DIAL | {
        "tube-soaker": 96, "coupling": 6, "flush-end": 9, "tee": 8, "tube-poly-16": 22},
    "a bucket chain": BARREL | {
        "valve-hose-thread": 1, "float-valve": 1, "tube-poly-16": 5},
    # ten pots and two, the second lot off 3.8 m of header; 3.92 m, 0.88 m, and 0.4 m up each
    "twelve pots": TAP | DIAL | {
        "tube-poly-16": 10, "tube-quarter-inch": 11, "dripper-plain-2": 12, "end-plug": 2,
        "flush-end": 1}}
COUNTED = {key for counts in BY_HAND.values() for key in counts}


@pytest.mark.parametrize("kind", fifteen())
def test_a_garden_is_what_was_counted_by_hand(library, kind):
    found = {p.id: p.quantity for p in parts_list(fifteen()[kind](library), library)
             if p.id in COUNTED}
    pipe, by_hand = found.pop("tube-poly-16"), dict(BY_HAND[kind])
    assert pipe == pytest.approx(by_hand.pop("tube-poly-16"), abs=1)
    assert found == by_hand
