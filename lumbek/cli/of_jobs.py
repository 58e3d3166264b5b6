"""What the shell answers of a job file: `lumbek calc JOB.json` and its sisters."""

import argparse
import json
import shutil
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import get_args

from lumbek import __version__
from lumbek.core.board.house import house_of_job
from lumbek.core.board.judge import judge_house
from lumbek.core.board.labels import sheet_of_board
from lumbek.core.board.propose import propose_boards
from lumbek.core.board.with_circuit import house_fails_with
from lumbek.core.choosing.propose import propose
from lumbek.core.diagnosis.answer import diagnosis_of
from lumbek.core.diagnosis.inquiry import open_inquiry
from lumbek.core.diagnosis.patient import CannotDiagnoseError, patient_of
from lumbek.core.diagnosis.readings import taken_of
from lumbek.core.documents.gathered import gather
from lumbek.core.documents.registry import kinds_of_job, make_paper
from lumbek.core.documents.schedule import schedule_paper
from lumbek.core.judging.answers import Totals, answer_circuits
from lumbek.core.judging.check import Verdict, worst_of
from lumbek.core.model.job import Job, RulebookId
from lumbek.core.model.reading import standing
from lumbek.core.places.named import named
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.study.door import study_of
from lumbek.core.study.read import Read
from lumbek.core.survey.as_read import supply_of_job
from lumbek.core.survey.judgement import judge_supply
from lumbek.core.switching.answer import answer_switching
from lumbek.core.switching.faces import is_lit
from lumbek.exchange.job_file import JobFileError, job_schema, read_job
from lumbek.exchange.job_stream import JobStream
from lumbek.exchange.labels_svg import label_strip_svg
from lumbek.exchange.paper_csv import paper_csv
from lumbek.exchange.paper_pdf import paper_pdf
from lumbek.exchange.text_report import check_lines, circuit_lines, proposal_lines
from lumbek.exchange.written_figure import without_noise
from lumbek.practice.exercise import MOST_LEVEL, Kind, School, solved
from lumbek.practice.make import begin

# How a job stands, as the exit code of `calc`; 2 is for a file or call that cannot be used.
_EXIT = {Verdict.PASS: 0, Verdict.NOT_APPLICABLE: 0, Verdict.FAIL: 1, Verdict.CANNOT_TELL: 3}
BAD_INPUT = 2


