"""Kept means readable: whatever was typed, drawn or taken away, every page opens afterwards."""

import pytest

from euhydra.core.editing.file import from_json
from euhydra.store.states import packed
from gardens import any_garden
from walk import Walk


@pytest.mark.parametrize(("garden", "seed"), [("plot-27", 1), ("kiln-yard", 2), ("balcony", 3)])
def test_a_walk_of_random_edits_leaves_a_garden_that_opens(client, gardens, garden, seed):
    walk = Walk(client, gardens, garden, seed)
    for _ in range(12):
        walk.step()
    walk.undoes()
    walk.opens(every=True)


@pytest.mark.parametrize("seed", [11, 12])
def test_a_walk_over_any_garden_leaves_one_that_opens(client, gardens, library, seed):
    made = gardens.add(any_garden(library, seed), "Any garden")
    walk = Walk(client, gardens, made.id, seed)
    for _ in range(10):
        walk.step()
    walk.undoes()


def test_two_spot_heights_that_throw_the_slope_off_are_refused_and_nothing_is_kept(client, gardens):
    typed = [("site/spots/gate/at/x_m", "3 m", 200), ("site/spots/gate/level_m", "5 m", 422)]
    for path, words, status in typed:
        said = client.post("/g/plot-27/edit", data={
            "path": path, "typed": words, "station": "place"}, headers={"X-Fragment": "1"})
        assert said.status_code == status
    assert "would lie at" in said.text
    assert "data-station" in said.text, "the page stays, with what was typed on it"
    assert gardens.load("plot-27").garden.site.spots[1].level_m == 0.1
    for way in ("place", "export/garden.json", "lay"):
        assert client.get(f"/g/plot-27/{way}").status_code == 200
    client.post("/g/plot-27/undo")
    assert gardens.load("plot-27").garden.site.spots[1].at.x_m == 17.0


def test_lawns_past_what_can_be_reckoned_are_refused(client, gardens, monkeypatch):
    monkeypatch.setattr("euhydra.core.garden.validation.MOST_GROWN_OUTLETS", 1200)

    def does(way, **form):
        return client.post(f"/g/plot-27/{way}", data={"station": "grow", **form},
                           follow_redirects=False)

    said = does("things", add="lawn")
    lawn = gardens.load("plot-27").garden.plots[-1].id
    does("edit", path=f"plots/{lawn}/length_m", typed="20 m")
    does("edit", path=f"plots/{lawn}/width_m", typed="10 m")
    for _ in range(9):
        if said.status_code == 303:
            said = does("plan", do="copy", of=f"plots/{lawn}")
    words = said.text
    assert "1,200 are the most that can be reckoned" in words
    assert from_json(client.get("/g/plot-27/export/garden.json").text, gardens.library)


def broken(gardens, garden_id, *, all_of_it=False):
    """The stored text of the last change, or of every one, is of another kind."""
    with gardens.database.write() as db:
        changes = db.execute("SELECT id FROM change WHERE garden_id = ?1 AND (?2 OR id ="
                             " (SELECT head FROM garden WHERE id = ?1))",
                             (garden_id, all_of_it)).fetchall()
        for (change,) in changes:
            db.execute("UPDATE state SET base_id = NULL, body = ? WHERE change_id = ?",
                       (packed('{"format": "of tomorrow"}'), change))


def test_a_last_change_that_cannot_be_read_bars_nothing(client, gardens):
    client.post("/g/plot-27/edit", data={"path": "name", "typed": "Far plot", "station": "place"})
    before = gardens.load("plot-27")
    client.post("/g/plot-27/edit", data={"path": "name", "typed": "Spoilt", "station": "place"})
    broken(gardens, "plot-27")
    page = client.get("/g/plot-27/place")
    assert page.status_code == 200
    assert "is held back" in page.text
    assert "Far plot" in page.text
    assert client.get("/").status_code == 200
    assert client.get("/g/plot-27/export/garden.json").text == '{"format": "of tomorrow"}'
    # What is made now starts from what is seen; undo steps back past what cannot be read.
    client.post("/g/plot-27/edit", data={"path": "name", "typed": "Again", "station": "place"})
    assert gardens.load("plot-27").garden.name == "Again"
    assert gardens.load("plot-27").held_back is None
    client.post("/g/plot-27/undo")
    assert gardens.load("plot-27") == before or gardens.load("plot-27").garden == before.garden
    client.post("/g/plot-27/redo")
    assert gardens.load("plot-27").garden.name == "Again"


def test_undo_steps_back_from_a_change_that_cannot_be_read(client, gardens):
    client.post("/g/plot-27/edit", data={"path": "name", "typed": "Spoilt", "station": "place"})
    broken(gardens, "plot-27")
    assert client.post("/g/plot-27/undo", follow_redirects=True).status_code == 200
    kept = gardens.load("plot-27")
    assert kept.held_back is None
    assert kept.garden.name == "Plot 27"


def test_a_garden_of_which_nothing_can_be_read_gives_its_text_and_bars_no_other(client, gardens):
    broken(gardens, "plot-27", all_of_it=True)
    page = client.get("/g/plot-27/place")
    assert page.status_code == 422
    assert "/g/plot-27/export/garden.json" in page.text
    assert "of tomorrow" in client.get("/g/plot-27/export/garden.json").text
    assert client.get("/").status_code == 200
    assert client.get("/g/kiln-yard/place").status_code == 200
