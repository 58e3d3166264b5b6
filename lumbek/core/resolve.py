"""Settling what is not known of a circuit: lengths from a measured resistance, and ranges of lengths."""

from lumbek.core.model.circuit import Circuit, Leg
from lumbek.core.numbers import plain, show
from lumbek.core.result import Frozen
from lumbek.core.rulebooks import Rulebook

# Beyond this many legs with a range, single legs are no longer tried one by one.
_MOST_SINGLE = 10


class Resolved(Frozen):
    """Circuits with definite lengths that together cover what is known; the greatest lengths last."""

    variants: tuple[Circuit, ...]
    assumptions: tuple[str, ...]


def resolve(rulebook: Rulebook, circuit: Circuit) -> Resolved:
    """Return the variants to judge: all short, all long, and each uncertain leg against the others.

    Resistances, Zs and drops of open runs only grow with length, so all long is their worst; how a ring shares its
    current is worst where one side is long and the other short, which the single ones cover.
    """
    assumptions: list[str] = []
    legs = [_from_resistance(rulebook, circuit, leg, assumptions) for leg in circuit.legs]
    ranged = [leg.id for leg in legs if any(segment.length_to_m is not None for segment in leg.segments)]
    if not ranged:
        if not assumptions:
            return Resolved(variants=(circuit,), assumptions=())
        return Resolved(variants=(circuit.model_copy(update={"legs": tuple(legs)}),), assumptions=tuple(assumptions))
    for leg in legs:
        if leg.id in ranged:
            low, high = _ends(leg)
            assumptions.append(f"{circuit.leg_title(leg)}: {plain(low)} to {plain(high)} m")

    def with_long(long: frozenset[str]) -> Circuit:
        return circuit.model_copy(update={"legs": tuple(_settled(leg, leg.id in long) for leg in legs)})

    every = frozenset(ranged)
    picks = [frozenset[str]()]
    if 1 < len(ranged) <= _MOST_SINGLE:
        picks += [frozenset({leg_id}) for leg_id in ranged] + [every - {leg_id} for leg_id in ranged]
    picks.append(every)
    return Resolved(variants=tuple(with_long(pick) for pick in dict.fromkeys(picks)), assumptions=tuple(assumptions))


def middle(rulebook: Rulebook, circuit: Circuit) -> Circuit:
    """Return the circuit with every range at its middle: what a reading is expected from."""
    legs = [_from_resistance(rulebook, circuit, leg, []) for leg in circuit.legs]
    settled = []
    for leg in legs:
        segments = tuple(
            segment
            if segment.length_to_m is None or segment.length_m is None
            else segment.model_copy(
                update={"length_m": (segment.length_m + segment.length_to_m) / 2, "length_to_m": None}
            )
            for segment in leg.segments
        )
        settled.append(leg.model_copy(update={"segments": segments}))
    return circuit.model_copy(update={"legs": tuple(settled)})


def _from_resistance(rulebook: Rulebook, circuit: Circuit, leg: Leg, assumptions: list[str]) -> Leg:
    """Fill in a length that is not known from the line's measured resistance: l = r1 / ρ' at 20 °C."""
    if leg.measured_r1_ohm is None or leg.length_m is not None or len(leg.segments) != 1:
        return leg
    each = rulebook.milliohm_per_m(leg.cable or circuit.cable, "L")
    if each is None:
        return leg
    length = leg.measured_r1_ohm * 1000 / each
    found = f"{plain(leg.measured_r1_ohm)} Ω / {plain(each)} mΩ/m at 20 °C"
    assumptions.append(f"{circuit.leg_title(leg)}: {show(length, 1)} m from r1, {found}")
    return leg.model_copy(update={"segments": (leg.segments[0].model_copy(update={"length_m": length}),)})


def _ends(leg: Leg) -> tuple[float, float]:
    low = sum(segment.length_m or 0.0 for segment in leg.segments)
    high = sum(segment.length_to_m or segment.length_m or 0.0 for segment in leg.segments)
    return low, high


def _settled(leg: Leg, long: bool) -> Leg:
    segments = tuple(
        segment
        if segment.length_to_m is None
        else segment.model_copy(
            update={"length_m": segment.length_to_m if long else segment.length_m, "length_to_m": None}
        )
        for segment in leg.segments
    )
    return leg.model_copy(update={"segments": segments})
