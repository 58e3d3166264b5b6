"""Switches and RCCBs: do they carry what flows, and are they protected against more?"""

import math
from typing import NamedTuple

from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question
from lumbek.core.model.device import Device
from lumbek.core.numbers import plain
from lumbek.core.protection.who import device_name
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


class _Told(NamedTuple):
    """What is to be said of one switch: what is wrong with it, what is missing, or a step of the working."""

    wrong: tuple[float, float, str] | None = None
    missing: str = ""
    step: Step | None = None


def _steps(study: Study, each: _Found, told: _Told) -> list[Step]:
    steps = [told.step] if told.step else []
    if each.before is None:
        return steps
    ahead = device_name(study.rulebook, each.before)
    return [Step(text=f"{each.name} behind {ahead}", sum=f"{plain(each.device.rating_a)} A"), *steps]


def _judged(each: _Found, last: bool, ib: float, own_a: float) -> _Told:
    """Hold a switch to what flows through it and to what guards it; `own_a` is the rating of the circuit's device."""
    rating = each.device.rating_a
    flows = max(ib, each.stated or 0.0)
    if flows > rating:
        return _Told(wrong=(flows, rating, "{value} A through it, rated {limit} A"))
    if each.before is None and each.stated is None:
        return _Told(missing="main fuse of the supply")
    before_a = each.before.rating_a if each.before else math.inf
    if before_a <= rating:
        return _Told()
    if last:
        return _Told(wrong=(each.before.rating_a if each.before else 0.0, rating, "behind {value} A, rated {limit} A"))
    return _of_all_behind(each, own_a)


def _of_all_behind(each: _Found, own_a: float) -> _Told:
    """Hold a switch that the device ahead does not guard to what hangs on it."""
    rating = each.device.rating_a
    if each.stated is not None:
        return _Told()
    if own_a > rating:
        return _Told(wrong=(own_a, rating, "a {value} A circuit behind it, rated {limit} A"))
    if each.at_board:
        return _Told(step=Step(text=f"What all circuits behind {each.name} draw together is asked of its board"))
    return _Told(missing=f"current of everything behind {each.name}")


def check_switches(study: Study) -> Check:
    """Rated current >= what flows, and >= the overcurrent device ahead, A (536.4.202).

    Where the device ahead is greater, only the sum of all that hangs on the switch can protect it, and must be
    stated; the breakers of other circuits are not known here.
    """
    found = _found(study)
    if not found:
        return QUESTION.not_applicable(study, "No switch or RCCB on the way")
    ib, own = study.currents.demand.ib_a if study.currents.demand else 0.0, study.circuit.device
    told = [(each, _judged(each, each.device is own, ib, own.rating_a)) for each in found]
    steps = tuple(step for each, one in told for step in _steps(study, each, one))
    for each, one in told:
        if one.wrong is not None:
            flows, rating, words = one.wrong
            words = f"{each.name}: {words}"
            return QUESTION.held(
                study, flows, rating, "at most", words, unit="A", decimals=1, place=study.whole, steps=steps
            )
    missing = dict.fromkeys(one.missing for _, one in told)
    missing.pop("", None)
    if missing:
        return QUESTION.cannot_tell(study, tuple(missing), steps=steps)
    return QUESTION.check(study, Verdict.PASS, f"{len(found)} carry what flows", place=study.whole, steps=steps)
