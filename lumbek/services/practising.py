"""The practice house: exercises begun, carried on, and reckoned; what a supervisor sets, and how the others get on.

What is kept of an exercise is what was done in it. It is worked out anew from its seed each time, so the server never
holds, and never sends, what it hides.
"""

from datetime import datetime
from functools import partial
from uuid import UUID

from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from lumbek.core.model.circuit import Circuit
from lumbek.core.model.text import Note
from lumbek.core.value import Frozen
from lumbek.practice.exercise import MAKES, MOST_ACTS, Act, BadActError, ExerciseView, Kind, Level, School, Seed
from lumbek.practice.ladder import Past, Rung, ladder
from lumbek.practice.make import KINDS, after, begin
from lumbek.services import audit
from lumbek.services.circuits import need_circuit
from lumbek.services.clock import now
from lumbek.services.deeds import Deed
from lumbek.services.documents import design_of, head_of
from lumbek.services.errors import BadInputError, ChangedMeanwhileError, NotFoundError
from lumbek.services.heavy import Piece
from lumbek.services.person import Person
from lumbek.services.writes import done_before
from lumbek.store import practice as store
from lumbek.store.database import Database
from lumbek.store.models import PracticeAct, PracticeRun, PracticeSet

MOST_SETS, MOST_LISTED, MOST_OPEN, MOST_NUMBER = 20, 30, 50, 1_000_000


class ExerciseAsked(Frozen):
    """An exercise that somebody wants: its kind and level, its seed where it is one in particular."""

    kind: Kind
    level: Level
    seed: Seed | None = None
    school: School = School()


class RunDocument(Frozen):
    """An exercise as it is kept; `given` where it is a circuit of one's own with a fault put in.

    `makes` is the version that made it.
    """

    kind: Kind
    level: Level
    seed: Seed
    school: School = School()
    given: Circuit | None = None
    makes: int = 1


class SetDocument(Frozen):
    """An exercise that is set to everybody, with a word to it."""

    kind: Kind
    level: Level
    seed: Seed
    school: School = School()
    note: Note = ""
    given: Circuit | None = None


class Erred(Frozen):
    """Something that went wrong in an exercise."""

    did: str
    clause: str = ""


class PracticeMarks(Frozen):
    """How an exercise went, as it is kept."""

    marks: int
    safe: bool
    right: int
    asked: int
    minutes: int
    least_minutes: int
    hints: int
    erred: tuple[Erred, ...] = ()


class RunLine(Frozen):
    """An exercise in a list; `marks` is None while it goes on."""

    id: UUID
    kind: Kind
    title: str
    level: int
    seed: int
    at: datetime
    set_id: UUID | None
    marks: PracticeMarks | None


class SetLine(Frozen):
    """Something that was set, and how one's own went."""

    id: UUID
    kind: Kind
    title: str
    level: int
    seed: int
    note: str
    by: str
    at: datetime
    run_id: UUID | None
    marks: PracticeMarks | None


class PracticeHome(Frozen):
    """What comes next in each kind, what was set, and one's own record, the latest first."""

    rungs: tuple[Rung, ...]
    sets: tuple[SetLine, ...]
    runs: tuple[RunLine, ...]


class LearnerLine(Frozen):
    """How one of the people gets on: by kind, and where they erred of late."""

    id: UUID
    name: str
    ended: int
    unsafe: int
    rungs: tuple[Rung, ...]
    erred: tuple[Erred, ...]


class RunView(Frozen):
    """An exercise as it stands."""

    id: UUID
    exercise: ExerciseView


class Carried(Frozen):
    """What came of an act: the exercise after it, or why it cannot be done."""

    view: ExerciseView | None
    refused: str = ""


_MADE_OTHERWISE = (
    "This exercise was begun with an earlier version, which made it otherwise: its marks stand, begin another."
)


def carry_on(document: RunDocument, acts: tuple[Act, ...]) -> Carried:
    """Return an exercise after what was done in it. To be done elsewhere: it is worked out from its seed."""
    if document.makes != MAKES:
        return Carried(view=None, refused=_MADE_OTHERWISE)
    try:
        exercise = begin(document.kind, document.seed, document.level, document.school, document.given)
        return Carried(view=after(exercise, acts).view())
    except BadActError as error:
        return Carried(view=None, refused=str(error))


def as_it_stands(run_id: UUID, carried: Carried) -> RunView:
    """Return an exercise as it stands. Raises BadInputError for one that is made otherwise since it was begun."""
    if carried.view is None:
        raise BadInputError(_MADE_OTHERWISE)
    return RunView(id=run_id, exercise=carried.view)


