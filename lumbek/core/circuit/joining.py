"""Making off by hand: one core end into a terminal, to another core, or off; cables whose far end is unknown."""

from collections.abc import Sequence

from lumbek.core.circuit.edit import EditRefusedError, next_id
from lumbek.core.model.cable import Cable
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.leg import BOARD, Leg, Segment
from lumbek.core.model.places import Spot
from lumbek.core.model.point import Point, PointKind, State
from lumbek.core.model.scheme import Apart, Scheme
from lumbek.core.model.terminals import CONDUCTORS, CoreEnd, Join, Mark


def said_joins(circuit: Circuit, place: str) -> tuple[Join, ...]:
    """Return every join of a place as it is, the plain ones too, so that one end of it can be moved by itself."""
    joins = circuit.board_joins if place == BOARD else circuit.point(place).joins
    said = {(end.leg, end.core) for join in joins for end in join.ends if end.circuit is None}
    held = {name for join in joins for name in join.terminals}
    found = list(joins)
    plain: dict[str, list[CoreEnd]] = {name: [] for name in CONDUCTORS}
    for leg in circuit.legs:
        if place not in (leg.a, leg.b):
            continue
        for core in circuit.cable_of(leg).core_names:
            if (leg.id, core) in said:
                continue
            if core in plain:
                plain[core].append(CoreEnd(leg=leg.id, core=core))
            else:
                found.append(Join(ends=(CoreEnd(leg=leg.id, core=core),)))
    for name, ends in plain.items():
        if ends and name in held:
            found = [
                join.model_copy(update={"ends": (*join.ends, *ends)}) if name in join.terminals else join
                for join in found
            ]
        elif ends:
            found.append(Join(ends=tuple(ends), terminals=(name,)))
    return tuple(found)


def connected(
    circuit: Circuit, place: str, leg: str, core: str, terminal: str | None, beside: tuple[str, str] | None
) -> Circuit:
    """Return the circuit with one core end moved: into a terminal, to the join of another core, or off by itself.

    Raises EditRefusedError where there is no such core or terminal here.
    """
    joins = said_joins(circuit, place)
    moved = next((end for join in joins for end in join.ends if (end.leg, end.core) == (leg, core)), None)
    if moved is None:
        raise EditRefusedError(f"There is no core {core} of {leg} here any more.")
    if beside == (leg, core):
        raise EditRefusedError("A core is not joined to itself.")
    left = [join.model_copy(update={"ends": tuple(end for end in join.ends if end != moved)}) for join in joins]
    at = next((index for index, join in enumerate(left) if _is_there(join, terminal, beside)), None)
    if at is not None:
        left[at] = left[at].model_copy(update={"ends": (*left[at].ends, moved)})
    elif beside is not None:
        raise EditRefusedError("The core to join it to is not here any more.")
    else:
        left.append(Join(ends=(moved,), terminals=() if terminal is None else (terminal,)))
    return with_joins(circuit, place, tuple(join for join in left if join.ends or join.terminals))


def _is_there(join: Join, terminal: str | None, beside: tuple[str, str] | None) -> bool:
    """Whether a join has that terminal, or that core in it."""
    return terminal in join.terminals or any((end.leg, end.core) == beside for end in join.ends)


def marked(circuit: Circuit, place: str, leg: str, core: str, mark: Mark | None) -> Circuit:
    """Return the circuit with a sleeve on a core end, or none."""
    joins = said_joins(circuit, place)
    if not any((end.leg, end.core) == (leg, core) for join in joins for end in join.ends):
        raise EditRefusedError(f"There is no core {core} of {leg} here any more.")
    changed = tuple(
        join.model_copy(
            update={
                "ends": tuple(
                    end.model_copy(update={"marked": mark}) if (end.leg, end.core) == (leg, core) else end
                    for end in join.ends
                )
            }
        )
        for join in joins
    )
    return with_joins(circuit, place, changed)


def with_joins(circuit: Circuit, place: str, joins: tuple[Join, ...]) -> Circuit:
    """Return the circuit with these joins at a place."""
    if place == BOARD:
        return circuit.model_copy(update={"board_joins": joins})
    points = tuple(
        point.model_copy(update={"joins": joins}) if point.id == place else point for point in circuit.points
    )
    return circuit.model_copy(update={"points": points})


