"""All that is remembered of what the application says, file by file: how each is made again."""

import random
from collections.abc import Callable, Iterator
from functools import cache, partial
from importlib.resources import files
from itertools import product
from pathlib import Path
from typing import get_args
from zlib import crc32

from lumbek.core.board.labels import sheet_of_board
from lumbek.core.board.propose import propose_boards
from lumbek.core.board.with_circuit import house_fails_with
from lumbek.core.choosing.propose import propose
from lumbek.core.circuit.presets import RCD_PRESETS, device_of_standard, laid_by, rcd_of_preset, retyped
from lumbek.core.circuit.usual import next_point, usual_circuit, usual_device
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.inquiry import open_inquiry
from lumbek.core.diagnosis.patient import CannotDiagnoseError, patient_of
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.documents.gathered import Gathered, gather
from lumbek.core.documents.paper import Table
from lumbek.core.documents.registry import KINDS, PaperKind, make_paper
from lumbek.core.model.cable import Cable, CableKind
from lumbek.core.model.circuit import CircuitKind
from lumbek.core.model.device import Rcd, Standard
from lumbek.core.model.job import Job
from lumbek.core.model.reading import standing
from lumbek.core.plan.answer import answer_plan
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.survey.quick import Quick, quick_job
from lumbek.core.switching.answer import answer_switching
from lumbek.core.switching.faces import is_lit
from lumbek.exchange.job_file import make_job, read_job
from tests.support.finished_report import PARTICULARS, SIGNED, all_sound, reported
from tests.support.houses import BS, IEC
from tests.support.lighting import as_found, core_in, crossed, random_scheme, wired
from tests.support.planned import PLANS, Planned
from tests.support.said import in_words, said_of
from tests.support.street import HOUSES, House

# What is longer than so many characters is cut there, and sealed: a change of the rest shows in its checksum.
_LONG = 400
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
    **{f"plans_{part}": partial(_plan, PLANS[part::4]) for part in range(4)},
    **{f"lighting_{part:02}": partial(_lighting, part) for part in range(0, 12, 4)},
    **{name: partial(_whole, name) for name in _DEMOS},
    "report": _report,
    "quick": _quick,
    "usual": _usual,
}
