"""The design current Ib of a circuit, and where in the circuit it is drawn."""

from collections.abc import Callable

from lumbek.core.circuit.graph import CircuitGraph
from lumbek.core.circuit.standing import RING_OUTLETS, is_light, is_plain_socket
from lumbek.core.judging.check import Step
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.point import PASSIVE_KINDS, Load, Point
from lumbek.core.numbers import counted, plain, show
from lumbek.core.rulebooks import Rulebook
from lumbek.core.rulebooks.rules import DiversityRule
from lumbek.core.sizing.diversity import diversified_a
from lumbek.core.value import Frozen


class Demand(Frozen):
    """Ib in A, the current in A drawn at each point, whether it was stated or assumed, and the working.

    Where it is assumed, `far` is the point that the load is taken at, of those in `far_of`, and `far_a` how much of it;
    `said_at` is what was stated beside it, in A where it is drawn.
    """

    ib_a: float
    at_points: dict[str, float]
    stated: bool
    steps: tuple[Step, ...]
    far: str | None = None
    far_a: float = 0.0
    far_of: tuple[str, ...] = ()
    said_at: dict[str, float] = {}

    @property
    def spread_a(self) -> float:
        """What is assumed to be spread evenly, in A: neither stated nor taken at the far point."""
        return max(0.0, self.ib_a - self.far_a - sum(self.said_at.values()))


def demand(
    rulebook: Rulebook,
    circuit: Circuit,
    graph: CircuitGraph,
    ring: bool,
    rating: float,
    farthest: Callable[[list[str]], str],
) -> Demand | None:
    """Return the demand of a circuit; None if there is nothing that could draw a current.

    Stated loads are used where they are, with their diversity. Otherwise the conventional loads: sockets
    20 A at the far point and the rest of the rating spread evenly; anything else the whole rating, lights shared
    evenly, a fixed load at the far end. Sockets with nothing stated keep what stated loads leave of the rating.
    `rating` is that of the protecting device in A; `farthest` picks, of some points, the one with the greatest line
    resistance from the board.
    """
    reached = [point for point in circuit.points if point.id in graph.distance]
    if any(point.loads for point in reached):
        stated = _stated(rulebook, circuit, reached)
        silent = [point for point in reached if is_plain_socket(point) and not point.loads]
        return _with_silent(rulebook, circuit, stated, silent, ring, rating, farthest) if silent else stated
    users = _users(graph, reached)
    if not users:
        return None
    if any(point.kind in RING_OUTLETS for point in users):
        return _of_sockets(circuit, users, _far_rule(rulebook, ring), rating, farthest)
    if any(is_light(point) for point in users):
        at_points = {point.id: rating / len(users) for point in users}
        return _assumed(
            at_points,
            f"the device's {plain(rating)} A spread evenly over {counted(len(users), 'point', 'points')}",
            rating,
        )
    names = [point.id for point in users]
    far = farthest(names)
    text = f"the device's {plain(rating)} A taken at {circuit.point_title(far)}, the far end"
    return _assumed({far: rating}, text, rating).model_copy(
        update={"far": far, "far_a": rating, "far_of": tuple(names)}
    )


def _users(graph: CircuitGraph, reached: list[Point]) -> list[Point]:
    """Return the points that may draw a current by themselves.

    What lies behind a fused spur draws through it, and no more than its fuse.
    """
    behind_fuses = {
        end
        for point in reached
        if point.kind == "fused-spur"
        for leg_id in graph.beyond(point.id)
        for end in (graph.legs[leg_id].a, graph.legs[leg_id].b)
        if end != point.id
    }
    return [point for point in reached if point.kind not in PASSIVE_KINDS and point.id not in behind_fuses]


def _far_rule(rulebook: Rulebook, ring: bool) -> float:
    """Return what is conventionally taken at the far point of sockets, in A."""
    return rulebook.data.ring.far_a if ring else rulebook.data.socket_radial.far_a


def _of_sockets(
    circuit: Circuit, users: list[Point], far_rule: float, rating: float, farthest: Callable[[list[str]], str]
) -> Demand:
    far_a = min(far_rule, rating)
    names = [point.id for point in users if point.kind != "fused-spur"] or [point.id for point in users]
    far = farthest(names)
    at_points = {point.id: (rating - far_a) / len(users) for point in users}
    at_points[far] += far_a
    text = (
        f"{plain(far_a)} A taken at {circuit.point_title(far)}, the far point, and "
        f"{plain(rating - far_a)} A spread evenly over {counted(len(users), 'point', 'points')}"
    )
    return _assumed(at_points, text, rating).model_copy(update={"far": far, "far_a": far_a, "far_of": tuple(names)})


def _assumed(at_points: dict[str, float], text: str, rating: float) -> Demand:
    """Return the demand of a circuit whose loads nobody has stated: its rating, so shared."""
    steps = (Step(text=f"No loads stated: {text}", sum=f"Ib = {plain(rating)} A"),)
    return Demand(ib_a=rating, at_points=at_points, stated=False, steps=steps)


