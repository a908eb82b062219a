"""Store: every store in elevation at its own level, with what joins them."""

from __future__ import annotations

from markupsafe import Markup

from euhydra.core import storage
from euhydra.core.garden.model import Store
from euhydra.core.hydraulics.surfaces import level_at
from euhydra.web import svg
from euhydra.web.drawings.store_joints import TOP, Slot, View, joined, siphons
from euhydra.web.sheet import Sheet

WIDTH, LEFT, RIGHT, TALLEST = 850.0, 150.0, 720.0, 370.0
EARTH = 86.0  # of it under the lowest ground
MOST_DRAWN = 4
GAP_M = 0.35
SOURCE_CLASS = {"R": "d-pipe", "T": "d-pipe d-pipe-tap", "W": "d-pipe d-pipe-well",
                "G": "d-pipe d-pipe-grey"}


def elevation(sheet: Sheet) -> Markup:
    """Every store to scale: full and dead water, outlets, joints, overflow, stand and ground."""
    if not sheet.garden.stores:
        words = sheet.assessment.station("store").verdict.show(sheet.system)
        return svg.svg(WIDTH, 120, "No store", [svg.text(WIDTH / 2, 60, words, "d-name", "middle")])
    view = _view(sheet)
    chosen = view.slot(sheet.chosen_store.id)
    parts = [*_ground(view)]
    for slot in view.slots:
        parts += [*_stand(view, slot), *_vessels(sheet, view, slot), *_inlets(sheet, view, slot),
                  *_words(sheet, view, slot)]
    parts += [joined(view, joint) for joint in sheet.garden.joints]
    parts += _shared_levels(sheet, view)
    parts += _dimensions(sheet, view, chosen)
    parts += [svg.to_pick(
        f"/g/{sheet.garden.id}/store?view=bank&store={s.store.id}&level={sheet.level}",
        f"{s.store.name}: its measures", s.left - 10, TOP - 16, s.right - s.left + 20,
        view.foot - TOP + 10) for s in view.slots if s is not chosen]
    if sheet.before:
        parts += _ghost(sheet, view)
    return svg.svg(WIDTH, view.foot, "The stores in elevation, to scale", parts, interactive=True)


def _view(sheet: Sheet) -> View:
    stores = sheet.garden.stores
    old = sheet.before.garden.stores if sheet.before else ()
    low = min(s.ground_m for s in stores)
    high = max(storage.base_z_m(s) + s.height_m for s in (*stores, *old))
    drawn = [min(s.count, MOST_DRAWN) for s in stores]
    wide = sum(n * (storage.length_m(s) + 0.05) for n, s in zip(drawn, stores, strict=True))
    wide += GAP_M * (len(stores) - 1)
    scale = min(TALLEST / max(high - low, 0.4), (RIGHT - LEFT) / wide, 300)
    x, slots = LEFT + max(0.0, (RIGHT - LEFT - wide * scale) / 2), []
    for n, store in zip(drawn, stores, strict=True):
        pitch = (storage.length_m(store) + 0.05) * scale
        slots.append(Slot(store, x, pitch, n))
        x += n * pitch + GAP_M * scale
    return View(high, scale, TOP + (high - low) * scale + EARTH, tuple(slots))


def _ground(view: View) -> list[Markup]:
    edge, before = f"M0 {view.y(view.slots[0].store.ground_m):.1f}", None
    for slot in view.slots:
        if before is not None:
            edge += f"H{(before.right + slot.left) / 2:.1f}"
        edge += f"V{view.y(slot.store.ground_m):.1f}"
        before = slot
    edge += f"H{WIDTH}"
    return [svg.path(f"{edge}V{view.foot:.1f}H0Z", "", fill="url(#earth)"),
            svg.path(edge, "d-ground")]


def _stand(view: View, slot: Slot) -> list[Markup]:
    store = slot.store
    if store.stand_m <= 0:
        return []
    base, ground = view.y(storage.base_z_m(store)), view.y(store.ground_m)
    return [svg.path(f"M{slot.left - 2:.1f} {ground:.1f}V{base:.1f}H{slot.right:.1f}V{ground:.1f}"
                     + "".join(f"M{slot.left + i * slot.wide:.1f} {base:.1f}V{ground:.1f}"
                               for i in range(1, slot.drawn)), "d-ink", stroke_width=2.6)]


def _levels(sheet: Sheet, store: Store) -> tuple[float, float]:
    """The bank's water level shown, and the level under which this store's water stays."""
    banks = sheet.assessment.banks
    bank = banks.holding(store.id)
    shown = level_at(sheet.garden, store.id, sheet.water_share) if (
        sheet.level != "full") else bank.full_z_m
    end = bank.ends_m[bank.stores.index(store)]
    kept = max(end, store.outlet_m) if len(bank.stores) == 1 or store.id in storage.drawn_from(
        sheet.garden) else end
    return shown, storage.base_z_m(store) + kept


