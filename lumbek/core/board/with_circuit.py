"""A house with one of its circuits changed: what would fail between it and its fellows."""

from collections.abc import Callable
from dataclasses import replace

from lumbek.core.board.house import House
from lumbek.core.board.judge import judge_house
from lumbek.core.board.member import member_of
from lumbek.core.judging.check import Verdict
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobCircuit


def house_fails_with(house: House, key: str) -> Callable[[Circuit], set[str]]:
    """Return what tells which questions of a house fail with a circuit as it would be, by their ids."""

    def fails(design: Circuit) -> set[str]:
        member = member_of(house.rulebook, JobCircuit(id=key, design=design))
        changed = replace(house, members={**house.members, key: member})
        return {check.id for check in judge_house(changed).checks if check.verdict is Verdict.FAIL}

    return fails
