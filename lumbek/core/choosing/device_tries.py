"""Other protection for a failing circuit: its device, its RCD, an RCBO behind a switch, a fuse ahead of a load."""

from collections.abc import Iterator

from lumbek.core.checks.arc_fault import required_here
from lumbek.core.choosing.attempt import PART, Try
from lumbek.core.circuit.presets import USUAL_RCD
from lumbek.core.circuit.usual import least_usual_a
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device
from lumbek.core.numbers import plain
from lumbek.core.study.study import Study


def device_tries(study: Study, circuit: Circuit, rating_rank: int) -> Iterator[Try]:
    """Yield other protection, each as one change; another rating takes `rating_rank` in the order."""
    yield from _rcd_tries(study, circuit)
    yield from _breaker_tries(study, circuit, rating_rank)
    if study.ahead.behind_switch:
        yield from _rcbo_tries(study, circuit)
    yield from _fuse_tries(circuit)


def _with_device(circuit: Circuit, **changes: object) -> Circuit:
    # What its maker says it lets through is said of this device, not of another.
    changed = Device.model_validate({**circuit.device.model_dump(), "let_through_a2s": None, **changes})
    return circuit.model_copy(update={"device": changed})


def _rcd_tries(study: Study, circuit: Circuit) -> Iterator[Try]:
    """Yield an RCD for additional protection where there is none, and other types of the one there is."""
    rulebook, device = study.rulebook, circuit.device
    known = device.known_rcd
    if known is None or not known.is_additional(rulebook.data.rcd.most_ma):
        # An RCD in the device itself makes a breaker an RCBO; beside a fuse it is one of its own.
        own = {"standard": "bs-en-61009"} if device.standard == "bs-en-60898" else {}
        rcd = USUAL_RCD.model_copy(update={"shared": not own and device.standard != "bs-en-61009"})
        yield Try(
            f"A {plain(rulebook.data.rcd.most_ma)} mA RCD, type {rcd.type}", _with_device(circuit, rcd=rcd, **own), PART
        )
    if known is not None:
        for kind in ("A", "F", "B"):
            if kind != known.type:
                yield Try(
                    f"An RCD of type {kind}", _with_device(circuit, rcd=known.model_copy(update={"type": kind})), PART
                )


def _breaker_tries(study: Study, circuit: Circuit, rating_rank: int) -> Iterator[Try]:
    """Yield arc-fault detection, a curve or capacity, and ratings, none less than usual for what the circuit feeds."""
    rulebook, device = study.rulebook, circuit.device
    least = least_usual_a(rulebook, circuit)
    if not device.afdd and required_here(study):
        yield Try("Arc-fault detection", _with_device(circuit, afdd=True), PART)
    for curve in ("B", "C"):
        if device.curve is not None and curve < device.curve:
            yield Try(f"Type {curve} instead of {device.curve}", _with_device(circuit, curve=curve), PART)
    yield from _rating_tries(study, circuit, rating_rank, least)


def _rating_tries(study: Study, circuit: Circuit, rating_rank: int, least: float) -> Iterator[Try]:
    """Yield a device that breaks more, and other ratings, the nearest first."""
    device = circuit.device
    kind_of = study.rulebook.devices[device.standard]
    for capacity in kind_of.breaking_capacities_ka:
        if device.breaking_capacity_ka is None or capacity > device.breaking_capacity_ka:
            yield Try(
                f"A device that breaks {plain(capacity)} kA", _with_device(circuit, breaking_capacity_ka=capacity), PART
            )
    nearest = sorted(kind_of.ratings_a, key=lambda rating: abs(rating - device.rating_a))
    for rating in nearest[:6]:
        if rating != device.rating_a and rating >= least:
            words = f"{plain(rating)} A instead of {plain(device.rating_a)} A"
            yield Try(words, _with_device(circuit, rating_a=rating), rating_rank)


def _rcbo_tries(study: Study, circuit: Circuit) -> Iterator[Try]:
    """Yield an RCBO of its own for a circuit behind a switch that it shares."""
    rulebook = study.rulebook
    least = least_usual_a(rulebook, circuit)
    for rating in rulebook.devices["bs-en-61009"].ratings_a:
        if rating >= least:
            own = Device(rating_a=rating, breaking_capacity_ka=rulebook.usual_breaking_ka(None), rcd=USUAL_RCD)
            changed = circuit.model_copy(update={"device": own})
            yield Try(f"An RCBO of {plain(rating)} A in place of the switch", changed, PART)


def _fuse_tries(circuit: Circuit) -> Iterator[Try]:
    """Yield a smaller fuse in each fused connection unit."""
    for point in circuit.points:
        if point.kind == "fused-spur":
            for fuse in (3, 5):
                if fuse < (point.fuse_a or 13):
                    fused = point.model_copy(update={"fuse_a": fuse})
                    points = tuple(fused if each.id == point.id else each for each in circuit.points)
                    changed = circuit.model_copy(update={"points": points})
                    yield Try(f"A {fuse} A fuse in {point.title}", changed, PART)