def main(asked: list[str]) -> int:
    """Run a command; the exit code is 0, or 2 for a file or call that cannot be used.

    `calc` answers with its own: 0 where everything passes, 1 where something fails, 3 where something cannot be told.
    """
    parser = argparse.ArgumentParser(prog="lumbek", description="Final circuits, designed and verified.")
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(dest="command", required=True)
    calc = commands.add_parser("calc", help="print every result of a job file")
    calc.add_argument("job", type=Path, help="a job file (JSON), or - for standard input")
    calc.add_argument("--text", action="store_true", help="for people instead of as JSON")
    proposing = commands.add_parser("propose", help="print repairs, sizes, protection and reach of a job's circuits")
    proposing.add_argument("job", type=Path)
    proposing.add_argument("--text", action="store_true", help="for people instead of as JSON")
    proposing.add_argument("--circuit", type=int, help="only the circuit of this number")
    schedule = commands.add_parser("schedule", help="print the schedule of a job file as CSV")
    schedule.add_argument("job", type=Path)
    boards = commands.add_parser("boards", help="print proposals for the boards of a job, and what is written at them")
    boards.add_argument("job", type=Path)
    labels = commands.add_parser("labels", help="print the label strip of a board as SVG, in true size")
    labels.add_argument("job", type=Path)
    labels.add_argument("--board", type=int, default=1, help="which board of the job, 1 for the first")
    switching = commands.add_parser("switching", help="prove lighting in all states, plan what is to switch what")
    switching.add_argument("job", type=Path)
    switching.add_argument("--circuit", type=int, help="only the circuit of this number")
    routes = commands.add_parser("routes", help="print the way of every leg by the plan of a job, and its take-off")
    routes.add_argument("job", type=Path)
    diagnosing = commands.add_parser(
        "diagnose", help="print suspects for a circuit's readings, and what to measure next"
    )
    diagnosing.add_argument("job", type=Path)
    diagnosing.add_argument("--circuit", type=int, help="only the circuit of this number")
    diagnosing.add_argument("--ambient", type=float, default=20.0, help="temperature of the copper in °C")
    papers = commands.add_parser("papers", help="write every paper of a job as a draft, PDF")
    papers.add_argument("job", type=Path)
    papers.add_argument(
        "--into",
        type=Path,
        default=Path(),
        help="the folder to write into, made where there is none; this one by default",
    )
    papers.add_argument("--kind", help="only the paper of this kind")
    _add_practice(commands)
    commands.add_parser("schema", help="print the JSON Schema of the job file")
    if not asked or asked[0] not in commands.choices:
        # Whoever asks for help is told of all there is.
        from lumbek.ops.commands import add_to  # noqa: PLC0415

        add_to(commands)
    given = parser.parse_args(asked)
    if given.command == "schema":
        print(json.dumps(job_schema(), ensure_ascii=False, indent=1))
        return 0
    if given.command == "practice":
        print(_json(_exercise(given)))
        return 0
    try:
        with _on_disk(given.job) as path:
            return _answer(given, path)
    except JobFileError as error:
        for problem in error.problems:
            print(f"{given.job}: {problem.field}: {problem.reason}", file=sys.stderr)
        return BAD_INPUT
    except OSError as error:
        print(f"{given.job}: cannot be read: {error.strerror}", file=sys.stderr)
        return BAD_INPUT


def _add_practice(commands: "argparse._SubParsersAction[argparse.ArgumentParser]") -> None:
    practice = commands.add_parser("practice", help="print an exercise of the practice house, and a way through it")
    practice.add_argument("--kind", choices=get_args(Kind), default="faults")
    practice.add_argument("--seed", type=int, default=1)
    practice.add_argument("--level", type=int, choices=range(1, MOST_LEVEL + 1), default=1)
    practice.add_argument("--rulebook", choices=get_args(RulebookId), default="bs7671")
    practice.add_argument("--solve", action="store_true", help="with the acts of one who knows, and what came of them")


@contextmanager
def _on_disk(path: Path) -> Iterator[Path]:
    """Yield a file that can be read twice: the one named, or standard input set down."""
    if str(path) != "-":
        yield path
        return
    with tempfile.NamedTemporaryFile(suffix=".json") as kept:
        shutil.copyfileobj(sys.stdin.buffer, kept)
        kept.flush()
        yield Path(kept.name)


def _answer(given: argparse.Namespace, path: Path) -> int:
    try:
        if given.command == "schedule":
            print(paper_csv(schedule_paper(gather(read_job(path.read_bytes())))), end="")
        elif given.command == "papers":
            return _write_papers(given, read_job(path.read_bytes()))
        elif given.command == "propose":
            return _print_proposals(given, JobStream(path))
        elif given.command in ("boards", "labels"):
            return _print_boards(given, JobStream(path))
        elif given.command == "routes":
            print(_json(_ways(read_job(path.read_bytes()))))
        elif given.command == "diagnose":
            print(_json(_diagnoses(given, read_job(path.read_bytes()))))
        elif given.command == "switching":
            return _print_switching(given, JobStream(path))
        elif given.text:
            return _EXIT[_print_text(JobStream(path))]
        else:
            return _EXIT[_print_json(JobStream(path))]
    except BrokenPipeError:
        # The reader has seen enough; point stdout elsewhere so that closing it stays quiet too.
        sys.stdout = open("/dev/null", "w")  # noqa: SIM115, PTH123
    return 0


