"""How fast, as ratios within one run: what Lumbek adds on top of the linear algebra it must do.

    python -m bench.run            the bare computation
    python -m bench.run --request  also one edit over HTTP (starts PostgreSQL and the application)

Every figure is the best of several runs. The bare side is `numpy.linalg.inv` on matrices of the same sizes and
entries as the networks that are read have, each way of setting one up by itself; nothing else. What the solver saves by
putting links on a network it has solved already counts for it.
"""

import argparse
import time
from collections.abc import Callable
from functools import partial
from itertools import cycle
from uuid import uuid4

import numpy as np

from lumbek.core.board.house import house_of
from lumbek.core.board.judge import judge_house
from lumbek.core.board.propose import propose_boards
from lumbek.core.choosing.size import size_it
from lumbek.core.judging.answers import answer_circuit
from lumbek.core.judging.judgement import judge_circuit
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Rcd
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.places import Places
from lumbek.core.model.point import Point
from lumbek.core.model.supply import Supply
from lumbek.core.network.solver import Network, Solution
from lumbek.core.rulebooks import load_rulebook
from lumbek.core.study.currents import Currents
from tests.support.client import demo_database, make_client, sign_in
from tests.support.stack import stop_stack
from tests.support.stated import a_circuit

BOOK = load_rulebook("bs7671")
SUPPLY = Supply(earthing="TN-C-S", ze_ohm=0.21, fault_current_ka=1.1)


def ring(points: int, number: int) -> Circuit:
    names = [f"P{index}" for index in range(1, points + 1)]
    ends = ["board", *names, "board"]
    legs = tuple(
        Leg(id=f"L{index}", a=ends[index], b=ends[index + 1], segments=(Segment(length_m=3 + (index * number) % 7),))
        for index in range(points + 1)
    )
    return a_circuit(number=number, points=tuple(Point(id=name) for name in names), legs=legs)


def house(circuits: int, points: int) -> list[Circuit]:
    """A house of rings: the hardest case, for each needs four networks and the flow."""
    share, more = divmod(points, circuits)
    return [ring(share + (index < more), index + 1) for index in range(circuits)]


def best(work: Callable[[], object], seconds: float = 1.0) -> float:
    """Return the shortest time in s of one call, over runs that together take about that long."""
    shortest, end = float("inf"), time.perf_counter() + seconds
    while shortest == float("inf") or time.perf_counter() < end:
        started = time.perf_counter()
        work()
        shortest = min(shortest, time.perf_counter() - started)
    return shortest


def side_by_side(bare: Callable[[], object], full: Callable[[], object], seconds: float) -> tuple[float, float]:
    """Return the shortest times in s of both, taken in turns, so that what else the machine does falls on both."""
    shortest, end = [float("inf"), float("inf")], time.perf_counter() + seconds
    while time.perf_counter() < end:
        for index, work in enumerate((bare, full)):
            shortest[index] = min(shortest[index], best(work, 0))
    return shortest[0], shortest[1]


def matrices_of(circuits: list[Circuit]) -> list[np.ndarray]:
    """Return the matrix of every network that is read while these circuits are answered, each solved by itself."""
    kept: list[np.ndarray] = []
    inverse = np.linalg.inv

    def keeping(matrix: np.ndarray) -> np.ndarray:
        # The solver inverts several of one size together: each counts by itself.
        kept.extend(matrix.reshape(-1, *matrix.shape[-2:]).copy())
        return inverse(matrix)

    saved, across, alike = Solution.with_joined, Solution.ohms_across_two_links, Currents._like
    np.linalg.inv = keeping
    Solution.with_joined = lambda *_: None
    Solution.ohms_across_two_links = lambda *_: None
    Currents._like = lambda *_: None
    try:
        for circuit in circuits:
            judge_circuit(BOOK, SUPPLY, circuit)
    finally:
        np.linalg.inv = inverse
        Solution.with_joined, Solution.ohms_across_two_links, Currents._like = saved, across, alike
    return kept


def edits_of(circuit: Circuit, count: int = 50) -> list[Circuit]:
    """Return a circuit with other lengths each time, as one who draws has it: nothing is remembered of the last."""
    return [
        circuit.model_copy(
            update={
                "legs": tuple(
                    leg.model_copy(update={"segments": (Segment(length_m=3 + (index * edit) % 7 + edit / 10),)})
                    for index, leg in enumerate(circuit.legs)
                )
            }
        )
        for edit in range(count)
    ]


def compare(name: str, circuits: list[Circuit], seconds: float = 6) -> tuple[float, float]:
    """Compare circuit by circuit and add up: a machine that does other things too is quiet for a few ms at a time."""
    bare = full = 0.0
    count = 0
    for circuit in circuits:
        matrices = matrices_of([circuit])
        count += len(matrices)
        edits = cycle(edits_of(circuit))
        each = side_by_side(
            partial(lambda some: [np.linalg.inv(matrix) for matrix in some], matrices),
            partial(lambda some: judge_circuit(BOOK, SUPPLY, next(some)), edits),
            seconds / len(circuits),
        )
        bare, full = bare + each[0], full + each[1]
    points = sum(len(circuit.points) for circuit in circuits)
    print(
        f"{name}: {len(circuits)} circuits, {points} points, {count} matrices: "
        f"bare {bare * 1e3:.2f} ms, checked {full * 1e3:.1f} ms, ratio {full / bare:.1f}"
    )
    return bare, full


