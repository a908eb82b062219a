"""A garden's whole reckoning as plain text or as data with stable keys."""

from __future__ import annotations

import math
from typing import Any

from euhydra.core import units
from euhydra.core.assessment.assess import STATIONS, Assessment
from euhydra.core.statements.figures import Figure
from euhydra.core.statements.findings import Finding
from euhydra.core.units import System

FORMAT = "euhydra-report/1"


def as_data(assessment: Assessment, system: System) -> dict[str, Any]:
    """``{"format", "garden", "stations": {"catch": {"figures": […], "findings": […]}, …}}``.

    Values are in the unit named beside them, that of the system asked for.
    """
    stations = {}
    for key in STATIONS:
        station = assessment.station(key)
        stations[key] = {
            "state": station.state, "verdict": station.verdict.show(system),
            "figures": [figure_data(f, system) for f in station.figures],
            "findings": [_finding(f, system) for f in station.findings]}
    return {"format": FORMAT, "garden": assessment.garden.id, "stations": stations}


def as_text(assessment: Assessment, system: System) -> str:
    """Every station in turn: its sentence, findings with remedies, figures."""
    lines = [assessment.garden.name, "=" * len(assessment.garden.name)]
    for key in STATIONS:
        station = assessment.station(key)
        lines += ["", f"{station.name}: {station.verdict.show(system)}"]
        for finding in station.findings:
            lines.append(f"  [{finding.level}] {finding.title.show(system)}. "
                         f"{finding.why.show(system)}")
            lines += [f"      - {x.label.show(system)}: {x.effect.show(system)}"
                      for x in finding.remedies]
        lines += [f"  {f.name}: {f.amount.show(system)}" for f in station.figures]
    return "\n".join(lines) + "\n"


def figure_data(figure: Figure, system: System) -> dict[str, Any]:
    """A figure as it stands in the report's data; without a value where it has no end."""
    value = units.convert(float(figure.amount.value), figure.amount.kind, system)
    return {"key": figure.key, "name": figure.name,
            "value": value if math.isfinite(value) else None,
            "unit": units.unit_label(figure.amount.kind, system),
            "shown": figure.amount.show(system), "working": figure.working.text(system)}


def _finding(finding: Finding, system: System) -> dict[str, Any]:
    return {"rule": finding.rule, "level": finding.level, "title": finding.title.show(system),
            "why": finding.why.show(system),
            "remedies": [{"key": x.key, "label": x.label.show(system),
                          "effect": x.effect.show(system)} for x in finding.remedies]}
