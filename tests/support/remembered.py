"""All that is remembered of what the application says, file by file: how each is made again."""

import random
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import cache, partial
from importlib.resources import files
from itertools import product
from pathlib import Path
from typing import get_args
from zlib import crc32

from pydantic import ValidationError

from lumbek.core.board.changes import carry_out_on_boards
from lumbek.core.board.commands import BoardCommand
from lumbek.core.board.labels import sheet_of_board
from lumbek.core.board.propose import propose_boards
from lumbek.core.board.with_circuit import house_fails_with
from lumbek.core.choosing.propose import propose
from lumbek.core.circuit.commands import Command, carry_out
from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.circuit.presets import RCD_PRESETS, device_of_standard, laid_by, rcd_of_preset, retyped
from lumbek.core.circuit.usual import next_point, usual_circuit, usual_device
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.inquiry import open_inquiry
from lumbek.core.diagnosis.patient import CannotDiagnoseError, patient_of
from lumbek.core.diagnosis.rcd_trips import TripAnswer, When, find_trip
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.documents.gathered import Gathered, gather
from lumbek.core.documents.paper import Table
from lumbek.core.documents.registry import KINDS, PaperKind, make_paper
from lumbek.core.inspection.whole import whole_inspection
from lumbek.core.model.cable import Cable, CableKind
from lumbek.core.model.circuit import CircuitKind
from lumbek.core.model.device import Rcd, Standard
from lumbek.core.model.job import Job
from lumbek.core.model.leg import BOARD
from lumbek.core.model.reading import standing
from lumbek.core.places.changes import carry_out_on_places
from lumbek.core.places.commands import PlacesCommand
from lumbek.core.plan.answer import answer_plan
from lumbek.core.routes.answer import RoutedHouse
from lumbek.core.routes.orders import orders_of
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.survey.quick import Quick, quick_job
from lumbek.core.switching.answer import answer_switching
from lumbek.core.switching.faces import is_lit
from lumbek.core.testing.lengths import lengths_from_readings
from lumbek.core.testing.taken import Taken
from lumbek.core.value import Frozen
from lumbek.exchange.job_file import make_job, read_job
from tests.support.commands import drawn
from tests.support.finished_report import PARTICULARS, SIGNED, all_sound, reported
from tests.support.houses import BS, IEC
from tests.support.lighting import as_found, core_in, crossed, random_scheme, wired
from tests.support.planned import PLANS, Planned
from tests.support.said import in_words, said_of
from tests.support.street import HOUSES, House

# What is longer than so many characters is cut there, and sealed: a change of the rest shows in its checksum.
_LONG = 300
KEPT = Path(__file__).resolve().parents[1] / "reference" / "said"
_DEMOS = ("signal_box", "signal_box_found", "boathouse")


def _street(number: int) -> Job:
    return make_job(House(number).job())


@cache
def _demo(name: str) -> Job:
    return read_job((files("lumbek.services") / "demo_data" / f"{name}.json").read_bytes())


def _house(number: int) -> Iterator[str]:
    yield from said_of(_street(number))