def sizing(circuits: list[Circuit]) -> None:
    """Sizing every circuit: each tries every listed pair of device and size, each pair judged whole."""
    matrices = matrices_of(circuits)
    tried = sum(size_it(BOOK, SUPPLY, circuit).tried for circuit in circuits)
    bare, full = side_by_side(
        lambda: [np.linalg.inv(matrix) for matrix in matrices],
        lambda: [size_it(BOOK, SUPPLY, circuit) for circuit in circuits],
        5,
    )
    each = full / bare / (tried / len(circuits))
    print(f"sizing {len(circuits)} circuits, {tried} pairs: {full * 1e3:.0f} ms, ratio {each:.1f} a pair")


def request_against_bare() -> None:
    try:
        client = sign_in(make_client(demo_database()))
        job = client.post("/api/jobs", json={"id": str(uuid4()), "head": {"name": "Bench"}}).json()["id"]
        design = ring(9, 1)
        started = {"id": str(uuid4()), "design": design.model_dump(mode="json")}
        view = client.post(f"/api/jobs/{job}/circuits", json=started).json()
        state = {"version": view["version"], "length": 3}

        def longer(metres: int) -> dict[str, object]:
            return {"op": "segment", "leg": "L1", "length_m": metres}

        def save() -> None:
            state["length"] = 3 + state["length"] % 7
            body = {"id": str(uuid4()), "version": state["version"], "commands": [longer(state["length"])]}
            state["version"] = client.post(f"/api/circuits/{view['id']}/commands", json=body).json()["version"]

        kept = JobCircuit(design=design)
        bare = best(lambda: answer_circuit(house_of(BOOK, SUPPLY, (), Places(), [kept]), kept))
        edit = best(save, 3)
        preview = best(lambda: client.post(f"/api/circuits/{view['id']}/preview", json={"commands": [longer(4)]}), 3)
        print(f"bare computation of one circuit: {bare * 1e3:.1f} ms")
        print(f"one edit saved over HTTP: {edit * 1e3:.1f} ms, ratio {edit / bare:.1f}")
        print(f"one preview over HTTP: {preview * 1e3:.1f} ms, ratio {preview / bare:.1f}")
    finally:
        stop_stack()


def boards(circuits: int) -> None:
    """A house of three boards, judged whole with all it shares, against its circuits judged alone."""
    some = [JobCircuit(design=each) for each in house(circuits, circuits * 8)]
    feeds = [
        JobCircuit(
            design=a_circuit(
                number=900 + index,
                kind="distribution",
                points=(Point(id="P1", kind="board"),),
                legs=(Leg(id="L1", a="board", b="P1", segments=(Segment(length_m=12),)),),
            )
        )
        for index in (1, 2)
    ]
    third = circuits // 3
    ways = [Way(id=f"W{index}", circuits=(each.key,)) for index, each in enumerate([*some, *feeds])]
    guard = Rcd(rated_ma=100, type="A", delayed=True)

    def groups(index: int, members: list[Way]) -> tuple[Group, ...]:
        half = len(members) // 2
        return (
            Group(id=f"G{index}", ways=tuple(members[:half])),
            Group(id=f"H{index}", ways=tuple(members[half:]), rcd=guard, rating_a=80),
        )

    tree = (
        Board(id="B1", groups=groups(1, [*ways[:third], *ways[-2:]])),
        Board(id="B2", fed_by=feeds[0].key, groups=groups(2, ways[third : 2 * third])),
        Board(id="B3", fed_by=feeds[1].key, groups=groups(3, ways[2 * third : -2])),
    )
    every = [*some, *feeds]

    def whole() -> None:
        built = house_of(BOOK, SUPPLY, tree, Places(), every)
        for each in every:
            judge_circuit(BOOK, SUPPLY, built.effective(each))
        judge_house(built)

    alone, full = side_by_side(lambda: [judge_circuit(BOOK, SUPPLY, each.design) for each in every], whole, 6)
    built = house_of(BOOK, SUPPLY, tree, Places(), every)
    proposing = best(lambda: propose_boards(built))
    print(
        f"a house of 3 boards and {len(every)} circuits: alone {alone * 1e3:.0f} ms, with all it shares "
        f"{full * 1e3:.0f} ms, ratio {full / alone:.2f}; proposals {proposing / alone:.2f} of it"
    )


def bare_network() -> None:
    """The solver's own overhead on one ring's network."""
    net: Network[int] = Network()
    for index in range(30):
        net.join(index, (index + 1) % 30, 0.1 + index / 100)
    matrix = np.eye(29) * 2.0
    ratio = best(net.solve, 0.5) / best(lambda: np.linalg.inv(matrix), 0.5)
    print(f"one network of 30 nodes built into a matrix and solved: ratio {ratio:.1f}")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--request", action="store_true")
    given = parser.parse_args()
    bare_network()
    _, one = compare("a house", house(24, 200))
    _, ten = compare("ten houses", house(240, 2000), 20)
    print(f"ten times the house takes {ten / one:.1f} times as long")
    compare("one edit of one circuit", house(1, 9))
    sizing(house(24, 200))
    for circuits in (15, 30, 60, 120):
        boards(circuits)
    if given.request:
        request_against_bare()


if __name__ == "__main__":
    main()
