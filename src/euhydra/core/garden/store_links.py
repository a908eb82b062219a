"""Which stores share a level, and where each spills: read off the joints."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from euhydra.core.garden.stores import Joint

LEVELLING = ("link", "siphon")


def shared(stores: Iterable[str], joints: Iterable[Joint]) -> dict[str, str]:
    """For each store id the id of the first store that it shares a level with (its own if none)."""
    order = list(stores)
    first = {store: store for store in order}
    for joint in joints:
        if joint.kind in LEVELLING and joint.a in first and joint.b in first:
            one, other = sorted((first[joint.a], first[joint.b]), key=order.index)
            first = {store: one if at == other else at for store, at in first.items()}
    return first


def onward(first: Mapping[str, str], joints: Iterable[Joint], kind: str) -> dict[str, list[str]]:
    """Bank to banks that joints of this kind lead to; a joint inside one bank leads nowhere."""
    leads: dict[str, list[str]] = {}
    for joint in joints:
        a, b = first.get(joint.a, joint.a), first.get(joint.b, joint.b)
        if joint.kind == kind and a != b and b not in leads.setdefault(a, []):
            leads[a].append(b)
    return {a: to for a, to in leads.items() if to}


def require_leading_on(stores: Iterable[str], joints: tuple[Joint, ...]) -> None:
    """Raise ValueError for a joint from a store to itself, a forked overflow, or a ring."""
    for joint in joints:
        if joint.a == joint.b:
            raise ValueError(f"{joint.name} joins a store to itself")
    first = shared(stores, joints)
    for kind, noun in (("overflow", "overflows"), ("float", "float valves")):
        leads = onward(first, joints, kind)
        for a in leads:
            if kind == "overflow" and len(leads[a]) > 1:
                raise ValueError(f"the stores joined with “{a}” overflow two ways; one can be")
            if a in _reached(leads, a):
                raise ValueError(f"the {noun} run in a ring through “{a}”")


def _reached(leads: Mapping[str, list[str]], start: str) -> set[str]:
    seen: set[str] = set()
    ahead = list(leads.get(start, ()))
    while ahead:
        here = ahead.pop()
        if here not in seen:
            seen.add(here)
            ahead += leads.get(here, ())
    return seen
