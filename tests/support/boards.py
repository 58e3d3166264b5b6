"""Houses of boards to test with, made as short as they can be said."""

from collections.abc import Iterable

from lumbek.core.board.house import House, house_of
from lumbek.core.board.judge import HouseResult, judge_house
from lumbek.core.judging.check import Check
from lumbek.core.model.board import Board, Enclosure, Group, Surge, Way
from lumbek.core.model.circuit import Circuit, CircuitKind
from lumbek.core.model.device import Device, Rcd
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.leg import Leg, Segment
from lumbek.core.model.places import Places, Room, Spot, Storey, id_of_name
from lumbek.core.model.point import Load, Point, PointKind
from lumbek.core.model.supply import Supply
from lumbek.core.rulebooks import Rulebook
from tests.support.houses import BS, SUPPLY
from tests.support.stated import a_circuit, a_device

SWITCH_100 = Device(standard="switch", curve=None, rating_a=100, rcd=None)
MCB = {"standard": "bs-en-60898", "rcd": None}
UP_AND_DOWN = Places(
    storeys=(Storey(id="up", name="Up"), Storey(id="down", name="Down")),
    rooms=(
        Room(id="loft", name="Loft", storey="up"),
        Room(id="hall", name="Hall", storey="down"),
        Room(id="kitchen", name="Kitchen", storey="down"),
    ),
)


def in_room(name: str) -> Spot:
    """In the room of that name; nowhere without one."""
    return Spot(room=id_of_name(name) if name else None)


def circuit(
    number: int,
    kind: PointKind,
    room: str = "",
    amps: float | None = None,
    of: CircuitKind = "sockets",
    rating_a: float = 16,
    leakage_ma: float = 0,
    diversity: str | None = None,
    **more: object,
) -> Circuit:
    """A circuit of one point, behind a breaker without an RCD but for what is said."""
    loads = () if amps is None else (Load(current_a=amps, leakage_ma=leakage_ma, diversity=diversity),)
    fields = {
        "number": number,
        "name": f"{kind} {number}",
        "kind": of,
        "device": a_device(rating_a=rating_a, **MCB),
        "points": (Point(id="P1", kind=kind, at=in_room(room), loads=loads),),
        "legs": (Leg(id="L1", a="board", b="P1", segments=(Segment(length_m=8),)),),
        **more,
    }
    return a_circuit(**fields)


def way(*numbers: int, **more: object) -> Way:
    return Way(id=f"W{numbers[0] if numbers else 99}", circuits=tuple(f"C{number}" for number in numbers), **more)


def group(name: str, *ways: Way, ma: float | None = 30, rating_a: float | None = 63, **more: object) -> Group:
    """A group behind an RCD of that residual current; None for no RCD."""
    rcd = None if ma is None else Rcd(rated_ma=ma, type="A")
    return Group(id=name, name=name, ways=ways, **{"rcd": rcd, "rating_a": None if ma is None else rating_a, **more})


def board(*groups: Group, board_id: str = "B1", **more: object) -> Board:
    """A board of which everything is known, but for what is said."""
    fields = {
        "name": "Main board",
        "enclosure": Enclosure(material="metal", ip="IP4X"),
        "main": SWITCH_100,
        "main_poles": 2,
        "surge": Surge(type="2", lead_m=0.4),
        **more,
    }
    return Board(id=board_id, groups=groups, **fields)


def house(
    boards: Iterable[Board],
    *circuits: Circuit,
    supply: Supply = SUPPLY,
    book: Rulebook = BS,
    places: Places = UP_AND_DOWN,
) -> House:
    return house_of(book, supply, tuple(boards), places, [JobCircuit(design=each) for each in circuits])


def judged_house(*args: object, **more: object) -> HouseResult:
    return judge_house(house(*args, **more))


def asked(result: HouseResult, check_id: str) -> Check:
    return next(each for each in result.checks if each.id == check_id)


# Lights and sockets of two storeys.
LIGHTS_UP = circuit(1, "light", "Loft", 1, of="lighting", rating_a=6)
SOCKETS_UP = circuit(2, "socket-twin", "Loft", 8)
LIGHTS_DOWN = circuit(3, "light", "Hall", 1, of="lighting", rating_a=6)
SOCKETS_DOWN = circuit(4, "socket-twin", "Kitchen", 8)
FOUR = (LIGHTS_UP, SOCKETS_UP, LIGHTS_DOWN, SOCKETS_DOWN)


def two_groups(first: tuple[int, ...], second: tuple[int, ...]):
    return board(group("GA", *(way(n) for n in first)), group("GB", *(way(n) for n in second)))
