"""What is said of a garden agrees; and where one statement is broken, the audit sees it."""

import json
from dataclasses import replace

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from euhydra.audit import audit
from euhydra.cli import main
from euhydra.core.assessment.assess import Assessment, assess
from euhydra.core.editing.answers import BedAnswer
from euhydra.core.editing.edits import Add, Remove
from euhydra.core.editing.file import from_json, to_json
from euhydra.core.editing.values import SetValue
from euhydra.core.season.state import Season
from euhydra.data import garden_text
from euhydra.data import library as load_library
from gardens import any_garden, climate_of, poured

LIBRARY = load_library()
DEMO = ("balcony", "plot-27", "kiln-yard")


def told(garden):
    return [d.words() for d in audit(assess(garden, LIBRARY)).differ]


@pytest.mark.parametrize("units", ["metric", "us"])
@pytest.mark.parametrize("name", DEMO)
def test_the_demo_gardens_say_one_thing(name, units):
    garden = from_json(garden_text(name), LIBRARY).model_copy(update={"units": units})
    found = audit(assess(garden, LIBRARY))
    assert found.compared > 150
    assert [d.words() for d in found.differ] == []


def test_the_command_counts_and_ends_with_one_where_two_differ(tmp_path, capsys, monkeypatch):
    path = tmp_path / "g.json"
    path.write_text(garden_text("plot-27"))
    assert main(["audit", str(path)]) == 0
    assert "0 differ" in capsys.readouterr().out
    monkeypatch.setattr(Season, "a_year", lambda self, daily: float(daily.sum()) / self.years + 200)
    assert main(["audit", str(path), "--json"]) == 1
    data = json.loads(capsys.readouterr().out)
    assert data["compared"] > 150
    assert {"quantity", "said"} <= data["differ"][0].keys()


ANSWERS = st.fixed_dictionaries({
    "roof_width_m": st.floats(1, 12), "roof_depth_m": st.floats(1, 8),
    "barrels": st.integers(1, 8), "barrel_l": st.floats(60, 1000), "stand_m": st.floats(0, 1.5),
    "distance_m": st.floats(0.5, 25), "fall_m": st.floats(-0.5, 3), "pots": st.integers(0, 12),
    "tap": st.booleans(), "beds": st.lists(st.builds(
        BedAnswer, length_m=st.floats(0.5, 8), width_m=st.floats(0.3, 1.5),
        group=st.sampled_from(["leafy", "fruiting", "roots"])), max_size=3)})
SETTINGS = st.lists(st.sampled_from([
    *(("timers/timer/kind", kind) for kind in (
        "dial-pilot", "multi-ball", "weekday-ball", "weather-ball", "weekday-ball-2")),
    ("timers/timer/hoses", 2), ("timers/timer/until_h", 13.0), ("timers/timer/hoses", 1),
    ("longer", 0.3), ("every_days", 3.0), ("rain_hold_mm", 6.0), ("timers/timer/opens", "evening"),
    ("timers/timer/opens", "pulses"), ("site/years", 5)]),
    max_size=3)


@settings(deadline=None, max_examples=150, suppress_health_check=list(HealthCheck))
@given(ANSWERS, SETTINGS, st.sampled_from(sorted(LIBRARY.climates)),
       st.sampled_from(["metric", "us"]))
def test_random_gardens_of_first_pour_say_one_thing(answers, changes, climate, units):
    if not answers["beds"] and not answers["pots"]:
        answers["pots"] = 1
    garden = poured(LIBRARY, climate=climate_of(LIBRARY, climate), **answers)
    for path, value in (("site/years", 6), *changes):
        garden = SetValue(path, value).apply(garden, LIBRARY)
    assert told(garden.model_copy(update={"units": units})) == []


@pytest.mark.parametrize("first", range(0, 150, 10))
def test_gardens_of_any_sort_say_one_thing(first):
    for seed in range(first, first + 10):
        garden = SetValue("site/years", 5).apply(any_garden(LIBRARY, seed), LIBRARY)
        assert told(garden) == [], seed


def test_the_audit_can_fail():
    """Twenty statements, broken one at a time, each seen."""
    garden = from_json(garden_text("plot-27"), LIBRARY)
    tapped = from_json(garden_text("balcony"), LIBRARY)
    assert told(garden) == told(tapped) == []
    missed = []
    for name, one, breaks in BREAKS:
        with pytest.MonkeyPatch.context() as patch:
            breaks(patch)
            if not told(tapped if one == "tap" else garden):
                missed.append(name)
    assert len(BREAKS) >= 20
    assert missed == []