def _reached(sheet: Sheet, store: Store) -> bool:
    """Whether any line draws on a store's water; all of it counts where none does anywhere."""
    a = sheet.assessment
    return not a.reached or a.banks.of_store[store.id] in a.reached


def _reach(sheet: Sheet, store: Store) -> str:
    """How much of a store the lines reach, where there is more than one bank."""
    a = sheet.assessment
    if len(a.banks.banks) < 2 or not a.reached:
        return ""
    if not _reached(sheet, store):
        return "no line reaches it"
    bank = a.banks.holding(store.id)
    return f"{sheet.show(bank.usable_l, 'volume')} for the lines" if (
        store is bank.stores[0]) else ""


def _vessels(sheet: Sheet, view: View, slot: Slot) -> list[Markup]:
    store, parts = slot.store, []
    base, top = storage.base_z_m(store), storage.base_z_m(store) + store.height_m
    shown, dead = _levels(sheet, store)
    if not _reached(sheet, store):
        dead = max(shown, dead)
    water = min(max(shown, dead), storage.full_z_m(store))
    shape = storage.SHAPES[store.shape]
    round_ = min(shape.corner_px, (view.y(base) - view.y(top)) / 2)
    for i in range(slot.drawn):
        x, wide = slot.left + i * slot.wide, slot.wide - 0.05 * view.scale
        clip = f"v-{store.id}-{i}"
        shell = svg.rect(x, view.y(top), wide, view.y(base) - view.y(top), "d-barrel", rx=round_)
        parts += [
            svg.el("clipPath", svg.el("rect", x=x, y=view.y(top), width=wide,
                                      height=view.y(base) - view.y(top), rx=round_), id=clip),
            shell,
            svg.el("g", svg.rect(x, view.y(water), wide, view.y(dead) - view.y(water), "d-water"),
                   svg.rect(x, view.y(min(dead, water)), wide,
                            view.y(base) - view.y(min(dead, water)), "d-water d-unreached"),
                   svg.path(f"M{x:.1f} {view.y(dead):.1f}h{wide:.1f}", "d-dead"),
                   clip_path=f"url(#{clip})"),
            svg.rect(x, view.y(top), wide, view.y(base) - view.y(top), "d-ink", rx=round_,
                     stroke_width=1.6)]
        if shape.lidded:
            parts.append(svg.path(f"M{x - 2:.1f} {view.y(top):.1f}h{wide + 4:.1f}", "d-ink",
                                  stroke_width=4))
        if store.intake == "floating" and store.id in storage.drawn_from(sheet.garden):
            parts.append(_floating(view, x, wide, water, base + store.outlet_m))
    if store.count > 1 and store.linked == "siphon":
        parts += siphons(view, slot)
    elif store.count > 1:
        y = view.y(base + store.outlet_m)
        parts.append(svg.path(f"M{slot.left + slot.wide * 0.6:.1f} {y:.1f}"
                              f"H{slot.left + slot.wide * (slot.drawn - 0.6):.1f}", "d-pipe"))
    return [*parts, *_outlets(sheet, view, slot)]


def _floating(view: View, x: float, wide: float, water: float, outlet: float) -> Markup:
    """A floating intake: a hose from the outlet up to just under the surface."""
    fx, fy = x + wide * 0.45, view.y(water)
    return svg.el("g", svg.path(f"M{x + wide:.1f} {view.y(outlet):.1f}L{fx:.1f} {fy + 14:.1f}",
                                "d-hose"),
                  svg.el("circle", cx=fx, cy=fy, r=5, class_="d-white"))


def _outlets(sheet: Sheet, view: View, slot: Slot) -> list[Markup]:
    store, base, x = slot.store, storage.base_z_m(slot.store), slot.right - 0.05 * view.scale
    parts = []
    if store.id in storage.drawn_from(sheet.garden):
        parts.append(svg.path(f"M{x:.1f} {view.y(base + store.outlet_m):.1f}h14v7", "d-pipe"))
    if store.hose_m > 0:
        parts.append(svg.path(f"M{x:.1f} {view.y(base + store.hose_m):.1f}h9v5", "d-ink",
                              stroke_width=2.4))
    led_on = {j.a for j in sheet.garden.joints if j.kind == "overflow"}
    if store.id not in led_on:
        y = view.y(storage.full_z_m(store))
        parts += [svg.path(f"M{x:.1f} {y:.1f}h8v{max(view.y(base) - y - 6, 6):.1f}", "d-over")]
    return parts