def with_place(circuit: Circuit, kind: PointKind, name: str, at: Spot, state: State) -> tuple[Circuit, str]:
    """Return the circuit with one more place that no cable reaches yet, and its id."""
    point_id = next_id("P", [point.id for point in circuit.points])
    point = Point.model_validate({"id": point_id, "kind": kind, "name": name, "at": at, "state": state})
    return circuit.model_copy(update={"points": (*circuit.points, point)}), point_id


def _check_far_end(ids: Sequence[str], place: str, to: str | None) -> None:
    if to is not None and to not in (*ids, BOARD):
        raise EditRefusedError(f"There is no place {to} in this circuit any more.")
    if to == place:
        raise EditRefusedError("A cable joins two different places.")


def with_cable(
    circuit: Circuit, place: str, to: str | None, cable: Cable, length_m: float | None, state: State
) -> Circuit:
    """Return the circuit with one more cable at a place, to another or to where nobody knows.

    Its cores are left off at both ends until somebody says where they go; at the board they are joined plainly.
    """
    ids = [point.id for point in circuit.points]
    _check_far_end(ids, place, to)
    leg_id = next_id("L", [leg.id for leg in circuit.legs])
    far = to or next_id("U", ids)
    # Between what is said already nothing may change, so every join is said first.
    said = {end: said_joins(circuit, end) for end in (place, far) if end in ids}
    segments = (Segment(length_m=length_m),)
    leg = Leg(id=leg_id, a=place, b=far, state=state, cable=cable, segments=segments)
    found = circuit.model_copy(update={"legs": (*circuit.legs, leg)})
    for here, joins in said.items():
        found = with_joins(found, here, (*joins, *_off(leg_id, cable)))
    if to is None:
        end = Point(id=far, name="unknown", kind="unknown-end", state="as-found", joins=_off(leg_id, cable))
        found = found.model_copy(update={"points": (*found.points, end)})
    return found


def _off(leg: str, cable: Cable) -> tuple[Join, ...]:
    return tuple(Join(ends=(CoreEnd(leg=leg, core=core),)) for core in cable.core_names)


def known_ends(circuit: Circuit) -> dict[str, str]:
    """Return each cable of which one end is unknown, with the place of the other."""
    unknown = {point.id for point in circuit.points if point.kind == "unknown-end"}
    return {leg.id: leg.b if leg.a in unknown else leg.a for leg in circuit.legs if len({leg.a, leg.b} & unknown) == 1}


def same_cable(circuit: Circuit, one: str, other: str) -> Circuit:
    """Return the circuit with two cable ends known to be one cable. Raises EditRefusedError where they cannot be."""
    ends = known_ends(circuit)
    if one not in ends or other not in ends or one == other or ends[one] == ends[other]:
        raise EditRefusedError("Both must be cables in different boxes whose other end is unknown.")
    legs = {leg.id: leg for leg in circuit.legs}
    cores = {circuit.cable_of(legs[each]).core_names for each in (one, other)}
    if len(cores) > 1:
        raise EditRefusedError("These two have not as many cores: they are no one cable.")
    gone = {end for each in (one, other) for end in (legs[each].a, legs[each].b)} - {ends[one], ends[other]}
    joined = legs[one].model_copy(update={"a": ends[one], "b": ends[other]})

    def renamed(join: Join) -> Join:
        mine = (
            end.model_copy(update={"leg": one}) if end.leg == other and end.circuit is None else end
            for end in join.ends
        )
        return join.model_copy(update={"ends": tuple(mine)})

    points = tuple(
        point.model_copy(update={"joins": tuple(renamed(join) for join in point.joins)})
        if point.id == ends[other]
        else point
        for point in circuit.points
        if point.id not in gone
    )
    kept = tuple(joined if leg.id == one else leg for leg in circuit.legs if leg.id != other)
    return circuit.model_copy(update={"points": points, "legs": kept})


def other_cables(circuit: Circuit, one: str, other: str) -> Circuit:
    """Return the circuit with a test kept that has shown two cable ends to be of different cables."""
    scheme = circuit.scheme or Scheme()
    pair = Apart(one=min(one, other), other=max(one, other))
    apart = scheme.apart if pair in scheme.apart else (*scheme.apart, pair)
    return circuit.model_copy(update={"scheme": scheme.model_copy(update={"apart": apart})})