def _figure(patch, station, key, factor):
    """A figure of a station told off by a factor, on its page alone."""
    true = Assessment.station

    def false(self, name):
        report = true(self, name)
        return replace(report, figures=tuple(
            replace(f, amount=replace(f.amount, value=f.amount.value * factor + 1))
            if name == station and f.key == key else f for f in report.figures))
    patch.setattr(Assessment, "station", false)


def _table(patch, where, head, text):
    """A cell of a page's table told as something else."""
    from euhydra.audit.statements import Said

    true = Said.tables

    def false(self, station, view):
        found = true(self, station, view)
        if f"{station}/{view}" != where:
            return found
        return [replace(t, rows=tuple(tuple(text if i == t.heads.index(head) else cell
                                            for i, cell in enumerate(row)) for row in t.rows))
                if head in t.heads else t for t in found]
    patch.setattr(Said, "tables", false)


def _patched(target, change):
    """A function whose answer is changed."""
    def breaks(patch):
        module, _, name = target.rpartition(".")
        import importlib

        true = getattr(importlib.import_module(module), name)
        patch.setattr(target, lambda *a, **k: change(true(*a, **k)))
    return breaks


def _a_run_longer(found):
    return {zone: tuple(replace(s, minutes=s.minutes + 5) for s in runs)
            for zone, runs in found.items()}


BREAKS = [
    *((f"{station} {key}", which, lambda patch, s=station, k=key: _figure(patch, s, k, 1.2))
      for station, key, which in (
          ("prove", "short_days", ""), ("prove", "used_year", ""), ("prove", "given_year", ""),
          ("prove", "spilled_year", ""), ("prove", "lasts", ""), ("prove", "thirsty", ""),
          ("store", "usable", ""), ("store", "lacking_year", ""), ("store", "reliability", ""),
          ("store", "longest_dry_run", ""), ("catch", "wanted_year", ""),
          ("grow", "need_peak", ""), ("lay", "line_total", ""), ("lay", "outlets", ""),
          ("time", "zones", ""), ("time", "hours_peak", ""), ("build", "pieces", ""),
          ("build", "cost", ""), ("store", "tap_year", "tap"))),
    ("Prove's months", "", lambda patch: _table(patch, "prove/tank", "From rain", "900 L")),
    ("Prove's strips", "", lambda patch: _table(patch, "prove/thirst", "Middle year", "3")),
    ("Catch, who gives", "", lambda patch: _table(patch, "catch/supply", "Litres a year",
                                                  "9.9 m³")),
    ("the log's leak check", "", _patched("euhydra.audit.runs.taken_l_day", lambda x: x * 0.9)),
    ("a watched month", "", _patched("euhydra.core.advise.watching.planned_runs",
                                     lambda x: x[::3])),
    ("backflow preventers", "tap", lambda patch: patch.setattr(Assessment, "parts", property(
        lambda self: tuple(p for p in _true_parts(self) if p.key != "backflow")))),
]


def _true_parts(a):
    from euhydra.core.construction import parts_list

    return parts_list.parts_list(a.garden, a.library)


def test_a_file_written_again_is_audited_alike(tmp_path):
    garden = from_json(garden_text("kiln-yard"), LIBRARY)
    again = from_json(to_json(garden), LIBRARY)
    assert audit(assess(again, LIBRARY)).compared == audit(assess(garden, LIBRARY)).compared


@pytest.mark.parametrize("units", ["metric", "us"])
def test_pots_on_a_tank_filled_by_hand_and_nothing_else_say_one_thing(units):
    """Nothing is timed, no rain is caught: what stations leave out cannot be compared."""
    garden = poured(LIBRARY, units=units)
    for edit in (Add("float-pots"), Add("hand-tank"), SetValue("plots/float-pots-3/fed_by",
                                                               "store-1"),
                 *(Remove(f"plots/{p.id}") for p in garden.plots), Remove("stores/barrels"),
                 Remove("roofs/roof")):
        garden = edit.apply(garden, LIBRARY)
    assert not any(zone.timed for zone in garden.zones)
    assert told(garden) == []
