"""What the loop at a point is held to, and what may yet settle a loop that is over it."""

from lumbek.core.judging.check import Verdict, hold
from lumbek.core.protection.who import protective_device
from lumbek.core.protection.zs_limit import ZsLimit, device_limit, rcd_instead, zs_limit
from lumbek.core.study.study import Study

UNKNOWN_RCD = ("RCD of the circuit: it may be what disconnects",)
ONLY_RCD = "Too high for the overcurrent device: only the RCD disconnects."


def limit_at(study: Study, point: str) -> ZsLimit | None:
    """Return the limit at a point: where no figure is published for the device, an RCD's own is the one there is."""
    return zs_limit(study, point) or rcd_instead(study)


def rcd_may_serve(study: Study) -> bool:
    """Whether an RCD that is not known yet may be what disconnects."""
    unknown = any(each.rcd is None or each.rcd.rated_ma is None for each in study.rcds)
    return rcd_instead(study) is None and not study.ahead.behind_switch and unknown


def as_a_feed(study: Study, point: str, zs_ohm: float) -> str | None:
    """Return what would settle a loop that only the longer time of a distribution circuit allows; None where none."""
    if study.standing.feeds_only_boards is not None:
        return None
    longer = device_limit(study, protective_device(study, point), study.ahead.earthing, False, ())
    if longer is None or hold(zs_ohm, longer.ohm, "at most")[0] is Verdict.FAIL:
        return None
    return f"whether {study.circuit.point_title(point)} is another board, or equipment"
