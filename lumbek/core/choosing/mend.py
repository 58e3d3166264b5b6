"""The smallest changes that make a failing circuit pass, each of them tried and judged."""

from collections.abc import Iterator
from dataclasses import dataclass

from lumbek.core.checks.arc_fault import required_here
from lumbek.core.checks.overload import needed_iz_a
from lumbek.core.choosing.reach import reach
from lumbek.core.circuit.presets import USUAL_RCD
from lumbek.core.judgement import judge_circuit
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.supply import Supply
from lumbek.core.numbers import floor_to, plain
from lumbek.core.result import Verdict
from lumbek.core.rulebooks import Rulebook
from lumbek.core.study.door import study_of
from lumbek.core.study.read import NOT_READ, Read, still_read
from lumbek.core.study.study import Study
from lumbek.core.value import Frozen


class Mend(Frozen):
    """One change, what it mends, what still fails after it, and the circuit with it made.

    What is `elsewhere` is done at the board: a feed, a device on the way, an RCD that circuits share.
    """

    change: str
    mends: tuple[str, ...]
    leaves: tuple[str, ...]
    elsewhere: bool
    design: Circuit


@dataclass(frozen=True)
class _Try:
    words: str
    design: Circuit


def mend(rulebook: Rulebook, supply: Supply, circuit: Circuit, read: Read = NOT_READ) -> tuple[Mend, ...]:
    """Return the changes that mend at least one failing check and break none, whole repairs first.

    Tried one at a time, small before large: device curve and RCD, rating, method of a leg, size of a leg, size of
    the whole run, a shorter run.
    """
    failing = _failing(rulebook, supply, circuit, read)
    if not failing:
        return ()
    found: list[Mend] = []
    for attempt in _tries(rulebook, supply, circuit):
        left = _failing(rulebook, supply, attempt.design, still_read(read, circuit, attempt.design))
        if set(left) < set(failing):
            mends = tuple(title for title in failing if title not in left)
            design = attempt.design
            elsewhere = design.ahead != circuit.ahead or (_shares(design) and not _shares(circuit))
            found.append(
                Mend(change=attempt.words, mends=mends, leaves=tuple(left), elsewhere=elsewhere, design=design)
            )
    return tuple(sorted(found, key=lambda each: len(each.leaves)))


def _shares(circuit: Circuit) -> bool:
    """Whether a circuit's RCD is one that it shares."""
    return circuit.device.known_rcd is not None and circuit.device.known_rcd.shared


def _failing(rulebook: Rulebook, supply: Supply, circuit: Circuit, read: Read) -> list[str]:
    checks = judge_circuit(rulebook, supply, circuit, read).checks
    return [check.title for check in checks if check.verdict is Verdict.FAIL]


def _tries(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> Iterator[_Try]:
    study = study_of(rulebook, supply, circuit).longest
    # The study has its lengths settled; what is proposed keeps them as they are known.
    yield from _device_tries(study, circuit)
    yield from _leg_tries(study, circuit)
    yield from _ahead_tries(study, circuit)
    larger = [
        csa
        for csa in rulebook.listed_csas(circuit.cable, circuit.method, 2 if study.phases == 1 else 3)
        if csa > circuit.cable.csa_mm2
    ]
    for csa in larger[:3]:
        cable = circuit.cable.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})
        yield _Try(f"The whole run in {plain(csa)} mm²", circuit.model_copy(update={"cable": cable}))
    yield from _shorter(rulebook, supply, circuit)


def _device_tries(study: Study, circuit: Circuit) -> Iterator[_Try]:
    rulebook, device = study.rulebook, circuit.device

    def with_device(**changes: object) -> Circuit:
        # What its maker says it lets through is said of this device, not of another.
        changed = Device.model_validate({**device.model_dump(), "let_through_a2s": None, **changes})
        return circuit.model_copy(update={"device": changed})

    known = device.known_rcd
    if known is None or not known.is_additional(rulebook.data.rcd.most_ma):
        # An RCD in the device itself makes a breaker an RCBO; beside a fuse it is one of its own.
        own = {"standard": "bs-en-61009"} if device.standard == "bs-en-60898" else {}
        rcd = USUAL_RCD.model_copy(update={"shared": not own and device.standard != "bs-en-61009"})
        yield _Try(f"A {plain(rulebook.data.rcd.most_ma)} mA RCD, type {rcd.type}", with_device(rcd=rcd, **own))
    if known is not None:
        for kind in ("A", "F", "B"):
            if kind != known.type:
                yield _Try(f"An RCD of type {kind}", with_device(rcd=known.model_copy(update={"type": kind})))
    if not device.afdd and required_here(study):
        yield _Try("Arc-fault detection", with_device(afdd=True))
    for curve in ("B", "C"):
        if device.curve is not None and curve < device.curve:
            yield _Try(f"Type {curve} instead of {device.curve}", with_device(curve=curve))
    kind_of = rulebook.devices[device.standard]
    for capacity in kind_of.breaking_capacities_ka:
        if device.breaking_capacity_ka is None or capacity > device.breaking_capacity_ka:
            yield _Try(f"A device that breaks {plain(capacity)} kA", with_device(breaking_capacity_ka=capacity))
    nearest = sorted(kind_of.ratings_a, key=lambda rating: abs(rating - device.rating_a))
    for rating in nearest[:6]:
        if rating != device.rating_a:
            yield _Try(f"{plain(rating)} A instead of {plain(device.rating_a)} A", with_device(rating_a=rating))
    if study.ahead.behind_switch:
        for rating in rulebook.devices["bs-en-61009"].ratings_a:
            if study.currents.demand is None or rating >= study.currents.demand.ib_a or rating >= 16:
                changed = Device(rating_a=rating, breaking_capacity_ka=rulebook.usual_breaking_ka(None), rcd=USUAL_RCD)
                yield _Try(
                    f"An RCBO of {plain(rating)} A in place of the switch",
                    circuit.model_copy(update={"device": changed}),
                )
    for point in circuit.points:
        if point.kind == "fused-spur":
            for fuse in (3, 5):
                if fuse < (point.fuse_a or 13):
                    fused = point.model_copy(update={"fuse_a": fuse})
                    points = tuple(fused if each.id == point.id else each for each in circuit.points)
                    yield _Try(f"A {fuse} A fuse in {point.title}", circuit.model_copy(update={"points": points}))


