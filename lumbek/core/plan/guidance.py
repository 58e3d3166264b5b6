"""The figures of a plan that guidance gives: heights, distances, alarms, what rooms want."""

import json
from collections.abc import Mapping
from functools import cache
from importlib.resources import files

from lumbek.core.rulebooks.rules import PackData


class Heights(PackData):
    """Heights above the finished floor in mm by what it is, to its middle; the reach that access asks for."""

    source: str
    least_mm: int
    most_mm: int
    mm: Mapping[str, int]


class AlarmRules(PackData):
    """How far an alarm reaches over the ceiling, and how far it is from walls and lights, in mm."""

    reach_mm: int
    from_wall_mm: int
    from_light_mm: int
    most_from_ceiling_mm: int
    source: str


class AlarmLevel(PackData):
    """A category of alarms: which rooms, by what their names have in them, have which kind."""

    name: str
    rooms: Mapping[str, tuple[str, ...]]
    source: str


class ClearRules(PackData):
    """How far cable keeps from data cable and from pipes, in mm."""

    data_mm: int
    data_advised_mm: int
    pipe_mm: int
    source: str


class PlanRules(PackData):
    """The file `plan.json`."""

    heights: Mapping[str, Heights]
    asked_of_access: tuple[str, ...]
    clear: ClearRules
    from_sink_mm: int
    leaf_return_mm: int
    alarms: Mapping[str, AlarmRules]
    co_least_mm: int
    alarm_levels: Mapping[str, tuple[AlarmLevel, ...]]
    usual: Mapping[str, Mapping[str, int] | str]


@cache
def plan_rules() -> PlanRules:
    """Return the figures that plans go by."""
    text = (files("lumbek.core.rulebooks") / "data" / "common" / "plan.json").read_text(encoding="utf-8")
    return PlanRules.model_validate(json.loads(text))


def height_by_use(rulebook: str, kind: str) -> int | None:
    """Return the usual height of something in mm above the finished floor; None where guidance has none."""
    return plan_rules().heights[rulebook].mm.get(kind)