class PracticeService:
    """Use cases on exercises."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def home(self, person: Person) -> PracticeHome:
        """Return what comes next for somebody, and what they did so far."""
        with self._database.transaction() as db:
            lines = [_line(run, act) for run, act in store.runs_of(db, person.firm_id, person.user_id)]
            own = {line.set_id: line for line in lines if line.set_id is not None}
            return PracticeHome(
                rungs=ladder(_past(lines), now().toordinal()),
                sets=tuple(_set_line(each, own.get(each.id)) for each in store.sets_of(db, person.firm_id, MOST_SETS)),
                runs=tuple(reversed(lines[-MOST_LISTED:])),
            )

    def start(
        self,
        person: Person,
        run_id: UUID,
        asked: ExerciseAsked,
        set_id: UUID | None = None,
        circuit_id: UUID | None = None,
        like: UUID | None = None,
    ) -> UUID:
        """Begin an exercise, once; one that was set, on a circuit of one's own, or like one that one had, if said.

        Raises BadInputError where too many are open, NotFoundError for what is not there.
        """
        with self._database.transaction() as db:
            before = done_before(db, person, run_id, run_id)
            if before is not None:
                return before
            if store.open_runs(db, person.firm_id, person.user_id, MAKES) >= MOST_OPEN:
                raise BadInputError(f"{MOST_OPEN} exercises are open: end some of them first.")
            document = self._asked(db, person, run_id, asked, set_id, circuit_id, like)
            if document.given is not None:
                _try(document)
            who = {"firm_id": person.firm_id, "user_id": person.user_id, "set_id": set_id, "at": now()}
            db.add(PracticeRun(id=run_id, document=document.model_dump(mode="json", exclude_defaults=True), **who))
            return run_id

    def _asked(
        self,
        db: Session,
        person: Person,
        run_id: UUID,
        asked: ExerciseAsked,
        set_id: UUID | None,
        circuit_id: UUID | None,
        like: UUID | None,
    ) -> RunDocument:
        if set_id is not None:
            found = store.set_of(db, person.firm_id, set_id)
            if found is None:
                raise NotFoundError("There is no such exercise.")
            return _run_of(SetDocument.model_validate(found.document))
        # Everybody's is another unless it is asked for by its number.
        seed = asked.seed if asked.seed is not None else run_id.int % MOST_NUMBER
        if like is not None:
            before = RunDocument.model_validate(_need_run(db, person, like).document)
            return before.model_copy(update={"seed": seed, "makes": MAKES})
        given, school = None, asked.school
        if circuit_id is not None:
            given, school = _own_circuit(db, person, circuit_id, school)
        return RunDocument(kind=asked.kind, level=asked.level, seed=seed, school=school, given=given, makes=MAKES)

    def open(self, person: Person, run_id: UUID) -> Piece[Carried]:
        """Return an exercise of one's own as it stands, to be worked out."""
        with self._database.transaction() as db:
            run = _need_run(db, person, run_id)
            acts = tuple(Act.model_validate(each.document) for each in store.acts_of(db, run.id))
            return Piece(partial(carry_on, RunDocument.model_validate(run.document), acts))

    def try_act(self, person: Person, run_id: UUID, act_id: UUID, act: Act) -> tuple[Piece[Carried], int]:
        """Return an exercise with one act more, to be worked out, and how many there were.

        An act that is kept already is not done again.
        """
        with self._database.transaction() as db:
            run = _need_run(db, person, run_id)
            kept = store.acts_of(db, run.id)
            if len(kept) >= MOST_ACTS:
                raise BadInputError(f"An exercise takes no more than {MOST_ACTS} acts.")
            acts = [Act.model_validate(each.document) for each in kept]
            if all(each.id != act_id for each in kept):
                acts.append(act)
            return Piece(partial(carry_on, RunDocument.model_validate(run.document), tuple(acts))), len(kept)

    def keep(self, person: Person, run_id: UUID, act_id: UUID, act: Act, place: int, carried: Carried) -> RunView:
        """Keep an act that can be done, once.

        Raises BadInputError for one that cannot, ChangedMeanwhileError where it was carried on elsewhere.
        """
        if carried.view is None:
            raise BadInputError(carried.refused)
        with self._database.transaction() as db:
            run = _need_run(db, person, run_id)
            if done_before(db, person, act_id, run.id) is None:
                document = act.model_dump(mode="json", exclude_defaults=True)
                marks = _marks(carried.view)
                kept = None if marks is None else marks.model_dump(mode="json")
                db.add(PracticeAct(id=act_id, run_id=run.id, place=place, document=document, marks=kept, at=now()))
                try:
                    db.flush()
                except IntegrityError as error:
                    raise ChangedMeanwhileError(
                        "This exercise was carried on elsewhere: it is shown as it stands.", {}
                    ) from error
        return RunView(id=run_id, exercise=carried.view)

    def put_set(
        self, person: Person, set_id: UUID, document: SetDocument, circuit_id: UUID | None = None
    ) -> PracticeHome:
        """Set an exercise to everybody, once; on a circuit of a job with a fault put in, where that is said.

        Raises BadInputError for a circuit that no fault can be put into.
        """
        with self._database.transaction() as db:
            if done_before(db, person, set_id, set_id) is None:
                if circuit_id is not None:
                    given, school = _own_circuit(db, person, circuit_id, document.school)
                    document = document.model_copy(update={"kind": "faults", "given": given, "school": school})
                    _try(_run_of(document))
                who = {"by": person.name, "by_id": person.user_id, "at": now(), "firm_id": person.firm_id}
                db.add(PracticeSet(id=set_id, document=document.model_dump(mode="json"), **who))
                audit.note(db, person, Deed.PRACTICE_SET, set_id, f"{document.kind}, level {document.level}")
        return self.home(person)

    def learners(self, person: Person) -> tuple[LearnerLine, ...]:
        """Return how the people of a firm get on, those who practised."""
        with self._database.transaction() as db:
            people = store.people_of(db, person.firm_id)
            by_person: dict[UUID, list[RunLine]] = {}
            for run, act in store.runs_of(db, person.firm_id):
                by_person.setdefault(run.user_id, []).append(_line(run, act))
        today = now().toordinal()
        return tuple(
            LearnerLine(
                id=who,
                name=people.get(who, ""),
                ended=len(marked := [line.marks for line in lines if line.marks is not None]),
                unsafe=sum(not marks.safe for marks in marked),
                rungs=ladder(_past(lines), today),
                erred=tuple(erred for marks in reversed(marked) for erred in marks.erred)[:MOST_SETS],
            )
            for who, lines in sorted(by_person.items(), key=lambda each: people.get(each[0], ""))
        )


