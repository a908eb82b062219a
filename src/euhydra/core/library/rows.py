"""The rows of the trade tables: what each says of a crop, a tube, an outlet, a timer, a part."""

from __future__ import annotations

from dataclasses import dataclass

from euhydra.core.statements.figures import Standing


@dataclass(frozen=True, kw_only=True)
class Row:
    """A row of any table: a lasting key, a name, and where the values come from."""

    key: str
    name: str
    source: str
    standing: Standing


@dataclass(frozen=True, kw_only=True)
class Climate(Row):
    """Twelve months of normals: rain mm, wet days, low and high °C; and a latitude."""

    latitude_deg: float
    rain_mm: tuple[float, ...]
    wet_days: tuple[float, ...]
    tmin_c: tuple[float, ...]
    tmax_c: tuple[float, ...]
    last_frost: str
    first_frost: str


@dataclass(frozen=True, kw_only=True)
class RoofMaterial(Row):
    """Runoff coefficient, first flush in mm, and what to mind about the water, if anything."""

    runoff: float
    first_flush_mm: float
    caution: str


@dataclass(frozen=True, kw_only=True)
class Guard(Row):
    """A gutter guard: the share of the water it lets by, and how often it wants cleaning."""

    passes: float
    clean_months: float


@dataclass(frozen=True, kw_only=True)
class GreySchool(Row):
    """A school of using greywater, in words, and its jobs as (what, times a year, minutes)."""

    stores: str
    filter: str
    power: str
    clogs: str
    suits: str
    code: str
    jobs: tuple[tuple[str, float, float], ...]

    @property
    def hours_a_year(self) -> float:
        """What its upkeep takes."""
        return sum(times * minutes for _, times, minutes in self.jobs) / 60


@dataclass(frozen=True, kw_only=True)
class Soil(Row):
    """Water contents by volume at field capacity and wilting point; side spread in m.

    ``soaks_mm_h`` is the basic infiltration rate, ``grey_mm_day`` the greywater it takes a day.
    """

    field_capacity: float
    wilting_point: float
    row_spacing_m: float
    soaks_mm_h: float
    grey_mm_day: float

    @property
    def available(self) -> float:
        """Water a plant can draw, by volume of soil."""
        return self.field_capacity - self.wilting_point


@dataclass(frozen=True, kw_only=True)
class Crop(Row):
    """FAO-56 single coefficient: Kc and stage lengths, root depth, depletion share p.

    ``canopy_m`` and ``height_m`` are of a full-grown plant; ``season`` is warm or cool.
    """

    group: str
    thirst: str
    season: str
    kc_ini: float
    kc_mid: float
    kc_end: float
    days_ini: float
    days_dev: float
    days_mid: float
    days_late: float
    root_m: float
    p: float
    spacing_m: float
    canopy_m: float
    height_m: float
    planted: str
    edible_raw: str

    @property
    def days(self) -> float:
        """Length of the season from planting to the end of the late stage."""
        return self.days_ini + self.days_dev + self.days_mid + self.days_late


@dataclass(frozen=True, kw_only=True)
class Tube(Row):
    """A pipe: true bore and size it is sold by, mm; the outlet built in, if any, at its spacing.

    ``roll_m`` is the roll it is sold in; ``price`` is a metre's, from an invented price book.
    """

    bore_mm: float
    size_mm: float
    outlet: str
    outlet_spacing_m: float
    longest_run_m: float
    roll_m: float
    price: float


@dataclass(frozen=True, kw_only=True)
class OutletKind(Row):
    """q = k·hˣ with q in L/h and h in m; compensating kinds are flat once they open.

    ``least_head_m`` is the head under which the outlet no longer meters its water. ``law`` names
    another law, one of ``hydraulics.emitters.LAWS``. One that ``seeps`` is no outlet to be
    counted: the wall of a hose ("yes"), the open ``end`` of a pipe. With nothing before it, the
    lint of a laundry blocks it in ``lint_weeks``.
    """

    k: float
    x: float
    least_head_m: float
    opens_m: float
    cv: float
    price: float
    law: str = "power"
    seeps: str = "no"
    lint_weeks: float = 0.0


@dataclass(frozen=True, kw_only=True)
class WateringMethod(Row):
    """A way of watering a bed: what its rows are of, how far apart they stand, how they lie.

    ``tube`` and ``role`` are those of the rows' lines. Outlets are built into the tube, or each is
    an ``outlet``. Rows stand apart by the ``plants``, by ``row_m`` (``fixed``), or by how far water
    spreads in the ``soil``, at least ``row_m``. ``lies`` is how they are joined unless the gardener
    says; ``indoors`` ("yes") what comes in for winter; ``compared`` what Lay weighs side by side.
    """

    tube: str
    role: str
    outlet: str
    rows: str
    row_m: float
    lies: str
    wets_leaves: str
    indoors: str
    compared: str

    @property
    def at_plants(self) -> bool:
        """Whether its outlets stand at the plants, not along the tube."""
        return self.rows == "plants"

    def apart_m(self, soil_m: float) -> float:
        """How wide a row wets the ground, which rows stand apart, where water spreads so far."""
        return self.row_m if self.rows == "fixed" else max(self.row_m, soil_m)


@dataclass(frozen=True, kw_only=True)
class FittingKind(Row):
    """Loss of a component: Kv in m³/h at 1 bar, or K on the velocity head (0 = none).

    One that is ``one_way`` ("yes") lets nothing back. ``inlet`` and ``outlet`` are its ends, keys
    of ``threads.NAMES``. Behind a filter outlets take lint ``lint_times`` as long; with laundry
    water it is washed every ``wash_days``.
    """

    kv: float
    k: float
    role: str
    one_way: str
    inlet: str
    outlet: str
    price: float
    lint_times: float = 1.0
    wash_days: float = 0.0


@dataclass(frozen=True, kw_only=True)
class Timer(Row):
    """A hose timer: how it is set, and what its valve needs to open.

    ``minutes`` are a dial's marks, or the least and the most in steps of ``step_min``;
    ``most_starts`` is how often a day it can open, and so how many programs it holds; ``valves``
    how many zones it opens by itself; ``price`` is invented.
    """

    style: str
    price: float
    valve: str
    valves: int
    opens_kpa: float
    kv: float
    every_hours: tuple[int, ...]
    minutes: tuple[int, ...]
    weekdays: bool
    step_min: int
    most_starts: int


@dataclass(frozen=True, kw_only=True)
class PumpKind(Row):
    """A pump: its curve as text (``"0 11; 1000 9.5"``, L/h and m), what it draws, how it primes.

    ``needs_m`` is the head over vapour that its inlet needs, ``lifts_m`` how high it may stand
    over the water, ``starts_h`` how often an hour it may start, ``fails`` what most often ails it.
    """

    family: str
    points: str
    watts: float
    self_primes: str
    lifts_m: float
    needs_m: float
    starts_h: float
    price: float
    fails: str

    @property
    def curve(self) -> tuple[tuple[float, float], ...]:
        """(L/h, m) points."""
        pairs = (pair.split() for pair in self.points.split(";"))
        return tuple((float(q), float(h)) for q, h in pairs)


@dataclass(frozen=True, kw_only=True)
class Part(Row):
    """A thing to buy or make: its unit of sale, why it is there, what it may be swapped for.

    ``place`` is where it is put: store, head, line, pump, ground, or tool; ``price`` is one's
    or a metre's, from an invented price book.
    """

    sold_by: str
    need: str
    place: str
    price: float
    reason: str
    swap: str
