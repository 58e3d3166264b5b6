"""The job file: one installation whole, as JSON with a published schema."""

import json
from collections.abc import Iterator
from typing import Any

from pydantic import ValidationError

from lumbek.core.model.board import board_problems
from lumbek.core.model.job import Job, JobCircuit
from lumbek.core.model.reading import ReadingTaken
from lumbek.core.rulebooks import UnknownEditionError, rulebook_of
from lumbek.exchange.problems import Problem, problems_of
from lumbek.exchange.upgrade import CURRENT, upgrade_job

MOST_BYTES = 64_000_000
# A file of that size as it is written here has about half as many.
MOST_CONTAINERS = 1_500_000
MOST_VALUES = 5_000_000
# What few readings say, and what it is where they do not.
_UNSAID = {
    name: ReadingTaken.model_fields[name].default
    for name in ("test", "untaken", "note", "isolation", "visit", "source", "taken_at")
}
# So many problems are named; the rest are like them.
MOST_PROBLEMS = 20


class JobFileError(Exception):
    """A file that is no job file; `problems` say where and why."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(f"{each.field}: {each.reason}" for each in problems))
        self.problems = problems

    def __reduce__(self) -> tuple[type["JobFileError"], tuple[list[Problem]]]:
        """Return how it goes from one process to another: with its problems, not only with its words."""
        return JobFileError, (self.problems,)


def read_job(raw: bytes) -> Job:
    """Return the job in a file's bytes. Raises JobFileError with the place and the reason."""
    if len(raw) > MOST_BYTES:
        raise JobFileError([Problem(field="file", reason=f"is larger than {MOST_BYTES // 1_000_000} MB")])
    if raw.count(b"[") + raw.count(b"{") > MOST_CONTAINERS or raw.count(b",") > MOST_VALUES:
        # Told by counting: taken apart it would fill the memory first.
        raise JobFileError([Problem(field="file", reason="holds more lists and values than any job has")])
    try:
        data = json.loads(raw.decode("utf-8-sig"), parse_constant=_no_constant)
    except UnicodeDecodeError as error:
        raise JobFileError([Problem(field="file", reason=f"is not UTF-8 text (byte {error.start})")]) from error
    except json.JSONDecodeError as error:
        place = f"line {error.lineno}, column {error.colno}"
        raise JobFileError([Problem(field=place, reason=f"is not JSON: {error.msg}")]) from error
    except (ValueError, RecursionError) as error:
        raise JobFileError([Problem(field="file", reason=f"is not JSON: {error}")]) from error
    if not isinstance(data, dict) or data.get("format") != "lumbek-job":
        raise JobFileError([Problem(field="format", reason='is not "lumbek-job": this is some other file')])
    return make_job(data)


def file_version(data: dict[str, Any]) -> int:
    """Return the version of a decoded job file. Raises JobFileError for one that is not known here."""
    version = data.get("version", 1)
    if isinstance(version, bool) or version not in range(1, CURRENT + 1):
        known = " or ".join(str(each) for each in range(1, CURRENT + 1))
        raise JobFileError([Problem(field="version", reason=f"must be {known}: this file was made by another Lumbek")])
    return int(version)


def make_job(data: dict[str, Any]) -> Job:
    """Return the job that decoded JSON of any version holds.

    Raises JobFileError, for an edition that is not known here too.
    """
    try:
        job = Job.model_validate(upgrade_job(data, file_version(data)))
        rulebook_of(job)
    except ValidationError as error:
        raise JobFileError(problems_of(error)) from error
    except UnknownEditionError as error:
        raise JobFileError([Problem(field="edition", reason=str(error))]) from error
    numbers: dict[int, int] = {}
    keys: set[str] = set()
    problems = [
        each for index, circuit in enumerate(job.circuits) for each in circuit_problems(index, circuit, numbers, keys)
    ]
    if job.circuits and not problems:
        problems = [Problem(field=field, reason=why) for field, why in board_problems(job.boards, keys)]
    if problems:
        raise JobFileError(problems[:MOST_PROBLEMS])
    return job


def circuit_problems(index: int, circuit: JobCircuit, numbers: dict[int, int], keys: set[str]) -> Iterator[Problem]:
    """Yield what a file may not say of a circuit: another's number or id, what the boards say of it, stray readings.

    `numbers` are those of the circuits so far, with their places, and `keys` their ids; this one's are added.
    """
    if circuit.design.ahead:
        reason = "follows from the boards: say there what this circuit hangs on"
        yield Problem(field=f"circuits.{index}.design.ahead", reason=reason)
    for place, point in enumerate(circuit.design.points):
        if point.room:
            reason = "follows from the rooms of the job: say `at`, with the id of one of them"
            yield Problem(field=f"circuits.{index}.design.points.{place}.room", reason=reason)
    number = circuit.design.number
    if number in numbers:
        reason = f"{number} is the number of circuits.{numbers[number]} already: each circuit has its own"
        yield Problem(field=f"circuits.{index}.design.number", reason=reason)
    elif circuit.key in keys:
        yield Problem(field=f"circuits.{index}.id", reason=f"{circuit.key} is another circuit's id already")
    numbers.setdefault(number, index)
    keys.add(circuit.key)
    drawn = {point.id for point in circuit.design.points}
    for place, reading in enumerate(circuit.readings):
        if reading.point is not None and reading.point not in drawn:
            reason = f"there is no point {reading.point!r} in this circuit; former_readings holds what was read at it"
            yield Problem(field=f"circuits.{index}.readings.{place}.point", reason=reason)


def _no_constant(name: str) -> float:
    raise ValueError(f"{name} is no number")


def write_job(job: Job) -> str:
    """Return the job file's text: fields in the order of the format, one space a level, a newline at the end.

    Of readings, of which there are thousands, what is not said is left out.
    """
    document = job.model_dump(mode="json")
    for readings in _readings_in(document):
        for reading in readings:
            for name, default in _UNSAID.items():
                if reading[name] == default:
                    del reading[name]
    return json.dumps(document, ensure_ascii=False, indent=1) + "\n"


def _readings_in(document: dict[str, Any]) -> Iterator[list[dict[str, Any]]]:
    yield document["readings"]
    for circuit in document["circuits"]:
        yield circuit["readings"]
        yield circuit["former_readings"]


def job_schema() -> dict[str, Any]:
    """Return the JSON Schema of the job file, as it is published in docs/formats."""
    schema = Job.model_json_schema()
    return {**schema, "$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Lumbek job file"}
