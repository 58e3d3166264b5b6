"""A board to be divided: of several layouts, which leave a storey with neither light nor sockets when one RCD opens."""

from itertools import count

from lumbek.core.board.house import house_of
from lumbek.core.board.judge import judge_house
from lumbek.core.judging.check import Check, Verdict
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.places import Places, Room, Spot, Storey
from lumbek.core.model.point import Load, Point
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook
from lumbek.practice.exercise import Choice
from lumbek.practice.quiz import QuizQuestion

_PLACES = Places(
    storeys=(Storey(id="up", name="Upper floor"), Storey(id="down", name="Ground floor")),
    rooms=(Room(id="landing", name="Landing", storey="up"), Room(id="hall", name="Hall", storey="down")),
)
_ROOMS = {"up": "landing", "down": "hall"}
# What each circuit is, and the storey it serves.
_CIRCUITS = {
    "lights up": ("lighting", "up"),
    "lights down": ("lighting", "down"),
    "sockets up": ("sockets", "up"),
    "sockets down": ("sockets", "down"),
}
_LAYOUTS: tuple[tuple[tuple[str, ...], ...], ...] = (
    (("lights up", "lights down"), ("sockets up", "sockets down")),
    (("lights up", "sockets down"), ("lights down", "sockets up")),
    (("lights up", "sockets up"), ("lights down", "sockets down")),
    (tuple(_CIRCUITS),),
)


def divided_board(book: Rulebook, supply: Supply) -> QuizQuestion:
    """Return the question; right is what the check of the division says of each layout."""
    checks = [_divided(book, supply, layout) for layout in _LAYOUTS]
    fails = [at for at, check in enumerate(checks) if check.verdict is Verdict.FAIL]
    words = [
        "; ".join(f"RCD {at}: {', '.join(group)}" for at, group in enumerate(layout, start=1)) for layout in _LAYOUTS
    ]
    return QuizQuestion(
        words="Two RCDs, or one: which of these boards do not do?",
        choices=tuple(Choice(id=str(at), words=each) for at, each in enumerate(words)),
        right=frozenset(map(str, fails)),
        several=True,
        why="; ".join(f"{words[at]}: {checks[at].answer}" for at in fails),
        clause=checks[0].clause.ref,
        hint="One fault, one RCD: what stays dark on each storey?",
    )


def _divided(book: Rulebook, supply: Supply, layout: tuple[tuple[str, ...], ...]) -> Check:
    numbers = count(1)
    groups = tuple(
        Group(
            id=f"G{at}",
            rcd=Rcd(rated_ma=30, type="A", shared=True),
            rating_a=63,
            ways=tuple(Way(id=f"W{next(numbers)}", circuits=(_key(name),)) for name in group),
        )
        for at, group in enumerate(layout, start=1)
    )
    designs = [JobCircuit(id=_key(name), design=_circuit(name)) for name in _CIRCUITS]
    house = house_of(book, supply, (Board(id="B1", groups=groups),), _PLACES, designs)
    return next(check for check in judge_house(house).checks if check.id == "division")


def _key(name: str) -> str:
    return name.replace(" ", "-")


def _circuit(name: str) -> Circuit:
    kind, storey = _CIRCUITS[name]
    is_light = kind == "lighting"
    given = {
        "name": name,
        "kind": kind,
        "device": Device(standard="bs-en-60898", rating_a=6 if is_light else 20, rcd=None, breaking_capacity_ka=6),
        "points": (
            Point(
                id="P1",
                kind="light" if is_light else "socket-twin",
                at=Spot(room=_ROOMS[storey]),
                loads=(Load(power_w=60),),
            ),
        ),
        "legs": (Leg(id="L1", a="board", b="P1", segments=(Segment(length_m=8),)),),
    }
    return Circuit.model_validate(given)
