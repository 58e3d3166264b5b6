"""Is every RCD that several circuits share left in peace by all that they leak?"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from lumbek.core.board.house import House
from lumbek.core.board.member import Member
from lumbek.core.board.trips import way_title
from lumbek.core.model.device import Rcd, Unknown
from lumbek.core.numbers import plain, show
from lumbek.core.question import Question
from lumbek.core.result import Check, Place, Step, Verdict, hold


@dataclass(frozen=True)
class _Shared:
    """An RCD that several circuits share, and those behind it."""

    place: Place
    rcd: Rcd | Unknown
    members: Iterable[Member]
    unsure: bool = False


def _shared(house: House) -> Iterator[_Shared]:
    """Yield the RCDs of main switches, of groups, and of ways that feed another board."""
    for board in house.boards:
        main = board.known_main
        if main is not None and main.rcd is not None:
            yield _Shared(house.board_place(board), main.rcd, house.behind_board(board))
        for group in board.groups:
            if group.rcd is not None and any(way.circuits for way in group.ways):
                yield _Shared(house.group_place(board, group), group.rcd, house.behind_group(group), group.unsure)
            for way in group.ways:
                device = house.device_of(way)
                if device is not None and device.rcd is not None and any(map(house.hanging_on, way.circuits)):
                    place = Place(kind="way", id=way.id, name=way_title(house, way))
                    yield _Shared(place, device.rcd, house.members_in((way,)))


def _check(house: House, shared: _Shared) -> Check:
    """Sum of the protective-conductor currents behind an RCD <= 0.3 IΔn, mA (531.3.2).

    What is stated of a circuit counts once; the leakages of three lines are taken not to cancel.
    """
    place, rcd = shared.place, shared.rcd
    question = Question(f"leakage-{place.id}", f"Leakage, {place.name}", "Is its RCD left in peace?", "leakage")
    leaks = [(member.title, member.leakage_ma) for member in shared.members if member.leakage_ma]
    steps = tuple(Step(text=title, sum=f"{show(leak)} mA") for title, leak in leaks)
    if rcd == "unknown" or rcd.rated_ma is None:
        return question.cannot_tell(house, (f"rated residual current of {place.name}",), steps=steps, place=place)
    part = house.rulebook.data.residual.leakage_fraction
    limit = part * rcd.rated_ma
    total = sum(leak for _, leak in leaks)
    if shared.unsure and hold(total, limit, "at most")[0] is Verdict.FAIL:
        what = f"RCD that each circuit of {place.name} is behind: there may be several alike"
        return question.cannot_tell(house, (what,), steps=steps, place=place)
    return question.held(
        house,
        total,
        limit,
        "at most",
        "{value} mA, limit {limit} mA",
        unit="mA",
        place=place,
        steps=(*steps, Step(text="Limit", sum=f"{plain(part)} × {plain(rcd.rated_ma)} = {plain(limit)} mA")),
        caution="" if leaks else "No circuit behind it states any leakage.",
    )


def leakage_checks(house: House) -> Iterator[Check]:
    """Yield the check of every RCD that circuits share."""
    for shared in _shared(house):
        yield _check(house, shared)
