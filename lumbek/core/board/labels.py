"""What is written at a board: a label for each way, the notices it needs, and a note for who lives there."""

from lumbek.core.board.house import House
from lumbek.core.board.ratings import lines_of
from lumbek.core.board.trips import rcd_title, way_title
from lumbek.core.model.board import Board, Group, Way
from lumbek.core.protection.who import device_name
from lumbek.core.value import Frozen

# A module of a board is so wide, and so is a label.
MODULE_MM = 18
# Where somebody writes, and where the day of the next inspection is printed once it is known.
_BLANK, NEXT_BLANK = "____________", "_____________"


class WayLabel(Frozen):
    """The label of a way: its place on the board, what it feeds, and by what it is protected."""

    place: int
    numbers: str
    feeds: str
    device: str
    rcd: str
    own_rcd: str
    neutral: str
    line: str


class Notice(Frozen):
    """A notice that belongs at a board, and why."""

    title: str
    text: str
    why: str


class BoardSheet(Frozen):
    """Everything that is written at one board."""

    board: str
    place: str
    fed_from: str
    labels: tuple[WayLabel, ...]
    notices: tuple[Notice, ...]
    note: tuple[str, ...]


def way_label(house: House, board: Board, group: Group, way: Way, place: int) -> WayLabel:
    """Return the label of a way of a group; its neutral has its number, at the bar of its group."""
    device = house.device_of(way)
    bar = board.groups.index(group) + 1
    own = device.known_rcd if device is not None else None
    own_rcd = f"{own.rated_ma:g} mA" if own is not None and own.rated_ma else ""
    members = [house.members[key] for key in way.circuits]
    three = lines_of(house, board) == 3
    numbers = ", ".join(str(member.number) for member in members)
    return WayLabel(
        place=place,
        numbers=numbers,
        feeds=" and ".join(member.name for member in members) or ("" if way.blank else "spare"),
        device="" if device is None else device_name(house.rulebook, device),
        rcd=own_rcd or rcd_title(group),
        own_rcd=own_rcd,
        neutral=f"N{numbers}" + (f", bar {bar}" if len(board.groups) > 1 else "") if way.circuits else "",
        line=(way.line or ("L1 L2 L3" if any(member.phases == 3 for member in members) else "?")) if three else "",
    )


def fed_from(house: House, board: Board) -> str:
    """Return in words what feeds a board."""
    if board.fed_by is not None and board.fed_by in house.seats:
        seat = house.seats[board.fed_by]
        device = house.device_of(seat.way)
        name = "" if device is None else f", {device_name(house.rulebook, device)}"
        return f"{seat.board.name}, way {seat.board.ways.index(seat.way) + 1}{name}"
    if board.beside is not None and board.beside in house.by_id:
        return f"{house.by_id[board.beside].name}, linked beside it"
    return "the meter"


def notices(house: House, board: Board) -> tuple[Notice, ...]:
    """Return the notices a board needs (514.12, 514.14, 514.15, 537)."""
    found = [
        Notice(
            title="Isolation",
            text=f"Fed from {fed_from(house, board)}. Main switch here opens everything on this board.",
            why="Who works here must find what makes it dead.",
        ),
        Notice(
            title="Inspection",
            text=f"Last inspected {_BLANK}   Next inspection due {NEXT_BLANK}   By {_BLANK}",
            why="The date of the next inspection stands at the origin (514.12.1).",
        ),
    ]
    if _has_rcd(house, board):
        found.append(
            Notice(
                title="RCD test",
                text="Press the button marked T or Test every six months. The device must switch off; switch it on "
                "again. If it does not switch off, seek expert advice.",
                why="A residual-current device is only sure if it is worked (514.12.2).",
            )
        )
    if house.mixed_colours:
        found.append(
            Notice(
                title="Mixed colours",
                text="This installation has wiring to two versions of the rules: red or brown is a line, and black may "
                "be neutral in one and line in the other. Take great care before you work.",
                why="Old and new conductor colours stand in one house (514.14.1).",
            )
        )
    sources = ", ".join(member.title for member in house.behind_board(board) if member.is_source)
    if sources:
        found.append(
            Notice(
                title="Second source",
                text=f"Dual supply: isolate the mains here and also {sources} before working.",
                why="Something generates behind this board (514.15.1).",
            )
        )
    return tuple(found)


def _has_rcd(house: House, board: Board) -> bool:
    devices = (house.device_of(way) for way in board.ways)
    return any(group.rcd is not None for group in board.groups) or any(each and each.rcd for each in devices)


def householder_note(house: House, board: Board) -> tuple[str, ...]:
    """Return what the switches are for and what to do when one trips, in plain words."""
    where = house.places.where(board.at)
    lines = [f"{board.name}{', ' + where if where else ''}. The main switch turns off everything below."]
    for way in board.ways:
        if not way.circuits:
            continue
        rooms = sorted({house.room_name(room) for key in way.circuits for room in house.members[key].rooms if room})
        # By the circuit's number, as on the strip above it.
        lines.append(f"{way_title(house, way)}: {', '.join(rooms)}" if rooms else way_title(house, way))
    lines.append(
        "If one has switched itself off: unplug what you used last on it, then push the lever right down and up again. "
        "If it goes off again at once, leave it off and call an electrician. Never hold it up, never cover it."
    )
    if any(group.rcd is not None for group in board.groups):
        lines.append(
            "If a wide switch with a test button has gone off, turn off every lever beside it, switch it on, then the "
            "levers one by one: the one that puts it off again has the fault. Leave that one off."
        )
    lines.append("Alarms, freezer and heating may be on one that is off: look at them. Do not open the board.")
    return tuple(lines)


def sheet_of_board(house: House, board: Board) -> BoardSheet:
    """Return everything that is written at a board."""
    ways = ((group, way) for group in board.groups for way in group.ways)
    return BoardSheet(
        board=board.name,
        place=house.places.where(board.at),
        fed_from=fed_from(house, board),
        labels=tuple(way_label(house, board, group, way, place) for place, (group, way) in enumerate(ways, start=1)),
        notices=notices(house, board),
        note=householder_note(house, board),
    )
