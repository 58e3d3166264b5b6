"""The boards of a house as a tree: groups behind an RCD, ways in order, and what each way holds."""

from collections.abc import Callable, Iterable, Iterator
from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from lumbek.core.model.device import Device, Rcd, Unknown
from lumbek.core.model.extent import WholeState, Year
from lumbek.core.model.places import Spot
from lumbek.core.model.text import CurrentA, GivenName, Id, Name, RatingA
from lumbek.core.value import Frozen

Line = Literal["L1", "L2", "L3"]
LINES: tuple[Line, ...] = ("L1", "L2", "L3")
Poles = Literal[1, 2, 3, 4]
# What somebody would miss at once, or more than that.
Need = Literal["alarms", "freezer", "heating", "medical", "business"]
MOST_BOARDS = 20
# A file of a thousand circuits may say nothing of boards: then they are all on one.
MOST_WAYS = 5000


class Way(Frozen):
    """A place for a device, and the circuits it feeds; the device is that of the first of them.

    With no circuit it is a space: with a `device` fitted and unused, closed by a `blank`, or open. A `direct` way has
    no device: what it feeds is linked straight to the bars.
    """

    id: Id
    circuits: Annotated[tuple[Id, ...], Field(max_length=6)] = ()
    device: Device | None = None
    poles: Poles | None = None
    blank: bool = False
    direct: bool = False
    # The line it is on, where the board has three; one that `stays` is not moved to balance them.
    line: Line | None = None
    stays: bool = False
    # The group at whose bar its neutrals end, where that is not its own: found, not meant.
    neutral_at: Id | None = None
    # What the user says would be missed if it went dark.
    needs: Annotated[tuple[Need, ...], Field(max_length=5)] = ()

    @model_validator(mode="after")
    def _one_use(self) -> Self:
        if self.circuits and self.blank:
            raise ValueError("blank: a way that feeds a circuit is not blank")
        if self.circuits and self.device is not None:
            raise ValueError("device: the device of a way with circuits is that of its first circuit")
        if self.blank and self.device is not None:
            raise ValueError("blank: a way with a device in it is not blank")
        return self

    def holding(self, circuits: Iterable[str]) -> "Way":
        """Return the way with these circuits in it instead."""
        return self.model_copy(update={"circuits": tuple(circuits)})


class Group(Frozen):
    """Ways side by side behind one RCD, or behind none; an RCD's rating in A that nobody has read is None."""

    id: Id
    name: Name = ""
    rcd: Rcd | Unknown | None = None
    rating_a: RatingA | None = None
    # What is known to flow through it where the loads are not stated.
    stated_a: CurrentA | None = None
    # Each circuit said that it shares such an RCD, and nobody which: there may be several alike.
    unsure: bool = False
    ways: Annotated[tuple[Way, ...], Field(max_length=MOST_WAYS)] = ()


class Enclosure(Frozen):
    """What the board is made of, and how tight it is; `cabinet` is one of non-combustible material around it."""

    material: Literal["metal", "plastic", "timber", "unknown"] = "unknown"
    ip: Annotated[str, StringConstraints(pattern=r"^(IP[0-6X][0-9X][A-D]?)?$")] = ""
    cabinet: bool = False


class Surge(Frozen):
    """Surge protection: its type and its leads, line and earth together."""

    type: Literal["1", "2", "3", "1+2"] | None = None
    lead_m: Annotated[float, Field(ge=0.01, le=20)] | None = None


