"""The house of a job as it is kept: its boards with its circuits in them, and a circuit as it sits there."""

import json
from collections.abc import Sequence
from functools import partial
from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from lumbek.core.board.house import House, house_with
from lumbek.core.board.member import Member, member_of
from lumbek.core.model.board import Board, Boards
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.job import JobCircuit
from lumbek.core.model.places import Places
from lumbek.core.model.supply import Supply
from lumbek.core.model.visit import copper_c
from lumbek.core.places.named import named
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.own_earth import read_electrode_ohm
from lumbek.core.study.read import Read
from lumbek.core.survey.as_read import as_read
from lumbek.exchange.upgrade import CURRENT, WITH_HOUSE, upgrade
from lumbek.exchange.upgrade_boards import BoardTree
from lumbek.exchange.upgrade_places import RoomsByName
from lumbek.services.documents import boards_of, design_of, head_of, places_of, reading_of, supply_of, visit_of
from lumbek.services.worked_out import Results, Source, house_key
from lumbek.store import jobs as store
from lumbek.store.models import CircuitRow, JobRow, PlacesRow


def key_of(circuit_id: UUID) -> str:
    """Return what the boards know a circuit by."""
    return circuit_id.hex


def supply_in(db: Session, job: JobRow) -> Supply:
    """Return the supply of a job as surveyed and measured."""
    return as_read(supply_of(job), map(reading_of, store.readings_of_job(db, job.id)), boards_of(job).boards)


def read_in(db: Session, job: JobRow, circuit_id: UUID) -> Read:
    """Return what was read of a circuit, as far as its design is judged by it."""
    rows = store.standing_readings_of(db, [circuit_id])[circuit_id]
    return Read.of(map(reading_of, rows), copper_c([visit_of(each) for each in store.visits_of(db, job.id)]))


def house_in(db: Session, results: Results, job: JobRow, rows: Sequence[CircuitRow] = ()) -> House:
    """Return the house of a job. Of circuits that have not changed nothing is read; `rows` are those at hand."""
    head, at_hand = head_of(job), {row.id: row for row in rows}
    rulebook = rulebook_of(head)
    versions = store.circuit_versions(db, job.id)
    edition = f"{head.rulebook} {head.edition}"
    wanted = [
        circuit_id
        for circuit_id, version in versions
        if circuit_id not in at_hand and not results.has_member((circuit_id, version, edition))
    ]
    at_hand |= {row.id: row for row in store.circuits_by_id(db, wanted)}

    def member(circuit_id: UUID, version: int) -> Member:
        def make() -> Member:
            row = at_hand.get(circuit_id) or store.circuits_by_id(db, [circuit_id])[0]
            return member_of(rulebook, JobCircuit(id=key_of(circuit_id), design=design_of(row)))

        return results.member((circuit_id, version, edition), make)

    places = places_of(store.places_of(db, job.id))
    members = [member(circuit_id, version) for circuit_id, version in versions]
    electrodes = _electrodes_in(db, [UUID(hex=member.key) for member in members if member.on_own_earth])
    return house_with(rulebook, supply_in(db, job), boards_of(job).boards, places, members, electrodes)


def _electrodes_in(db: Session, circuits: list[UUID]) -> dict[str, float]:
    """Return what the electrodes of these circuits were read at, Ω, by the circuits' keys."""
    rows = store.standing_readings_of(db, circuits) if circuits else {}
    read = {key_of(each): read_electrode_ohm(map(reading_of, found)) for each, found in rows.items()}
    return {key: ohm for key, ohm in read.items() if ohm is not None}


def keyed_designs(db: Session, results: Results, job: JobRow) -> list[tuple[str, Circuit]]:
    """Return what each circuit of a job is known by, and its design; of those that have not changed nothing is read."""
    rows = store.circuits_of(db, job.id, designs=False)
    return [(key_of(row.id), results.design(row.id, row.version, partial(design_of, row))) for row in rows]


def designs_in(db: Session, job: JobRow, rows: Sequence[CircuitRow]) -> list[Circuit]:
    """Return the designs of circuits of a job, their points with what their rooms are called."""
    places = places_of(store.places_of(db, job.id))
    return [named(design_of(row), places.name_of) for row in rows]