def _leg_tries(study: Study, circuit: Circuit) -> Iterator[_Try]:
    """Try another method or a larger size for each leg that fails by itself."""
    rulebook, legs = study.rulebook, {leg.id: leg for leg in circuit.legs}
    short = [
        leg_id
        for leg_id, capacities in study.capacities.items()
        if any(capacity.iz_a is not None and capacity.iz_a < needed_iz_a(study, leg_id)[0] for capacity in capacities)
    ]
    for leg_id in short[:4]:
        leg = legs[leg_id]
        title = circuit.leg_title(leg)
        title = title[:1].upper() + title[1:]
        if any(segment.method not in (None, "C") or segment.grouped_circuits > 1 for segment in leg.segments):
            clear = tuple(
                segment.model_copy(update={"method": "C", "grouped_circuits": 1, "insulation_mm": 0.0})
                for segment in leg.segments
            )
            yield _Try(f"{title}: clipped direct, clear of insulation", _with_leg(circuit, leg, segments=clear))
        cable = circuit.cable_of(leg)
        for csa in [each for each in rulebook.listed_csas(cable, circuit.method) if each > cable.csa_mm2][:3]:
            thicker: Cable = cable.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})
            yield _Try(f"{title}: {plain(csa)} mm²", _with_leg(circuit, leg, cable=thicker))


def _ahead_tries(study: Study, circuit: Circuit) -> Iterator[_Try]:
    """Try a thicker feed, and another device ahead: one that breaks more, one of a lower rating."""
    rulebook = study.rulebook
    loaded = 3 if study.supply.phases == 3 else 2

    def with_ahead(index: int, **changes: object) -> Circuit:
        ahead = list(circuit.ahead)
        ahead[index] = ahead[index].model_copy(update=changes)
        return circuit.model_copy(update={"ahead": tuple(ahead)})

    for index, each in enumerate(circuit.ahead):
        if each.feed is not None:
            sizes = rulebook.listed_csas(each.feed, each.method, loaded)
            for csa in [size for size in sizes if size > each.feed.csa_mm2][:3]:
                feed = each.feed.model_copy(update={"csa_mm2": csa, "cpc_mm2": None})
                yield _Try(f"{each.name or 'The feed'} in {plain(csa)} mm²", with_ahead(index, feed=feed))
        elif each.device is not None:
            name, kind_of = each.name or "The device ahead", rulebook.devices[each.device.standard]
            for capacity in kind_of.breaking_capacities_ka:
                if capacity > (each.device.breaking_capacity_ka or 0):
                    device = each.device.model_copy(update={"breaking_capacity_ka": capacity})
                    yield _Try(f"{name} to break {plain(capacity)} kA", with_ahead(index, device=device))
            lower = [rating for rating in kind_of.ratings_a if rating < each.device.rating_a]
            for rating in sorted(lower, reverse=True)[:3]:
                device = each.device.model_copy(update={"rating_a": rating})
                yield _Try(f"{name} at {plain(rating)} A", with_ahead(index, device=device))


def _with_leg(circuit: Circuit, leg: Leg, **changes: object) -> Circuit:
    changed = leg.model_copy(update=changes)
    return circuit.model_copy(update={"legs": tuple(changed if each.id == leg.id else each for each in circuit.legs)})


def _shorter(rulebook: Rulebook, supply: Supply, circuit: Circuit) -> Iterator[_Try]:
    """Try the whole run as short as its failing length limits allow."""
    limits = [limit.factor for limit in reach(rulebook, supply, circuit).limits]
    factor = min(limits, default=1.0)
    if not 0.05 < factor < 1:
        return
    # A hair shorter than the limit, so that rounding cannot bring it back over.
    part = floor_to(factor, 4) - 0.0001
    legs = tuple(
        leg.model_copy(update={"segments": tuple(_shortened(segment, part) for segment in leg.segments)})
        for leg in circuit.legs
    )
    yield _Try(
        f"A run no longer than {floor_to(100 * part, 0):.0f} % of this", circuit.model_copy(update={"legs": legs})
    )


def _shortened(segment: Segment, part: float) -> Segment:
    lengths = {name: getattr(segment, name) for name in ("length_m", "length_to_m")}
    return segment.model_copy(
        update={name: None if length is None else length * part for name, length in lengths.items()}
    )
