"""The shell's way in: `lumbek calc JOB.json` and its sisters."""

import argparse
import json
import shutil
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from lumbek import __version__
from lumbek.core.answers import answer_circuits
from lumbek.core.choosing.propose import propose
from lumbek.core.documents.schedule import make_schedule
from lumbek.core.result import Verdict
from lumbek.core.rulebooks import rulebook_of
from lumbek.core.survey.judgement import judge_supply
from lumbek.exchange.job_file import JobFileError, job_schema, read_job
from lumbek.exchange.job_stream import JobStream
from lumbek.exchange.schedule_csv import schedule_csv
from lumbek.exchange.text_report import check_lines, circuit_lines, proposal_lines

BAD_INPUT = 2


def main(arguments: list[str] | None = None) -> int:
    """Run a command; the exit code is 0, or 2 for a file or call that cannot be used."""
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
    commands.add_parser("schema", help="print the JSON Schema of the job file")
    given = parser.parse_args(arguments)
    if given.command == "schema":
        print(json.dumps(job_schema(), ensure_ascii=False, indent=1))
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
            print(schedule_csv(make_schedule(read_job(path.read_bytes()))), end="")
        elif given.command == "propose":
            return _print_proposals(given, JobStream(path))
        elif given.text:
            _print_text(JobStream(path))
        else:
            _print_json(JobStream(path))
    except BrokenPipeError:
        # The reader has seen enough; point stdout elsewhere so that closing it stays quiet too.
        sys.stdout = open("/dev/null", "w")  # noqa: SIM115, PTH123
    return 0


def _print_json(stream: JobStream) -> None:
    job = stream.head
    rulebook = rulebook_of(job)
    head = {"job": job.name, "rulebook": rulebook.id, "edition": rulebook.data.edition}
    survey = judge_supply(rulebook, job.supply).model_dump(mode="json")
    # Circuit by circuit: a thousand of them are never held at once.
    print(json.dumps(head, ensure_ascii=False)[:-1] + ', "survey": ' + json.dumps(survey, ensure_ascii=False), end="")
    print(', "circuits": [', end="")
    for index, answer in enumerate(answer_circuits(job, stream.circuits)):
        print(",\n" if index else "\n", end="")
        print(answer.model_dump_json(), end="")
    print("\n]}")


def _print_proposals(given: argparse.Namespace, stream: JobStream) -> int:
    rulebook, school = rulebook_of(stream.head), stream.head.protection_school
    wanted = (
        circuit.design
        for circuit in stream.circuits()
        if given.circuit is None or circuit.design.number == given.circuit
    )
    found = 0
    for found, design in enumerate(wanted, start=1):
        proposals = propose(rulebook, stream.head.supply, design, school)
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


def _print_text(stream: JobStream) -> None:
    job = stream.head
    rulebook = rulebook_of(job)
    print(f"{job.name}\n{rulebook.data.title}. {rulebook.data.advice}\n")
    print("Supply")
    for check in judge_supply(rulebook, job.supply).checks:
        for line in check_lines(check):
            print(line)
    failing = 0
    for answer in answer_circuits(job, stream.circuits):
        print()
        failing += answer.result.verdict is Verdict.FAIL
        for line in circuit_lines(answer):
            print(line)
    print(f"\n{stream.circuit_count} circuits, {failing} failing. A prediction never replaces a test.")


if __name__ == "__main__":
    sys.exit(main())
