"""What commands make of circuits, boards and plans."""

import random
from collections.abc import Iterator

from pydantic import ValidationError

from lumbek.core.board.changes import carry_out_on_boards
from lumbek.core.board.commands import BoardCommand
from lumbek.core.circuit.commands import Command, carry_out
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.documents.gathered import gather
from lumbek.core.model.leg import BOARD
from lumbek.core.places.changes import carry_out_on_places
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.value import Frozen
from lumbek.exchange.job_file import make_job
from tests.support.commands import drawn
from tests.support.houses import BS
from tests.support.lighting import random_scheme, wired
from tests.support.planned import Planned
from tests.support.said import in_words
from tests.support.street import street


def _moved(was: Frozen, now: Frozen) -> str:
    """Return what a command changed, part by part."""
    moved = {name: getattr(now, name) for name in type(now).model_fields if getattr(now, name) != getattr(was, name)}
    return "; ".join(f"{name}: {in_words(each)}" for name, each in moved.items()) or "nothing"


def circuits_changed(number: int) -> Iterator[str]:
    """Yield what commands of every kind make of circuits: of two of a house, and of one with lights."""
    chance = random.Random(number)
    of_house = [circuit.design for circuit in street(number).circuits[:2]]
    for design in (*of_house, wired(random_scheme(chance))):
        points, legs = [point.id for point in design.points], [leg.id for leg in design.legs]
        places = (*points, BOARD)
        ids = {
            **dict.fromkeys(("point", "a", "to"), points or ("P1",)),
            **dict.fromkeys(("after", "off", "b"), places),
            **dict.fromkeys(("leg", "into_leg", "other", "beside_leg"), legs or ("L1",)),
        }
        yield f"{design.name}: {in_words(design)}"
        for said, command in drawn(Command, ids, chance):
            try:
                found = carry_out(BS, design, (command,))
            except (EditRefusedError, ValidationError) as error:
                yield f"  {said}: refused, {str(error).splitlines()[0]}"
            else:
                yield f"  {said}: {_moved(design, found.circuit)}, {found.focus}"


def boards_changed(number: int) -> Iterator[str]:
    """Yield what commands of every kind make of the boards of a house."""
    job, chance = street(number), random.Random(number)
    keys = tuple(circuit.key for circuit in job.circuits)
    boards = tuple(gather(job).house.boards)
    ids = {
        **dict.fromkeys(("board", "beside"), tuple(board.id for board in boards)),
        **dict.fromkeys(("group", "neutral_at"), tuple(group.id for board in boards for group in board.groups)),
        **dict.fromkeys(("circuit", "fed_by"), keys),
        "way": [way.id for board in boards for way in board.ways],
    }
    for said, command in drawn(BoardCommand, ids, chance, each=6):
        try:
            after = carry_out_on_boards(boards, keys, command)
        except (EditRefusedError, ValidationError) as error:
            yield f"{said}: refused, {str(error).splitlines()[0]}"
        else:
            yield f"{said}: {in_words([each for each in after if each not in boards])}, {len(after)}"


def places_changed(number: int) -> Iterator[str]:
    """Yield what commands of every kind make of a house by the tape."""
    places, chance = make_job(Planned(number).job()).places, random.Random(number)
    outline = places.rooms[0].outline
    assert outline is not None, "all its rooms are measured"
    ids = {
        **dict.fromkeys(("room", "of"), tuple(room.id for room in places.rooms)),
        **dict.fromkeys(("wall", "also"), tuple(wall.id for wall in outline.walls)),
        "part": [each.id for each in (*outline.openings, *outline.things)],
        "mark": [mark.id for mark in places.marks],
        "storey": [storey.id for storey in places.storeys],
        "typed": (
            "Snug 3.20 x 2.80",
            "3.20 x 2.80",
            "socket n left 400 at 450",
            "door 838 s left 100",
            "bed 1400 n left 600",
        ),
    }
    for said, command in drawn(PlacesCommand, ids, chance, each=6):
        try:
            after = carry_out_on_places(places, command, {})
        except (EditRefusedError, ValidationError) as error:
            yield f"{said}: refused, {str(error).splitlines()[0]}"
        else:
            yield f"{said}: {_moved(places, after)}"