def _boards(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield what is proposed for the boards of houses, and what is written at them."""
    for number in numbers:
        gathered = gather(_street(number))
        yield gathered.job.name
        for proposal in propose_boards(gathered.house):
            yield f"  {in_words(proposal)}"
        for board in gathered.house.boards:
            yield f"  {in_words(sheet_of_board(gathered.house, board))}"
        for circuit in gathered.job.circuits:
            yield f"  {circuit.key}: {sorted(house_fails_with(gathered.house, circuit.key)(circuit.design))}"


def _proposed(number: int) -> Iterator[str]:
    """Yield what is proposed for the first circuits of a house."""
    job = _street(number)
    house = gather(job).house
    for circuit in job.circuits[:2]:
        design, fails = house.effective(circuit), house_fails_with(house, circuit.key)
        read = Read.of(circuit.readings)
        found = propose(house.rulebook, house.supply, design, job.protection_school, read, fails)
        yield f"{job.name}, {design.name}"
        for name in type(found).model_fields:
            yield f"  {name}: {in_words(getattr(found, name))}"


def _suspects(job: Job) -> Iterator[str]:
    """Yield what the readings of each circuit leave under suspicion, and what to measure next."""
    house = gather(job).house
    for circuit in job.circuits:
        if circuit.readings:
            studied = study_of(house.rulebook, house.supply, house.effective(circuit), read=Read.of(circuit.readings))
            patient = patient_of(studied, 20.0)
            try:
                found = diagnosis_of(open_inquiry(patient, taken_of(patient, standing(circuit.readings))))
            except CannotDiagnoseError as error:
                yield f"{job.name}, {circuit.design.name}: {error}"
            else:
                yield f"{job.name}, {circuit.design.name}"
                for name in type(found).model_fields:
                    yield f"  {name}: {in_words(getattr(found, name))}"


def _lighting(part: int) -> Iterator[str]:
    """Yield what is said of lights: planned, wired, and with two cores taken for each other."""
    for number in range(part, part + 4):
        chance = random.Random(number)
        asked = random_scheme(chance)
        made = wired(asked)
        place = chance.choice([point for point in made.points if point.joins])
        terminals = [join.terminals[0] for join in place.joins if join.terminals]
        one, other = (core_in(made, place.id, each) for each in chance.sample([*terminals, terminals[0]], 2))
        wrong = as_found(crossed(made, place.id, one, other))
        for what, circuit in (("planned", asked), ("wired", made), (f"crossed at {place.id}", wrong)):
            answer = answer_switching(BS, {circuit.number: circuit}, circuit.number)
            yield f"lights {number}, {what}"
            for name in type(answer).model_fields:
                yield f"  {name}: {in_words(getattr(answer, name))}"


def _papers(gathered: Gathered) -> Iterator[str]:
    """Yield every paper of a job, block by block."""
    for kind in KINDS:
        if kind.of == "job" and kind.rulebooks in ((), (gathered.job.rulebook,)):
            yield from _paper(kind, gathered)


def _paper(kind: PaperKind, gathered: Gathered) -> Iterator[str]:
    paper = make_paper(kind, gathered)
    yield f"paper {kind.id}: {in_words(paper.model_copy(update={'sections': ()}))}"
    for section in paper.sections:
        yield f"  {section.title}"
        for block in section.blocks:
            for row in block.rows if isinstance(block, Table) else (block,):
                yield f"    {in_words(row)}"


def _moved(was: Frozen, now: Frozen) -> str:
    """Return what a command changed, part by part."""
    moved = {name: getattr(now, name) for name in type(now).model_fields if getattr(now, name) != getattr(was, name)}
    return "; ".join(f"{name}: {in_words(each)}" for name, each in moved.items()) or "nothing"


def _circuits_changed(number: int) -> Iterator[str]:
    """Yield what commands of every kind make of circuits: of two of a house, and of one with lights."""
    chance = random.Random(number)
    of_house = [circuit.design for circuit in _street(number).circuits[:2]]
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


def _boards_changed(number: int) -> Iterator[str]:
    """Yield what commands of every kind make of the boards of a house."""
    job, chance = _street(number), random.Random(number)
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


def _places_changed(number: int) -> Iterator[str]:
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


def _inspected(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield what an inspection of houses says before anybody has said anything."""
    for number in numbers:
        whole = whole_inspection(gather(_street(number)), "2026-11-30")
        yield f"House {number}"
        for name in type(whole).model_fields:
            found = getattr(whole, name)
            for each in found if isinstance(found, tuple) else (found,):
                yield f"  {name}: {in_words(each)}"


def _of_circuits(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield the papers of circuits, and the lengths that their readings give."""
    for number in numbers:
        job = _street(number)
        gathered = gather(job)
        for circuit in job.circuits:
            of = replace(gathered, of=circuit)
            yield f"{job.name}, {circuit.design.name}"
            for kind in KINDS:
                if kind.of == "circuit":
                    yield from _paper(kind, of)
            studied = study_of(gathered.rulebook, job.supply, gathered.house.effective(circuit))
            yield f"  {in_words(lengths_from_readings(Taken(studied.longest, standing(circuit.readings))))}"


def _tripped() -> Iterator[str]:
    """Yield the search for what trips an RCD, answer by answer."""
    for number, when in product(HOUSES[::12], get_args(When)):
        chance = random.Random(number)
        circuits = [circuit.design for circuit in _street(number).circuits]
        answers: list[TripAnswer] = []
        for _ in range(6):
            found = find_trip(circuits, when, answers, 30.0, 12.0)
            yield f"{number} {when} {in_words(found)}"
            if found.next is None:
                break
            waited = chance.choice([None, 4.0, 30.0])
            answers.append(TripAnswer(question=found.next.id, tripped=chance.random() < 0.4, waited_h=waited))


def _plan(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield what is said of houses by the tape: room by room, wall by wall, leg by leg."""
    for number in numbers:
        job = make_job(Planned(number).job())
        gathered = gather(job)
        yield from _answered(job, gathered)
        for kind in KINDS:
            if kind.id in ("set-out", "first-fix", "take-off"):
                yield from _paper(kind, gathered)


def _answered(job: Job, gathered: Gathered) -> Iterator[str]:
    """Yield what is said of a plan, and of the ways by it."""
    plan = answer_plan(job.places, gathered.rulebook)
    yield f"{job.name}, {gathered.rulebook.id}"
    for name in type(plan).model_fields:
        if name != "rooms":
            yield f"  {name}: {in_words(getattr(plan, name))}"
    for room in plan.rooms:
        for name in type(room).model_fields:
            found = getattr(room, name)
            for each in found if isinstance(found, tuple) and len(in_words(found)) > _LONG else (found,):
                yield f"  {room.room} {name}: {in_words(each)}"
    for leg in gathered.routes.legs:
        yield f"  {in_words(leg)}"
    yield f"  {in_words(gathered.routes.model_copy(update={'legs': ()}))}"
    routed = RoutedHouse(job.places, gathered.house.boards, job.rulebook)
    sockets = [mark.id for mark in job.places.marks if mark.kind == "socket" and mark.id in routed.house.ends]
    yield f"  orders: {in_words(orders_of(routed, sockets[:5]))}"


def _whole(name: str) -> Iterator[str]:
    """Yield everything that is said of a house of the demo."""
    job = _demo(name)
    gathered = gather(job)
    yield from said_of(job)
    yield from _papers(gathered)
    yield from _answered(job, gathered)
    yield f"work: {in_words(gathered.work)}"
    designs = {circuit.design.number: circuit.design for circuit in job.circuits}
    for number, design in designs.items():
        if is_lit(design):
            yield f"switching: {in_words(answer_switching(gathered.rulebook, designs, number))}"


def _report() -> Iterator[str]:
    """Yield the papers of an inspection that is finished."""
    job = _demo("signal_box_found")
    yield from _papers(reported(job, *all_sound(gather(job)), PARTICULARS, *SIGNED))


def _quick() -> Iterator[str]:
    """Yield the jobs of small changes, as they begin."""
    chance = random.Random(1)
    asked = (
        ("light", "socket", "breaker"),
        ("10", "6", "none", "plastic", "unknown"),
        ("30-A", "30", "none", "unknown"),
    )
    for what, bonding, rcd in product(*asked):
        said = {
            "what": what,
            "bonding": bonding,
            "rcd": rcd,
            "earthing": chance.choice(["TN-S", "TN-C-S", "TT", None]),
            "standard": chance.choice(["bs-en-60898", "bs-en-61009", "bs3036"]),
            "rating_a": chance.choice([6, 16, 20, 32]),
            "csa_mm2": chance.choice([None, 1.0, 2.5]),
            "room": chance.choice(["", "Hall"]),
            "on_ring": chance.random() < 0.5,
            "new_length_m": chance.choice([None, 4.5]),
            "fault_current_ka": chance.choice([None, 1.2]),
            "kind": chance.choice([None, "cooker"]) if what == "breaker" else None,
        }
        job = quick_job(BS, Quick.model_validate(said))
        gathered = gather(job)
        yield f"{what}, bonding {bonding}, RCD {rcd}: {in_words(job)}"
        checks = (*gathered.survey.checks, *gathered.answers[0].result.checks)
        yield "  " + ", ".join(f"{each.id} {each.verdict}" for each in checks if each.verdict != "not-applicable")


def _usual() -> Iterator[str]:
    """Yield what is usual for each kind of circuit, and what follows from each choice."""
    for book in (BS, IEC):
        for kind in get_args(CircuitKind):
            circuit = usual_circuit(book, kind)
            yield f"{book.id} {kind}: {in_words(circuit)} then {in_words(next_point(book, circuit))}"
        device = usual_device(book, "sockets")
        for standard, found in product(get_args(Standard), (False, True)):
            if standard in book.devices:
                yield f"{book.id} {standard}: {in_words(device_of_standard(book, device, standard, found))}"
        for kind, was in product(get_args(CableKind), get_args(CableKind)):
            cable = retyped(book, Cable(type=was), kind)
            yield f"{book.id} {was} to {kind}: {in_words(cable)}, {laid_by(book, cable, 'C', was)}"
    now = (None, Rcd(rated_ma=30, type="F"), Rcd())
    for preset, rcd, found in product(RCD_PRESETS, now, (False, True)):
        yield f"{preset.id} {in_words(rcd)} {found}: {in_words(rcd_of_preset(preset.id, rcd, found))}"


def lines_of(name: str) -> Iterator[str]:
    """Yield the lines of one of what is remembered, as they are kept."""
    for line in REMEMBERED[name]():
        yield line if len(line) <= _LONG else f"{line[:_LONG]}… {crc32(line.encode()):08x}"


REMEMBERED: dict[str, Callable[[], Iterator[str]]] = {
    **{f"house_{number:03}": partial(_house, number) for number in HOUSES},
    **{f"boards_{part}": partial(_boards, HOUSES[part::20]) for part in range(4)},
    **{f"proposed_{number:03}": partial(_proposed, number) for number in HOUSES[3::8]},
    **{f"suspects_{number:03}": partial(lambda number: _suspects(_street(number)), number) for number in HOUSES[4::6]},
    **{f"circuits_changed_{number:03}": partial(_circuits_changed, number) for number in HOUSES[7::15]},
    **{f"boards_changed_{number:03}": partial(_boards_changed, number) for number in HOUSES[9::15]},
    **{f"places_changed_{number:02}": partial(_places_changed, number) for number in PLANS[2::8]},
    **{f"inspected_{part}": partial(_inspected, HOUSES[part::12]) for part in range(3)},
    **{f"of_circuits_{part}": partial(_of_circuits, HOUSES[part::15]) for part in range(2)},
    "tripped": _tripped,
    **{f"plans_{part}": partial(_plan, PLANS[part::4]) for part in range(4)},
    **{f"lighting_{part:02}": partial(_lighting, part) for part in range(0, 12, 4)},
    **{name: partial(_whole, name) for name in _DEMOS},
    "report": _report,
    "quick": _quick,
    "usual": _usual,
}
