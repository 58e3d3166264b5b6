"""What a voltage drop is held to at a point."""

from lumbek.core.model.point import PASSIVE_KINDS
from lumbek.core.study.study import Study


def drop_limit_percent(study: Study, point_id: str) -> float:
    """Return the greatest drop at a point in percent: a light's own, wherever it hangs.

    At what draws nothing itself the limit is that of lights on a circuit that feeds nothing else.
    """
    standing, point = study.standing, study.points[point_id]
    passive = point.kind in PASSIVE_KINDS and not point.loads
    return study.rulebook.volt_drop_limit_percent(point_id in standing.light_ids or (passive and standing.only_lights))