def _own_circuit(db: Session, person: Person, circuit_id: UUID, school: School) -> tuple[Circuit, School]:
    """Return a circuit of the firm, and the school with the rulebook of its job. Raises NotFoundError."""
    row, job = need_circuit(db, person, circuit_id)
    return design_of(row), school.model_copy(update={"rulebook": head_of(job).rulebook})


def _run_of(document: SetDocument) -> RunDocument:
    """Return what was set as it is begun."""
    return RunDocument.model_validate({**document.model_dump(exclude={"note"}), "makes": MAKES})


def _try(document: RunDocument) -> None:
    """Refuse a circuit of one's own that no fault can be put into. Raises BadInputError."""
    found = carry_on(document, ())
    if found.view is None:
        raise BadInputError(found.refused)


def _need_run(db: Session, person: Person, run_id: UUID) -> PracticeRun:
    """Return an exercise of one's own: nobody carries on another's. Raises NotFoundError."""
    found = store.run_of(db, person.firm_id, run_id)
    if found is None or found.user_id != person.user_id:
        raise NotFoundError("There is no such exercise.")
    return found


def _marks(view: ExerciseView) -> PracticeMarks | None:
    """Return how an exercise went, once it has ended."""
    found = view.reckoning
    if found is None:
        return None
    erred = tuple(Erred(did=each.did[:400], clause=each.clause) for each in view.seen if each.good is False)
    fields = found.model_dump(include={"marks", "safe", "right", "asked", "minutes", "least_minutes", "hints"})
    return PracticeMarks(**fields, erred=erred[:MOST_SETS])


def _line(run: PracticeRun, act: PracticeAct | None) -> RunLine:
    document = RunDocument.model_validate(run.document)
    return RunLine(
        id=run.id,
        kind=document.kind,
        title=_title(document.kind),
        level=document.level,
        seed=document.seed,
        at=run.at,
        set_id=run.set_id,
        marks=None if act is None or act.marks is None else PracticeMarks.model_validate(act.marks),
    )


def _set_line(each: PracticeSet, own: RunLine | None) -> SetLine:
    document = SetDocument.model_validate(each.document)
    return SetLine(
        id=each.id,
        kind=document.kind,
        title=_title(document.kind),
        level=document.level,
        seed=document.seed,
        note=document.note,
        by=each.by,
        at=each.at,
        run_id=None if own is None else own.id,
        marks=None if own is None else own.marks,
    )


def _title(kind: Kind) -> str:
    return KINDS[kind].title


def _past(lines: list[RunLine]) -> list[Past]:
    return [
        Past(kind=each.kind, level=each.level, seed=each.seed, marks=each.marks.marks, day=each.at.toordinal())
        for each in lines
        if each.marks is not None
    ]