def _inlets(sheet: Sheet, view: View, slot: Slot) -> list[Markup]:
    """A pipe down into it for every source, each with its letter and dash."""
    garden, store = sheet.garden, slot.store
    letters = ["R" for roof in garden.roofs for d in roof.downspouts if d.to == store.id]
    letters += ["T" for tap in garden.taps if tap.tops_up == store.id]
    letters += ["W" for well in garden.wells if well.tops_up == store.id]
    top = view.y(storage.base_z_m(store) + store.height_m)
    parts = []
    for i, letter in enumerate(letters):
        x = slot.left + 12 + i * 20
        gap = 12 if letter == "T" else -6  # a tap falls through an air gap
        parts += [svg.path(f"M{x:.1f} {top - 40:.1f}V{top - gap:.1f}", SOURCE_CLASS[letter]),
                  svg.text(x, top - 45, letter, "d-name", "middle")]
    return parts


def _words(sheet: Sheet, view: View, slot: Slot) -> list[Markup]:
    store = slot.store
    ground = view.y(store.ground_m)
    size = sheet.show(store.volume_l, "volume")
    name = store.name if len(store.name) <= 16 else store.name[:15] + "…"
    return [svg.text(slot.middle, ground + 20, name, "d-name d-halo-earth", "middle"),
            svg.text(slot.middle, ground + 37,
                     f"{store.count} × {size}" if store.count > 1 else size,
                     "d-dim d-halo-earth", "middle"),
            svg.text(slot.middle, ground + 53, sheet.show(storage.full_mass_kg(store), "mass"),
                     "d-lab d-halo-earth", "middle"),
            *([svg.text(slot.middle, ground + 69, reach, "d-lab d-halo-earth", "middle")]
              if (reach := _reach(sheet, store)) else [])]


def _shared_levels(sheet: Sheet, view: View) -> list[Markup]:
    """One dashed line through the stores of a bank at their common level."""
    parts = []
    for bank in sheet.assessment.banks.banks:
        if len(bank.stores) < 2:
            continue
        slots = [view.slot(store.id) for store in bank.stores]
        z = _levels(sheet, bank.stores[0])[0]
        parts += [svg.path(f"M{min(s.left for s in slots) - 14:.1f} {view.y(z):.1f}"
                           f"H{max(s.right for s in slots) + 12:.1f}", "d-still"),
                  svg.text(745, view.y(z) - 5, f"level {sheet.show(z, 'length')}",
                           "d-mute d-halo", "end")]
    return parts


def _dimensions(sheet: Sheet, view: View, slot: Slot) -> list[Markup]:
    """Fields of the chosen store, on dimension lines at the left and the right."""
    store, at = slot.store, sheet.fields.at
    path, base = f"stores/{store.id}", storage.base_z_m(store)
    top, ground = view.y(base + store.height_m), view.y(store.ground_m)
    y_base = view.y(base)
    high = max((top + y_base) / 2 - 22, 44)
    low = max((y_base + ground) / 2 - 8, high + 56)
    full, outlet = view.y(storage.full_z_m(store)), view.y(base + store.outlet_m)
    right_low = max(outlet - 12, full + 50)
    return [
        svg.path(f"M100 {top:.1f}H{slot.left - 4:.1f}M100 {y_base:.1f}H{slot.left - 4:.1f}"
                 f"M100 {ground:.1f}H{slot.left - 4:.1f}", "d-rule"),
        svg.upright(106, top, y_base), svg.field(12, high, at(f"{path}/height_m", store.name)),
        svg.upright(106, y_base, ground), svg.field(12, low, at(f"{path}/stand_m", store.name)),
        svg.path(f"M{slot.right + 6:.1f} {full:.1f}H748M{slot.right + 16:.1f} {outlet:.1f}H748",
                 "d-rule"),
        svg.field(752, max(full - 14, 30), at(f"{path}/overflow_down_m", store.name,
                                              "overflow under rim")),
        svg.field(752, right_low, at(f"{path}/outlet_m", store.name, "outlet above base"))]


def _ghost(sheet: Sheet, view: View) -> list[Markup]:
    """How each store stood before a remedy was tried on, at the same scale."""
    parts = []
    for old in sheet.before.garden.stores if sheet.before else ():
        slot = next((s for s in view.slots if s.store.id == old.id), None)
        if slot is None or slot.store == old:
            continue
        base, top = (view.y(storage.base_z_m(old) + h) for h in (0, old.height_m))
        wide = min(old.count, MOST_DRAWN) * (storage.length_m(old) + 0.05) * view.scale
        parts += [svg.path(f"M{slot.left - 5:.1f} {base:.1f}h{wide + 6:.1f}V{top - 5:.1f}"
                           f"h{-wide - 6:.1f}Z", "d-ghost"),
                  svg.text(slot.left, 22, f"before: {old.count} × "
                           f"{sheet.show(old.volume_l, 'volume')} on a stand of "
                           f"{sheet.show(old.stand_m, 'length')}", "ghost-text")]
    return parts
