"""Switches and RCCBs: do they carry what flows, and are they protected against more?"""

from typing import NamedTuple

from lumbek.core.model.device import Device
from lumbek.core.numbers import plain
from lumbek.core.protection.who import device_name
from lumbek.core.question import Question
from lumbek.core.result import Check, Step, Verdict
from lumbek.core.study.study import Study

QUESTION = Question(
    "switches",
    "Switches and RCCBs",
    "Does each switch and RCCB carry what flows through it, and is it protected?",
    "switch-rating",
)


class _Found(NamedTuple):
    """A switch on the way: the overcurrent device before it, what is stated to flow there in A, whether all of its
    board is asked of that.
    """

    name: str
    device: Device
    before: Device | None
    stated: float | None
    at_board: bool = False


def _found(study: Study) -> list[_Found]:
    """Return each switch on the way, from the origin on."""
    before = study.ahead.main_fuse
    found: list[_Found] = []
    for ahead in study.circuit.ahead:
        if ahead.device is None:
            continue
        if study.rulebook.protects(ahead.device):
            before = ahead.device
        else:
            name = ahead.name or device_name(study.rulebook, ahead.device)
            found.append(_Found(name, ahead.device, before, ahead.current_a, ahead.at_board))
    if study.ahead.behind_switch:
        found.append(_Found(device_name(study.rulebook, study.circuit.device), study.circuit.device, before, None))
    return found


def check_switches(study: Study) -> Check:
    """Rated current >= what flows, and >= the overcurrent device ahead, A (536.4.202).

    Where the device ahead is greater, only the sum of all that hangs on the switch can protect it, and must be
    stated; the breakers of other circuits are not known here.
    """
    found = _found(study)
    if not found:
        return QUESTION.not_applicable(study, "No switch or RCCB on the way")
    ib = study.currents.demand.ib_a if study.currents.demand else 0.0
    own = study.circuit.device.rating_a
    steps, missing = [], list[str]()
    worst: tuple[float, str, float, str] | None = None
    for name, device, before, stated, at_board in found:
        rating = device.rating_a
        last = device is study.circuit.device
        flows = max(ib, stated or 0.0)
        if before is not None:
            steps.append(Step(text=f"{name} behind {device_name(study.rulebook, before)}", sum=f"{plain(rating)} A"))
        guarded = before is not None and before.rating_a <= rating
        if flows > rating:
            worst = worst or (flows, name, rating, "{value} A through it, rated {limit} A")
        elif before is None and stated is None:
            missing.append("main fuse of the supply")
        elif not guarded and last:
            limit = before.rating_a if before else 0.0
            worst = worst or (limit, name, rating, "behind {value} A, rated {limit} A")
        elif not guarded and stated is None and own > rating:
            worst = worst or (own, name, rating, "a {value} A circuit behind it, rated {limit} A")
        elif not guarded and stated is None and at_board:
            steps.append(Step(text=f"What all circuits behind {name} draw together is asked of its board"))
        elif not guarded and stated is None:
            missing.append(f"current of everything behind {name}")
    if worst is not None:
        flows, name, rating, words = worst
        return QUESTION.held(
            study,
            flows,
            rating,
            "at most",
            f"{name}: {words}",
            unit="A",
            decimals=1,
            place=study.whole,
            steps=tuple(steps),
        )
    if missing:
        return QUESTION.cannot_tell(study, tuple(dict.fromkeys(missing)), steps=tuple(steps))
    return QUESTION.check(study, Verdict.PASS, f"{len(found)} carry what flows", place=study.whole, steps=tuple(steps))
