"""What is said of houses of the street: whole, at their boards, proposed, suspected, inspected, by circuit."""

import random
from collections.abc import Iterator
from dataclasses import replace
from itertools import product
from typing import get_args

from lumbek.core.board.labels import sheet_of_board
from lumbek.core.board.propose import propose_boards
from lumbek.core.board.with_circuit import house_fails_with
from lumbek.core.choosing.propose import propose
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.inquiry import open_inquiry
from lumbek.core.diagnosis.patient import CannotDiagnoseError, patient_of
from lumbek.core.diagnosis.rcd_trips import TripAnswer, When, find_trip
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.registry import KINDS
from lumbek.core.inspection.whole import whole_inspection
from lumbek.core.model.job import Job
from lumbek.core.model.reading import standing
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.testing.lengths import lengths_from_readings
from lumbek.core.testing.taken import Taken
from tests.support.remembered.papers import paper
from tests.support.said import field_lines, in_words, said_of
from tests.support.street import HOUSES, street


def house(number: int) -> Iterator[str]:
    yield from said_of(street(number))


def boards(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield what is proposed for the boards of houses, and what is written at them."""
    for number in numbers:
        gathered = gather(street(number))
        yield gathered.job.name
        for proposal in propose_boards(gathered.house):
            yield f"  {in_words(proposal)}"
        for board in gathered.house.boards:
            yield f"  {in_words(sheet_of_board(gathered.house, board))}"
        for circuit in gathered.job.circuits:
            yield f"  {circuit.key}: {sorted(house_fails_with(gathered.house, circuit.key)(circuit.design))}"


def proposed(number: int) -> Iterator[str]:
    """Yield what is proposed for the first circuits of a house."""
    job = street(number)
    house = gather(job).house
    for circuit in job.circuits[:2]:
        design, fails = house.effective(circuit), house_fails_with(house, circuit.key)
        read = Read.of(circuit.readings)
        found = propose(house.rulebook, house.supply, design, job.protection_school, read, fails)
        yield f"{job.name}, {design.name}"
        yield from field_lines("  ", found)


def suspects(job: Job) -> Iterator[str]:
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
                yield from field_lines("  ", found)


def inspected(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield what an inspection of houses says before anybody has said anything."""
    for number in numbers:
        yield f"House {number}"
        yield from field_lines("  ", whole_inspection(gather(street(number)), "2026-11-30"), apart=True)


def of_circuits(numbers: tuple[int, ...]) -> Iterator[str]:
    """Yield the papers of circuits, and the lengths that their readings give."""
    for number in numbers:
        job = street(number)
        gathered = gather(job)
        for circuit in job.circuits:
            of = replace(gathered, of=circuit)
            yield f"{job.name}, {circuit.design.name}"
            for kind in KINDS:
                if kind.of == "circuit":
                    yield from paper(kind, of)
            studied = study_of(gathered.rulebook, job.supply, gathered.house.effective(circuit))
            yield f"  {in_words(lengths_from_readings(Taken(studied.longest, standing(circuit.readings))))}"


def tripped() -> Iterator[str]:
    """Yield the search for what trips an RCD, answer by answer."""
    for number, when in product(HOUSES[::12], get_args(When)):
        chance = random.Random(number)
        circuits = [circuit.design for circuit in street(number).circuits]
        answers: list[TripAnswer] = []
        for _ in range(6):
            found = find_trip(circuits, when, answers, 30.0, 12.0)
            yield f"{number} {when} {in_words(found)}"
            if found.next is None:
                break
            waited = chance.choice([None, 4.0, 30.0])
            answers.append(TripAnswer(question=found.next.id, tripped=chance.random() < 0.4, waited_h=waited))
