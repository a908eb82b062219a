"""The steps of building a garden: their order, their measures, and that they last."""

import re

import pytest

from euhydra.core.assessment.assess import assess
from euhydra.core.construction.step import together
from euhydra.core.construction.steps import steps
from euhydra.core.editing.edits import Add
from euhydra.core.editing.file import from_json
from euhydra.core.editing.pump_edits import FitPump
from euhydra.core.editing.values import SetValue
from euhydra.data import garden_text
from gardens import poured
from plans import sixty_beds


def ids(garden, library):
    return [s.id for s in steps(assess(garden, library).season_inputs)]


def plain(text):
    return text.replace("\u00a0", " ").replace("\u202f", " ")


def place(found, start):
    return next(i for i, step in enumerate(found) if step.startswith(start))


def test_the_order_is_that_of_a_careful_person(kiln):
    """Stand, drill, spigot, water against wind, diverter; head, header, rows, rinse; then proof.

    Common practice.
    """
    found = [s.id for s in steps(kiln.season_inputs)]
    order = ["walk", "footing-", "drill-", "spigot-", "steady-", "diverter-", "overflow-",
             "screens-", "joint-", "three-way-", "backflow-", "head-", "header-", "rows-", "flush-",
             "wicking-", "leaks", "jug-", "timer-"]
    places = [place(found, start) for start in order]
    assert places == sorted(places)
    assert len(found) == len(set(found))


def test_every_plot_zone_and_store_has_its_steps_in_every_garden(library):
    gardens = [from_json(garden_text(n), library) for n in ("kiln-yard", "balcony", "plot-27")]
    for garden in [*gardens, poured(library), sixty_beds(library)]:
        found = ids(garden, library)
        for plot in garden.plots:
            assert f"rows-{plot.id}" in found
        for zone in garden.zones:
            assert {f"head-{zone.id}", f"header-{zone.id}", f"flush-{zone.id}"} <= set(found)
        for store in garden.stores:
            assert {f"footing-{store.id}", f"drill-{store.id}"} <= set(found)


def test_measures_are_the_garden_s_own_in_either_system(library):
    garden = poured(library, stand_m=0.6)
    store = garden.store
    found = steps(assess(garden, library).season_inputs)
    own = {s.id: s.own for s in found}
    assert "0.60 m" in plain(own[f"footing-{store.id}"].show("metric"))
    assert "1.97 ft" in plain(own[f"footing-{store.id}"].show("us"))
    lengths = [x.length_m for x in garden.lines if x.plot == "bed-1" and x.role == "dripline"]
    assert f"{len(lengths)} × {lengths[0]:.2f} m" in plain(own["rows-bed-1"].show("metric"))


def test_a_step_keeps_its_name_while_the_garden_grows(library):
    garden = poured(library)
    more = Add("bed").apply(garden, library)
    assert {i for i in ids(garden, library) if not i.startswith(("head", "flush"))} <= {
        *ids(more, library)}


def test_a_pump_is_primed_and_its_check_valve_faces_away(library):
    garden = FitPump("barrels", "transfer").apply(poured(library), library)
    step = next(s for s in steps(assess(garden, library).season_inputs) if s.id.startswith("pump-"))
    how = step.how.show("metric")
    assert "fill pump and suction hose with water before you plug in" in how
    assert "points away from the pump" in how
    assert "residual-current" in step.caution


def test_names_with_braces_do_no_harm(library):
    garden = SetValue("plots/bed-1/name", "{x} bed").apply(poured(library), library)
    found = steps(assess(garden, library).season_inputs)
    shown = [words.show("us") for s in found for words in (s.title, s.how, s.test, s.own)]
    assert len(shown) == 4 * len(found)
    assert any(s.place == "{x} bed" for s in found)


def test_names_like_a_kit_s_own_words_do_no_harm(library):
    """A gardener may call things by what stands in braces in a kit's sentences."""
    garden = poured(library)
    for path, name in (("roofs/roof-1/name", "{name}"), ("stores/barrels/name", "{roof} {marks}"),
                       (f"roofs/roof-1/downspouts/{garden.roofs[0].downspouts[0].id}/name",
                        "{roof}"), ("plots/pots-1/name", "{outlets:a|b} {")):
        garden = SetValue(path.replace("roof-1", garden.roofs[0].id), name).apply(garden, library)
    found = steps(assess(garden, library).season_inputs)
    said = [w.show(units) for s in found for w in (s.title, s.how, s.test, s.own)
            for units in ("metric", "us")]
    assert any(words.startswith("{name}: ") for words in said)
    assert {"{roof} {marks}", "{outlets:a|b} {"} <= {s.place for s in found} | {
        s.part for s in found}


def test_what_is_done_alike_is_told_once_with_its_places(library):
    """Two beds and a row of pots: one head, one header and one rinse for all, each place named."""
    a = assess(poured(library), library)
    found = steps(a.season_inputs)
    once = {step.title.show("metric"): [p.id for p in at] for step, at in together(found)}
    zones = [z.id for z in a.garden.zones]
    assert once["Head assemblies, in order"] == [f"head-{z}" for z in zones]
    assert once["Rinse before the ends are shut"] == [f"flush-{z}" for z in zones]
    assert once["Rows in the plots"] == ["rows-bed-1", "rows-bed-2"]
    assert sorted(i for at in once.values() for i in at) == sorted(s.id for s in found)


@pytest.mark.parametrize(("units", "said"), [("metric", "100 mL"), ("us", "0.50 cups")])
@pytest.mark.parametrize("method", ["soaker", "dripline"])
def test_the_jug_test_is_in_cups_or_millilitres_and_a_soaker_is_caught_by_length(
        library, units, said, method):
    a = assess(poured(library, method=method, units=units, pots=0), library)
    zone = a.garden.zones[0]
    jug = next(s for s in steps(a.season_inputs) if s.id == f"jug-{zone.id}")
    words = plain(jug.own.show(units))
    assert said in words
    cup_l = 0.1 if units == "metric" else 0.118294
    seconds = float(re.search(r"in ([\d ]+) s", words)[1].replace(" ", ""))
    flow = a.flows.run_flow_l_h(zone)
    if method == "soaker":
        hose = sum(x.length_m for x in a.garden.lines if x.role == "soaker" and x.zone == zone.id)
        each = flow / hose * (1.0 if units == "metric" else 0.9144)
        assert ("1.00 m of the soaker" if units == "metric" else "3.00 ft of the soaker") in words
    else:
        each = flow / sum(o.each for o in a.flows[zone.id]["half"].outlets)
    assert seconds == pytest.approx(3600 * cup_l / each, abs=0.6)
