"""The design current Ib of a circuit, and where in the circuit it is drawn."""

from collections.abc import Callable

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import PASSIVE_KINDS, Point
from lumbek.core.numbers import plain, show
from lumbek.core.result import Step
from lumbek.core.rulebooks import Rulebook
from lumbek.core.sizing.diversity import diversified_a
from lumbek.core.value import Frozen


class Demand(Frozen):
    """Ib in A, the current in A drawn at each point, whether it was stated or assumed, and the working."""

    ib_a: float
    at_points: dict[str, float]
    stated: bool
    steps: tuple[Step, ...]


def demand(
    rulebook: Rulebook,
    circuit: Circuit,
    graph: CircuitGraph,
    ring: bool,
    rating: float,
    farthest: Callable[[list[str]], str],
) -> Demand | None:
    """Return the demand of a circuit; None if there is nothing that could draw a current.

    Stated loads are used where they are (cookers with their diversity). Otherwise the conventional loads: sockets
    20 A at the far point and the rest of the rating spread evenly; anything else the whole rating, lights shared
    evenly, a fixed load at the far end. `rating` is that of the protecting device in A; `farthest` picks, of some
    points, the one with the greatest line resistance from the board.
    """
    reached = [point for point in circuit.points if point.id in graph.distance]
    if any(point.loads for point in reached):
        return _stated(rulebook, circuit, reached)
    # What lies behind a fused spur draws through it, and no more than its fuse.
    behind_fuses = {
        end
        for point in reached
        if point.kind == "fused-spur"
        for leg_id in graph.beyond(point.id)
        for end in (graph.legs[leg_id].a, graph.legs[leg_id].b)
        if end != point.id
    }
    users = [point for point in reached if point.kind not in PASSIVE_KINDS and point.id not in behind_fuses]
    if not users:
        return None
    group = rulebook.kinds[circuit.kind].group
    if group == "sockets":
        far_rule = rulebook.data.ring.far_a if ring else rulebook.data.socket_radial.far_a
        far_a = min(far_rule, rating)
        unfused = [point.id for point in users if point.kind != "fused-spur"]
        far = farthest(unfused or [point.id for point in users])
        share = (rating - far_a) / len(users)
        at_points = {point.id: share for point in users}
        at_points[far] += far_a
        text = (
            f"No loads stated: {plain(far_a)} A taken at {circuit.point_title(far)}, the far point, and "
            f"{plain(rating - far_a)} A spread evenly over {len(users)} points"
        )
    elif group == "lighting":
        at_points = {point.id: rating / len(users) for point in users}
        text = f"No loads stated: the device's {plain(rating)} A spread evenly over {len(users)} points"
    else:
        far = farthest([point.id for point in users])
        at_points = {far: rating}
        text = f"No loads stated: the device's {plain(rating)} A taken at {circuit.point_title(far)}, the far end"
    return Demand(
        ib_a=rating,
        at_points=at_points,
        stated=False,
        steps=(Step(text=text, sum=f"Ib = {plain(rating)} A"),),
    )


def _stated(rulebook: Rulebook, circuit: Circuit, reached: list[Point]) -> Demand:
    phases = rulebook.kinds[circuit.kind].phases
    at_points = {
        point.id: sum(load.design_current_a(rulebook.u0_v, phases) for load in point.loads)
        for point in reached
        if point.loads
    }
    total = sum(at_points.values())
    if circuit.kind == "cooker":
        return _cooker(rulebook, circuit, at_points, total)
    listed = " + ".join(show(current) for current in at_points.values())
    return Demand(
        ib_a=total,
        at_points=at_points,
        stated=True,
        steps=(Step(text="The stated loads together", sum=f"Ib = {listed} = {show(total)} A"),),
    )


def _cooker(rulebook: Rulebook, circuit: Circuit, at_points: dict[str, float], total_a: float) -> Demand:
    """Apply the diversity of one dwelling's cooker: the first amperes, a part of the rest, more for a socket."""
    kept = diversified_a(rulebook.data.diversity["cooker"], [total_a])
    extra = rulebook.data.diversity["cooker"].socket_a
    socket = next((point for point in circuit.points if point.kind == "control-with-socket"), None)
    ib = kept + (extra if socket else 0.0)
    scaled = {point: current * kept / total_a if total_a else 0.0 for point, current in at_points.items()}
    if socket:
        scaled[socket.id] = scaled.get(socket.id, 0.0) + extra
    rule = rulebook.data.diversity["cooker"]
    rest = max(total_a - rule.first_a, 0.0)
    arithmetic = f"{plain(rule.first_a)} + {plain(rule.rest)} × {show(rest)}" if rest else show(total_a)
    return Demand(
        ib_a=ib,
        at_points=scaled,
        stated=True,
        steps=(
            Step(text="The appliances together", sum=f"{show(total_a)} A"),
            Step(
                text=f"Diversity for a cooker: the first {plain(rule.first_a)} A, "
                + f"{plain(100 * rule.rest)} % of the rest"
                + (f", {plain(extra)} A for the socket in the control unit" if socket else ""),
                sum=f"Ib = {arithmetic}{f' + {plain(extra)}' if socket else ''} = {show(ib)} A",
            ),
        ),
    )
