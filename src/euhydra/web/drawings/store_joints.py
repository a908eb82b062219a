"""Where each store stands on Store's elevation, and what joins two of them."""

from __future__ import annotations

from dataclasses import dataclass

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.garden.model import Joint, Store
from euhydra.core.terrain.geometry import XY
from euhydra.web import svg

TOP = 92.0


@dataclass(frozen=True)
class Slot:
    """Where one store stands on the sheet: its left edge and the pitch of its vessels."""

    store: Store
    left: float
    wide: float
    drawn: int

    @property
    def right(self) -> float:
        """Its right edge."""
        return self.left + self.drawn * self.wide

    @property
    def middle(self) -> float:
        """Half way between its edges."""
        return (self.left + self.right) / 2


@dataclass(frozen=True)
class View:
    """The elevation's scale, its highest level and its foot, with every store's place."""

    z1: float
    scale: float
    foot: float
    slots: tuple[Slot, ...]

    def y(self, z_m: float) -> float:
        """A level's place on the sheet."""
        return TOP + (self.z1 - z_m) * self.scale

    def slot(self, store_id: str) -> Slot:
        """Where a store stands."""
        return next(s for s in self.slots if s.store.id == store_id)


def joined(view: View, joint: Joint) -> Markup:
    """A joint between two stores: a link, a hose over the rims, or what runs on from one."""
    a, b = sorted((view.slot(joint.a), view.slot(joint.b)), key=lambda s: s.left)
    way = view.slot(joint.a)
    ya, yb = (view.y(storage.base_z_m(s.store) + joint.end_m) for s in (a, b))
    xa, xb = a.right - 0.05 * view.scale - 8, b.left + 8
    if joint.kind == "link":
        return svg.path(f"M{xa:.1f} {ya:.1f}H{(xa + xb) / 2:.1f}V{yb:.1f}H{xb:.1f}", "d-pipe")
    if joint.kind == "siphon":
        over = min(view.y(storage.base_z_m(s.store) + s.store.height_m) for s in (a, b)) - 12
        return _siphon((xa, ya), (xb, yb), over)
    other = view.slot(joint.b)
    y0 = view.y(storage.full_z_m(way.store) if joint.kind == "overflow"
                else storage.base_z_m(way.store) + joint.end_m)
    y1 = view.y(storage.base_z_m(other.store) + other.store.height_m) - 4
    aside = other.wide * (0.7 if joint.kind == "float" else 0.5)
    x0, x1 = (xa + 8, xb + aside) if way is a else (xb - 8, xa - aside)
    floats = svg.el("circle", cx=x1, cy=y1 + 18, r=5, class_="d-white") if (
        joint.kind == "float") else ""
    return svg.el("g", svg.path(f"M{x0:.1f} {y0:.1f}H{(x0 + x1) / 2:.1f}V{min(y0, y1) - 4:.1f}"
                                f"H{x1:.1f}V{y1 + 12:.1f}" if y1 < y0 else
                                f"M{x0:.1f} {y0:.1f}H{x1:.1f}V{y1 + 12:.1f}",
                                "d-pipe" if joint.kind == "float" else "d-over"), floats)


def siphons(view: View, slot: Slot) -> list[Markup]:
    """A hose over the rims of each two barrels that stand side by side."""
    base, aside = storage.base_z_m(slot.store), 0.22 * slot.wide
    y, over = (view.y(base + slot.store.outlet_m), view.y(base + slot.store.height_m) - 12)
    between = (slot.left + n * slot.wide for n in range(1, slot.drawn))
    return [_siphon((x - aside, y), (x + aside, y), over) for x in between]


def _siphon(a: XY, b: XY, over: float) -> Markup:
    """A hose from one end up over a rim and down to the other."""
    return svg.path(f"M{a[0]:.1f} {a[1]:.1f}V{over + 8:.1f}Q{(a[0] + b[0]) / 2:.1f} "
                    f"{over - 14:.1f} {b[0]:.1f} {over + 8:.1f}V{b[1]:.1f}", "d-hose")
