"""Gardens at hand: loads them and keeps their reckonings by change, so a page pays once."""

from __future__ import annotations

import datetime as dt
import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass

from euhydra.core.assessment.assess import Assessment, assess
from euhydra.core.editing.edits import Edit
from euhydra.core.editing.file import BadFile
from euhydra.core.editing.trees import EditRefused
from euhydra.core.garden.model import Garden
from euhydra.core.library import Library
from euhydra.core.weather.record import Record
from euhydra.store.forecasts import Forecasts
from euhydra.store.gardens import Gardens
from euhydra.store.kept import Kept, Overtaken, slug
from euhydra.store.riding import Riding, keep
from euhydra.web.bundle import Rooms

KEPT_AT_HAND, KEPT_WHOLE = 24, 4


@dataclass(frozen=True)
class Standing:
    """A garden as it stands in its history, with its reckoning."""

    kept: Kept
    assessment: Assessment
    history: tuple[str, ...]

    @property
    def garden(self) -> Garden:
        """The garden."""
        return self.kept.garden


class Shelf:
    """Gardens and their assessments. Safe for several threads."""

    def __init__(self, gardens: Gardens) -> None:
        self.gardens = gardens
        self.library: Library = gardens.library
        self.lock = threading.RLock()
        self.rooms = rooms = Rooms(gardens.database, gardens)
        self.records, self.ticks, self.log, self.photos, self.sketches = (
            rooms.weather, rooms.ticks, rooms.log, rooms.photos, rooms.sketches)
        self.forecasts = Forecasts(gardens.database)
        self._assessments: OrderedDict[tuple[str, int], Assessment] = OrderedDict()

    def take(self, garden_id: str) -> Standing:
        """The garden as it stands. Raises NoSuchGarden."""
        kept = self.gardens.load(garden_id)
        assessment = self._assessed(garden_id, kept.change, kept.garden, kept.library)
        today = dt.date.today()
        assessment.read_log(self.log.of(garden_id), today, self.forecasts.of(garden_id, today))
        return Standing(kept, assessment, tuple(self.gardens.history(garden_id)))

    def lend(self, garden_id: str, change: int, assessment: Assessment) -> None:
        """Put a reckoning that was made elsewhere where the next page will look for it."""
        with self.lock:
            self._assessments[garden_id, change] = assessment

    def add(self, garden: Garden, riding: Riding, title: str,
            library: Library | None = None) -> Garden:
        """Keep a new garden, with what came with it."""
        return keep(self.gardens, garden, riding, title, library)

    def copy(self, of: Assessment, name: str, title: str) -> Garden:
        """Keep a copy of a garden under a name of its own."""
        return self.add(of.garden.model_copy(update={"name": name, "id": slug(name)}),
                        Riding(of.record), title, of.tables)

    def at_change(self, garden_id: str, change: int) -> Assessment | None:
        """The reckoning as it stood after a change; None when there is no such change."""
        with self.lock:
            if (garden_id, change) in self._assessments:
                return self._assessments[garden_id, change]
        garden = self.gardens.at_change(garden_id, change)
        if garden is None:
            return None
        return self._assessed(garden_id, change, garden, self.gardens.tables_of(garden_id))

    def edit(self, garden_id: str, make: Callable[[Standing], tuple[Edit, str]],
             beside: Callable[[str], None] | None = None, by: str = "") -> Standing:
        """Make and keep one edit; made again once on what stands now if another came between.

        ``beside`` keeps what belongs to it, given its title, in the same transaction; ``by`` is
        the mark of the browser that asked.
        """
        for attempt in (1, 2):
            standing = self.take(garden_id)
            edit, title = make(standing)
            after = standing.assessment.after(edit)
            if after.garden == standing.garden:
                return standing
            try:
                with self.gardens.database.write():
                    self.gardens.edit(after.garden, title, standing.kept, by)
                    if beside:
                        beside(title)
            except BadFile as error:
                raise EditRefused(f"{error} Nothing was changed.") from None
            except Overtaken:
                if attempt == 2:
                    raise
                continue
            break
        return self.take(garden_id)

    def _record(self, garden: Garden, like: Assessment | None) -> Record | None:
        """The daily record that the garden's site names; None when none is, or it is gone."""
        if like and like.record and like.record.id == garden.site.record:
            return like.record
        return self.records.of(garden)

    def _assessed(self, garden_id: str, change: int, garden: Garden,
                  library: Library) -> Assessment:
        with self.lock:
            key = (garden_id, change)
            if key not in self._assessments:
                like = next((a for (g, _), a in reversed(self._assessments.items())
                             if g == garden_id), None)
                record = self._record(garden, like)
                self._assessments[key] = (like.revised(garden, record) if like
                                          else assess(garden, library, record))
            self._assessments.move_to_end(key)
            for old in list(self._assessments.values())[:-KEPT_WHOLE]:
                old.let_go()
            while len(self._assessments) > KEPT_AT_HAND:
                self._assessments.popitem(last=False)
            return self._assessments[key]