class Board(Frozen):
    """A board. It is fed from the origin, by a circuit of another board, or stands beside one and is linked to it."""

    id: Id
    name: GivenName = "Board"
    # Where it hangs.
    at: Spot = Spot()
    state: WholeState = "new"
    year: Year | None = None
    enclosure: Enclosure = Enclosure()
    # Main switch, switch-fuse, or an RCCB that serves as one.
    main: Device | Unknown | None = "unknown"
    main_poles: Poles | None = None
    surge: Surge | Unknown | None = "unknown"
    neutral_side: Literal["left", "right", "unknown"] = "unknown"
    # What is known to flow to it where the loads are not stated.
    stated_a: CurrentA | None = None
    fed_by: Id | None = None
    beside: Id | None = None
    # The group of the board it stands beside that it hangs on; None where it is linked ahead of its groups.
    beside_group: Id | None = None
    groups: Annotated[tuple[Group, ...], Field(max_length=12)] = ()

    @model_validator(mode="after")
    def _fed_once(self) -> Self:
        if self.fed_by is not None and self.beside is not None:
            raise ValueError("beside: a board is fed by a circuit or stands beside another, not both")
        if sum(len(group.ways) for group in self.groups) > MOST_WAYS:
            raise ValueError(f"groups: a board has no more than {MOST_WAYS} ways")
        return self

    @property
    def ways(self) -> tuple[Way, ...]:
        """All ways in their order."""
        return tuple(way for group in self.groups for way in group.ways)

    @property
    def is_root(self) -> bool:
        """Whether it is fed from the origin."""
        return self.fed_by is None and self.beside is None

    def with_ways(self, change: Callable[[Way], Way]) -> "Board":
        """Return the board with each of its ways changed."""
        groups = tuple(
            group.model_copy(update={"ways": tuple(change(way) for way in group.ways)}) for group in self.groups
        )
        return self.model_copy(update={"groups": groups})

    @property
    def known_main(self) -> Device | None:
        """The main switch or switch-fuse that is known to be there."""
        return None if self.main == "unknown" else self.main


class Boards(Frozen):
    """The boards of a house, as they are kept."""

    boards: Annotated[tuple[Board, ...], Field(max_length=MOST_BOARDS)] = ()


def board_problems(boards: tuple[Board, ...], circuits: set[str]) -> list[tuple[str, str]]:
    """Return what is wrong with a tree of boards: field and reason, the first of each kind."""
    found: list[tuple[str, str]] = []
    if len({board.id for board in boards}) < len(boards):
        found.append(("boards", "two boards have the same id"))
    if boards and not any(board.is_root for board in boards):
        found.append(("boards", "none is fed from the origin"))
    return [*found, *_wrong_feeds(boards, circuits), *_wrong_parts(boards, circuits), *_rounds(boards)]


def _wrong_feeds(boards: tuple[Board, ...], circuits: set[str]) -> Iterator[tuple[str, str]]:
    """Yield the boards fed by what is not there, or by what feeds another."""
    ids, fed = {board.id for board in boards}, set[str]()
    for index, board in enumerate(boards):
        if board.fed_by is not None and board.fed_by not in circuits:
            yield f"boards.{index}.fed_by", f"there is no circuit {board.fed_by!r}"
        elif board.fed_by is not None and board.fed_by in fed:
            yield f"boards.{index}.fed_by", f"circuit {board.fed_by!r} feeds another board already"
        fed.add(board.fed_by or "")
        if board.beside is not None and board.beside not in ids - {board.id}:
            yield f"boards.{index}.beside", f"there is no other board {board.beside!r}"


def _wrong_parts(boards: tuple[Board, ...], circuits: set[str]) -> Iterator[tuple[str, str]]:
    """Yield ids of groups and ways that are used twice, and ways that hold what is not there."""
    ids: set[str] = set()
    for index, board in enumerate(boards):
        for part in [*(group.id for group in board.groups), *(way.id for way in board.ways)]:
            if part in ids:
                yield f"boards.{index}", f"the id {part!r} is used twice"
            ids.add(part)
        for way in board.ways:
            for circuit in way.circuits:
                if circuit not in circuits:
                    yield f"boards.{index}", f"way {way.id} holds {circuit!r}, and there is no such circuit"


def _owners(boards: tuple[Board, ...]) -> dict[str, set[str]]:
    """Return the boards in whose ways each circuit is: several where it was found in two."""
    found: dict[str, set[str]] = {}
    for board in boards:
        for way in board.ways:
            for circuit in way.circuits:
                found.setdefault(circuit, set()).add(board.id)
    return found


def _rounds(boards: tuple[Board, ...]) -> Iterator[tuple[str, str]]:
    """Yield the boards that hang on themselves, by whatever way."""
    owners = _owners(boards)
    above = {
        board.id: {board.beside} if board.beside is not None else owners.get(board.fed_by or "", set())
        for board in boards
    }
    for index, board in enumerate(boards):
        seen, left = set[str](), list(above[board.id])
        while left:
            at = left.pop()
            if at not in seen:
                seen.add(at)
                left += above.get(at, ())
        if board.id in seen:
            yield f"boards.{index}", "hangs on itself: boards form a tree"
