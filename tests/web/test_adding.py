"""What ``docs/adding.md`` says of new kinds, followed to the letter: each runs through the app."""

from dataclasses import replace

import numpy as np
import pytest
from starlette.testclient import TestClient

from euhydra.core.advise.layings import layings
from euhydra.core.assessment.assess import STATIONS, assess
from euhydra.core.construction.labels import labels
from euhydra.core.editing.values import SetValue
from euhydra.core.hydraulics.emitters import LAWS, STEEP, OutletLaw
from euhydra.core.log.entries import KINDS, EntryKind
from euhydra.core.statements.figures import Amount, Figure, Term, Working, say
from euhydra.core.statements.findings import StationReport
from euhydra.core.stations import REPORTS
from euhydra.store.database import Database
from euhydra.store.gardens import Gardens
from euhydra.web.app import create_app
from gardens import poured

ORIGIN = "http://localhost"


def _log_flow(head, k, x, opens):
    return k * np.log1p(head)


def _log_head(flow, k, x, opens):
    grown = np.exp(np.clip(flow / k, 0, 40))
    return (np.where(flow < 0, STEEP * flow, grown - 1), np.where(flow < 0, STEEP, grown / k))


def _sun_hours(r):
    hours = float(r.daylight_h.max())
    told = Figure("longest", "Longest day", Amount(hours, "hours"), Working(
        "from sunrise to sunset on the longest day", (Term("longest day", Amount(hours, "hours")),),
        "FAO-56 eq. 34", "published"))
    return StationReport("sun", "Sun", say("The longest day has {h}.", h=Amount(hours, "hours")),
                         say("{h}", h=Amount(hours, "hours")), (told,), ())


@pytest.fixture
def more(library, monkeypatch):
    """The tables with an outlet of a new law in a new tube, a way of watering, and a timer."""
    monkeypatch.setitem(LAWS, "logarithm", OutletLaw(_log_flow, _log_head))
    monkeypatch.setitem(REPORTS, "sun", _sun_hours)
    outlet = replace(library.outlets["tape"], key="wick", name="Wick", law="logarithm", k=0.9)
    tube = replace(library.tubes["tape"], key="wick-tube", name="16 mm (half-inch) wick tube",
                   outlet="wick", outlet_spacing_m=0.25)
    method = replace(library.methods["soaker"], key="wick-line", name="wick line",
                     tube="wick-tube", role="dripline", rows="fixed", row_m=0.4, lies="comb")
    timer = replace(library.timers["dial-ball"], key="sand-glass", name="Sand-glass timer",
                    minutes=(7, 14, 28, 56))
    return library.with_rows((("outlets", outlet), ("tubes", tube), ("methods", method),
                              ("timers", timer)))


@pytest.fixture
def garden(more):
    made = poured(more, pots=2)
    for path, value in (("plots/bed-1/method", "wick-line"), ("timers/timer/kind", "sand-glass")):
        made = SetValue(path, value).apply(made, more)
    return made


def test_an_outlet_s_own_law_is_solved(garden, more):
    a = assess(garden, more)
    flow = next(a.flows[z.id]["full"] for z in garden.zones if "bed-1" in z.plots)
    wicks = [o for o in flow.outlets if o.plot == "bed-1"]
    assert flow.solution.converged
    assert len(wicks) > 10
    for outlet in wicks:
        assert outlet.flow_l_h / outlet.each == pytest.approx(0.9 * np.log1p(outlet.head_m),
                                                              rel=1e-3)


def test_a_way_of_watering_is_laid_compared_and_taken_in_for_winter(garden, more):
    a = assess(garden, more)
    bed = garden.plot("bed-1")
    rows = [x for x in garden.lines if x.tube == "wick-tube"]
    assert len(rows) == round(bed.width_m / 0.4)
    assert {o.kind for o in garden.outlets if o.plot == "bed-1"} == {"wick"}
    assert "wick-line" in {x.method for x in layings(a, bed)}
    assert any(x.hangs_on == "soaker" and x.about == "bed-1" for x in labels(garden, more))
    assert any("wick tube" in part.name for part in a.parts)


def test_a_timer_s_marks_are_what_it_is_set_to(garden, more):
    settings = [s for each in assess(garden, more).schedule.settings.values() for s in each]
    assert settings
    assert {s.minutes for s in settings} <= {7, 14, 28, 56}


def test_the_app_runs_with_all_of_them(garden, more, tmp_path):
    gardens = Gardens(Database(tmp_path / "g.sqlite3"), more)
    kept = gardens.add(garden, "made")
    client = TestClient(create_app(gardens), base_url=ORIGIN, headers={"Origin": ORIGIN})
    assert list(STATIONS)[-1] == "sun"
    for station in STATIONS:
        page = client.get(f"/g/{kept.id}/{station}")
        assert page.status_code == 200, station
        assert "Sun" in page.text
    sun = client.get(f"/g/{kept.id}/sun").text
    assert "The longest day has" in sun
    assert "from sunrise to sunset" in sun
    edit = client.post(f"/g/{kept.id}/edit", data={"path": "plots/bed-2/method",
                                                   "typed": "wick-line", "station": "lay"})
    assert edit.status_code == 200
    assert gardens.load(kept.id).garden.plot("bed-2").method == "wick-line"
    assert client.get(f"/g/{kept.id}/export/zone-bed-1.inp").status_code == 200
    assert "wick line" in client.get(f"/g/{kept.id}/lay").text


def test_a_garden_keeps_its_own_copy_of_a_kind_that_the_table_loses(garden, more, library,
                                                                    tmp_path):
    gardens = Gardens(Database(tmp_path / "g.sqlite3"), more)
    kept = gardens.add(garden, "made")
    later = Gardens(Database(tmp_path / "g.sqlite3"), library)
    assert later.load(kept.id).garden == garden
    assert later.tables_of(kept.id).methods["wick-line"].name == "wick line"


def test_a_kind_of_log_entry_is_asked_kept_drawn_and_told(garden, more, tmp_path, monkeypatch):
    monkeypatch.setitem(KINDS, "worms", EntryKind("Worms", "plot", "count", most=200.0,
                                                  ask="in a spade of soil", quick=True))
    gardens = Gardens(Database(tmp_path / "g.sqlite3"), more)
    kept = gardens.add(garden, "made")
    client = TestClient(create_app(gardens), base_url=ORIGIN, headers={"Origin": ORIGIN})
    assert "in a spade of soil" in client.get(f"/g/{kept.id}/keep?view=log&asked=worms").text
    said = {"kind": "worms", "about": "bed-1", "typed": "12", "day": "2026-05-02",
            "entry": "0123456789ab"}
    assert client.post(f"/g/{kept.id}/log", data=said).status_code == 200
    assert client.post(f"/g/{kept.id}/log", data=said | {
        "typed": "201", "entry": "0123456789ac"}).status_code == 422
    assert client.get(f"/g/{kept.id}/keep?view=log").text.count("12</") == 1
    assert "Worms" in client.get(f"/g/{kept.id}/keep?view=season&asked=2026").text
    assert "worms" in client.get(f"/g/{kept.id}/export/log.csv").text