def design_in(db: Session, job: JobRow, row: CircuitRow) -> Circuit:
    """Return the design of a circuit of a job, its points with what their rooms are called."""
    return designs_in(db, job, [row])[0]


def seat_of(house: House, row: CircuitRow, job: JobRow, design: Circuit) -> tuple[Source, Circuit]:
    """Return a design as it sits in its house, and what its results follow from."""
    placed = house.placed(key_of(row.id), design)
    seat = ""
    if placed is not design:
        parts = [
            [each.model_dump(mode="json") for each in placed.ahead],
            placed.device.model_dump(mode="json"),
            # Of its points the house says what their rooms are called, and what a board that one feeds draws.
            [each.room for each in placed.points],
            [each.model_dump(mode="json") for each in placed.points if each.kind == "board"],
            placed.surroundings.bath_fellow,
            placed.own_earth.model_dump(mode="json") if placed.own_earth is not None else None,
        ]
        seat = json.dumps(parts, sort_keys=True)
    return Source(row.id, row.version, house_key(head_of(job), house.supply), seat), placed


def shares_rcd(job: JobRow, circuit_id: UUID) -> bool:
    """Whether a circuit is in a way behind an RCD of its group."""
    groups = (group for board in boards_of(job).boards for group in board.groups)
    return any(group.rcd is not None and key_of(circuit_id) in way.circuits for group in groups for way in group.ways)


def lone(design: Circuit) -> Circuit:
    """Return a design that comes from elsewhere, rid of what its house said of it there."""
    rcd = design.device.known_rcd
    device = design.device.model_copy(update={"rcd": None}) if rcd is not None and rcd.shared else design.device
    return design.model_copy(update={"ahead": (), "device": device})


def renamed(boards: Sequence[Board], names: dict[str, str]) -> tuple[Board, ...]:
    """Return boards whose circuits are called otherwise; those without a new name are let go of."""
    return tuple(
        board.with_ways(lambda way: way.holding(names[key] for key in way.circuits if key in names)).model_copy(
            update={"fed_by": names.get(board.fed_by or "")}
        )
        for board in boards
    )


def bring_forward(db: Session, job: JobRow) -> None:
    """Make of what the circuits of an older job say of the house around them boards and rooms; the job is held.

    Every state that was kept stays as it was written; only what stands now is written anew.
    """
    if job.format >= WITH_HOUSE:
        return
    rooms = RoomsByName(job.house.get("storeys", []))
    if job.format < 3:
        _make_boards(db, job)
    for row in store.circuits_of(db, job.id):
        rooms.see(row.design if row.format >= 3 else upgrade("circuit", row.design, row.format, to=3))
    job.supply = upgrade("supply", job.supply, job.format)
    job.house, job.format = upgrade("house", job.house, job.format), CURRENT
    begin_places(db, job, Places.model_validate(rooms.places()), None)
    db.flush()


def begin_places(db: Session, job: JobRow, places: Places, by_id: UUID | None) -> None:
    """Keep the first storeys and rooms of a job."""
    document = places.model_dump(mode="json")
    row = PlacesRow(id=job.id, version=1, document=document, format=CURRENT, changed_by=job.changed_by)
    db.add(row)
    store.keep_places_revision(db, row, by_id)


def _make_boards(db: Session, job: JobRow) -> None:
    """Make a tree of boards of what the circuits of a job of version 2 say of what is ahead of them."""
    tree, names = BoardTree(), dict[str, str]()
    for row in store.circuits_of(db, job.id, lock=True):
        key, design = tree.take(upgrade("circuit", row.design, row.format, to=2) if row.format < 3 else row.design)
        names[key or ""] = key_of(row.id)
        row.design, row.format = design, 3
    boards, feeders = tree.finish()
    place = store.next_place(db, job.id)
    for index, feeder in enumerate(feeders):
        design = Circuit.model_validate(feeder["design"]).model_dump(mode="json")
        row = CircuitRow(
            id=uuid4(),
            job_id=job.id,
            place=place + index,
            version=1,
            changed_by=job.changed_by,
            design=design,
            format=CURRENT,
        )
        db.add(row)
        db.flush()
        store.keep_circuit_revision(db, row, None)
        names[feeder["id"]] = key_of(row.id)
    kept = Boards(boards=renamed([Board.model_validate(board) for board in boards], names))
    job.house = kept.model_dump(mode="json")