def _write_papers(given: argparse.Namespace, job: Job) -> int:
    """Write drafts of a job's papers; 2 where there is no such kind for it. Papers are issued where the job is kept."""
    kinds = kinds_of_job(job.rulebook)
    wanted = [each for each in kinds if given.kind in (None, each.id)]
    if not wanted:
        print(
            f"{given.job}: there is no paper {given.kind!r} of it, but {', '.join(each.id for each in kinds)}",
            file=sys.stderr,
        )
        return BAD_INPUT
    gathered = gather(job)
    try:
        given.into.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        print(f"{given.into}: cannot be written into: {error.strerror}", file=sys.stderr)
        return BAD_INPUT
    for kind in wanted:
        paper = make_paper(kind, gathered)
        if not kind.at_once:
            paper = paper.held_back("Written from a file: issued where the job is kept.")
        target = given.into / f"{kind.id}.pdf"
        target.write_bytes(paper_pdf(paper))
        print(target)
    return 0


def _exercise(given: argparse.Namespace) -> dict[str, object]:
    """Return an exercise as it begins; where it is to be solved, each act of one who knows, and how it ended."""
    exercise = begin(given.kind, given.seed, given.level, School(rulebook=given.rulebook))
    found: dict[str, object] = {"exercise": exercise.view().model_dump(mode="json")}
    if given.solve:
        acts = [act.model_dump(mode="json", exclude_defaults=True) for act in solved(exercise)]
        view = exercise.view().model_dump(mode="json")
        found |= {"acts": acts, "seen": view["seen"], "reckoning": view["reckoning"]}
    return found


def _ways(job: Job) -> dict[str, object]:
    """Return the way of every leg, and what the job takes by them."""
    gathered = gather(job)
    return {"routes": gathered.routes.model_dump(mode="json"), "take_off": gathered.take_off.model_dump(mode="json")}


def _diagnoses(given: argparse.Namespace, job: Job) -> dict[str, object]:
    """Return what the readings of each circuit leave under suspicion; of those without readings nothing."""
    house = house_of_job(job)
    found = []
    for circuit in job.circuits:
        number = circuit.design.number
        if not circuit.readings or given.circuit not in (None, number):
            continue
        read = Read.of(circuit.readings, given.ambient)
        studied = study_of(house.rulebook, house.supply, house.effective(circuit), read=read)
        patient = patient_of(studied, given.ambient)
        try:
            answer = diagnosis_of(open_inquiry(patient, taken_of(patient, standing(circuit.readings))))
        except CannotDiagnoseError as error:
            found.append({"circuit": number, "name": circuit.design.name, "cannot_tell": str(error)})
        else:
            found.append({"circuit": number, "name": circuit.design.name, **answer.model_dump(mode="json")})
    return {"job": job.name, "circuits": found}


def _print_json(stream: JobStream) -> Verdict:
    """Print every answer as JSON; return the verdict on the whole job, which stands at its end."""
    job = stream.head
    rulebook = rulebook_of(job)
    head = {"job": job.name, "rulebook": rulebook.id, "edition": rulebook.data.edition}
    survey = judge_supply(rulebook, supply_of_job(job), job.extent)
    # Circuit by circuit: a thousand of them are never held at once.
    print(_json(head)[:-1] + ', "survey": ' + _json(survey.model_dump(mode="json")), end="")
    print(', "circuits": [', end="")
    totals = Totals(survey.verdict)
    house = house_of_job(job, stream.circuits())
    for index, answer in enumerate(answer_circuits(job, stream.circuits, house)):
        totals.add(answer)
        print(",\n" if index else "\n", end="")
        print(_json({"verdict": answer.verdict, **answer.model_dump(mode="json")}), end="")
    shared = judge_house(house)
    totals.add_house(shared, stream.describes_boards)
    print('\n], "boards": ' + _json(shared.model_dump(mode="json")), end="")
    print(", " + _json(totals.as_json())[1:])
    return totals.verdict