def _with_silent(
    rulebook: Rulebook,
    circuit: Circuit,
    stated: Demand,
    silent: list[Point],
    ring: bool,
    rating: float,
    farthest: Callable[[list[str]], str],
) -> Demand:
    """Return the demand of stated loads beside sockets of which nothing is said: those may take the rest of the rating.

    As much of it as is conventional at the far point of them, what is left evenly: anything may be plugged in.
    """
    rest = max(0.0, rating - stated.ib_a)
    far_a, names = min(_far_rule(rulebook, ring), rest), [point.id for point in silent]
    far = farthest(names)
    at_points = dict(stated.at_points)
    for name in names:
        at_points[name] = at_points.get(name, 0.0) + (rest - far_a) / len(names)
    at_points[far] += far_a
    text = (
        f"{counted(len(names), 'socket', 'sockets')} with no load stated may take the rest of the device's "
        f"{plain(rating)} A: {show(far_a)} A at {circuit.point_title(far)}, {show(rest - far_a)} A spread evenly"
    )
    ib = max(rating, stated.ib_a)
    return Demand(
        ib_a=ib,
        at_points=at_points,
        stated=False,
        steps=(*stated.steps, Step(text=text, sum=f"Ib = {show(ib)} A")),
        far=far,
        far_a=far_a,
        far_of=tuple(names),
        said_at=stated.at_points,
    )


def conventional(demand: Demand, far: str) -> dict[str, float]:
    """Return what is drawn at each point in A where another point is the far one."""
    if demand.far is None:
        return demand.at_points
    moved = {**demand.at_points, demand.far: demand.at_points[demand.far] - demand.far_a}
    return {**moved, far: moved.get(far, 0.0) + demand.far_a}


def _stated(rulebook: Rulebook, circuit: Circuit, reached: list[Point]) -> Demand:
    """Return the demand of the stated loads, with the diversity that one dwelling's appliances have among themselves.

    A cooker is its parts together: the first amperes, a part of the rest, more for a socket in its control unit. Of
    what is plugged in the largest counts in full. All else counts in full.
    """
    phases = rulebook.kinds[circuit.kind].phases
    loads = [
        (point.id, class_of(circuit, load), load.design_current_a(rulebook.u0_v, phases))
        for point in reached
        for load in point.loads
    ]
    shares, steps = _shares(rulebook, loads)
    at_points: dict[str, float] = {}
    for (point_id, _, current), share in zip(loads, shares, strict=True):
        at_points[point_id] = at_points.get(point_id, 0.0) + current * share
    extra = rulebook.data.diversity["cooker"].socket_a
    socket = next((point for point in reached if point.kind == "control-with-socket"), None)
    if socket is not None and any(kind == "cooker" for _, kind, _ in loads):
        at_points[socket.id] = at_points.get(socket.id, 0.0) + extra
        steps.append(Step(text="The socket in the control unit", sum=f"{plain(extra)} A"))
    total = sum(at_points.values())
    listed = " + ".join(show(current) for current in at_points.values())
    steps.append(Step(text="The stated loads together", sum=f"Ib = {listed} = {show(total)} A"))
    return Demand(ib_a=total, at_points=at_points, stated=True, steps=tuple(steps))


def _shares(rulebook: Rulebook, loads: list[tuple[str, str | None, float]]) -> tuple[list[float], list[Step]]:
    """Return what part of each load counts, by its class, and the working; a load is its point, class and current."""
    shares, steps = [1.0] * len(loads), list[Step]()
    for kind, title in (("cooker", "a cooker"), ("sockets", "what is plugged in")):
        alike = {index: ampere for index, (_, its_kind, ampere) in enumerate(loads) if its_kind == kind}
        rule = rulebook.data.diversity[kind]
        total = sum(alike.values())
        kept = diversified_a(rule, list(alike.values()))
        if not total or (kept == total and kind != "cooker"):
            continue
        # The largest come in full, and the others share what is left to them.
        order = sorted(alike, key=lambda index: -alike[index])
        whole = sum(map(alike.__getitem__, order[: rule.largest_count]))
        for index in order[rule.largest_count :]:
            shares[index] = (kept - whole) / (total - whole)
        steps.append(Step(text=f"The appliances of {title} together", sum=f"{show(total)} A"))
        steps.append(Step(text=f"Diversity for {title}: {_in_words(rule)}", sum=f"{show(kept)} A"))
    return shares, steps


def class_of(circuit: Circuit, load: Load) -> str | None:
    """Return the class of a load: as said; on a cooker's circuit it is part of the cooker where nothing is said."""
    return load.diversity or ("cooker" if circuit.kind == "cooker" else None)


def _in_words(rule: DiversityRule) -> str:
    """Return what a rule of diversity counts."""
    first = f"the first {plain(rule.first_a)} A" if rule.first_a else "the largest in full"
    return f"{first}, {plain(100 * rule.rest)} % of the rest"