def _json(value: object) -> str:
    """Return a value as JSON, figures rid of the noise of binary fractions."""
    return json.dumps(without_noise(value), ensure_ascii=False)


def _print_proposals(given: argparse.Namespace, stream: JobStream) -> int:
    rulebook, school = rulebook_of(stream.head), stream.head.protection_school
    house = house_of_job(stream.head, stream.circuits())
    wanted = (
        (circuit, house.effective(circuit))
        for circuit in stream.circuits()
        if given.circuit is None or circuit.design.number == given.circuit
    )
    found = 0
    for found, (circuit, design) in enumerate(wanted, start=1):
        read, fails = Read.of(circuit.readings), house_fails_with(house, circuit.key)
        proposals = propose(rulebook, house.supply, design, school, read, fails)
        if given.text:
            print(("\n" if found > 1 else "") + "\n".join(proposal_lines(design, proposals)))
        else:
            # One object a line: a reader need not hold them all either.
            head = {"number": design.number, "name": design.name}
            print(json.dumps({**head, "proposals": proposals.model_dump(mode="json")}, ensure_ascii=False))
    if not found and given.circuit is not None:
        print(f"{given.job}: there is no circuit {given.circuit} in it", file=sys.stderr)
        return BAD_INPUT
    return 0


def _print_boards(given: argparse.Namespace, stream: JobStream) -> int:
    """Print proposals and what is written at every board as JSON, or the label strip of one as SVG."""
    house = house_of_job(stream.head, stream.circuits())
    sheets = [sheet_of_board(house, board) for board in house.boards]
    if given.command == "boards":
        answer = {"proposals": propose_boards(house), "sheets": sheets}
        print(json.dumps(answer, default=lambda each: each.model_dump(mode="json"), ensure_ascii=False))
        return 0
    if not 1 <= given.board <= len(sheets):
        print(f"{given.job}: there is no board {given.board} in it, of {len(sheets)}", file=sys.stderr)
        return BAD_INPUT
    print(label_strip_svg(sheets[given.board - 1]), end="")
    return 0


def _print_switching(given: argparse.Namespace, stream: JobStream) -> int:
    """Print for each circuit with anything to switch its proof, plan and repair, an object a line."""
    book = rulebook_of(stream.head)
    name_of = stream.head.places.name_of
    designs = {circuit.design.number: named(circuit.design, name_of) for circuit in stream.circuits()}
    verdicts, found = list[Verdict](), 0
    for number, design in designs.items():
        if not is_lit(design) or given.circuit not in (None, number):
            continue
        found += 1
        answer = answer_switching(book, designs, number)
        verdicts.append(answer.proof.verdict)
        print(json.dumps(answer.model_dump(mode="json"), ensure_ascii=False))
    if not found:
        print(f"{given.job}: there is no circuit in it with anything to switch", file=sys.stderr)
        return BAD_INPUT
    return _EXIT[worst_of(verdicts)]


def _print_text(stream: JobStream) -> Verdict:
    job = stream.head
    rulebook = rulebook_of(job)
    print(f"{job.name}\n{rulebook.data.title}. {rulebook.data.advice}\n")
    print("Supply")
    survey = judge_supply(rulebook, supply_of_job(job), job.extent)
    for check in survey.checks:
        for line in check_lines(check):
            print(line)
    totals = Totals(survey.verdict)
    house = house_of_job(job, stream.circuits())
    for answer in answer_circuits(job, stream.circuits, house):
        print()
        totals.add(answer)
        for line in circuit_lines(answer):
            print(line)
    shared = judge_house(house)
    totals.add_house(shared, stream.describes_boards)
    print("\nBoards")
    for check in shared.checks:
        for line in check_lines(check):
            print(line)
    print(f"\n{totals.words()} A prediction never replaces a test.")
    return totals.verdict
