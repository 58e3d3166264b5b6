"""Reading a job file circuit by circuit, so that memory does not grow with the file."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import ijson
from ijson.common import ObjectBuilder
from pydantic import ValidationError

from lumbek.core.model.board import board_problems
from lumbek.core.model.job import Job, JobCircuit
from lumbek.exchange.job_file import (
    MOST_PROBLEMS,
    JobFileError,
    circuit_problems,
    file_version,
    make_job,
    read_job,
)
from lumbek.exchange.problems import Problem, problems_of
from lumbek.exchange.upgrade import WITH_HOUSE, OldHouse

# Files up to this size are read whole for the exact place of what is wrong in them.
_WHOLE_BYTES = 8_000_000


def _in_circuit(index: int, error: ValidationError) -> list[Problem]:
    return [Problem(field=f"circuits.{index}.{each.field}", reason=each.reason) for each in problems_of(error)]


class JobStream:
    """A job file on disk. Made only if the whole file is sound: the first pass checks every circuit."""

    def __init__(self, path: Path) -> None:
        """Check the file. Raises JobFileError with place and reason, OSError if it cannot be read."""
        self._path = path
        self._version = 1
        self._feeders: list[dict[str, Any]] = []
        # Whether the file says itself what boards there are.
        self.describes_boards = False
        try:
            self.head = self._read_head()
            problems = self._check()
        except (ijson.JSONError, UnicodeDecodeError, RecursionError) as error:
            raise self._exactly(error) from error
        if problems:
            raise JobFileError(problems)

    def circuits(self) -> Iterator[JobCircuit]:
        """Yield the circuits one by one; the file has been found sound."""
        around = OldHouse(self._version, self._storeys)
        for each in self._raw():
            yield JobCircuit.model_validate(around.take(each))
        for feeder in self._feeders:
            yield JobCircuit.model_validate(feeder)

    def _raw(self) -> Iterator[Any]:
        with self._path.open("rb") as file:
            yield from ijson.items(file, "circuits.item", use_float=True)

    def _check(self) -> list[Problem]:
        """Return what is wrong with any circuit of the file, the first few of all; count the circuits."""
        problems: list[Problem] = []
        numbers: dict[int, int] = {}
        keys: set[str] = set()
        around = OldHouse(self._version, self._storeys)
        for index, each in enumerate(self._raw()):
            try:
                circuit = JobCircuit.model_validate(around.take(each))
            except ValidationError as error:
                problems += _in_circuit(index, error)
            else:
                problems += circuit_problems(index, circuit, numbers, keys)
            if len(problems) >= MOST_PROBLEMS:
                break
        if self._version < WITH_HOUSE:
            self._feeders = around.feeders
            # Boards that the file itself describes were read with the head.
            said = Job.model_validate(around.house())
            self.head = self.head.model_copy(update={name: getattr(said, name) for name in said.model_fields_set})
        if self._version >= 3 and not problems:
            self.describes_boards = bool(self.head.boards)
            problems = [Problem(field=field, reason=why) for field, why in board_problems(self.head.boards, keys)]
        return problems[:MOST_PROBLEMS]

    def _read_head(self) -> Job:
        """Return the job without its circuits."""
        builder = ObjectBuilder()
        with self._path.open("rb") as file:
            for prefix, event, value in ijson.parse(file, use_float=True):
                inside = prefix == "circuits" or prefix.startswith("circuits.")
                if not inside or (prefix == "circuits" and event in ("start_array", "end_array")):
                    builder.event(event, value)
        data: Any = builder.value
        if not isinstance(data, dict) or data.get("format") != "lumbek-job":
            raise JobFileError([Problem(field="format", reason='is not "lumbek-job": this is some other file')])
        self._version = file_version(data)
        self._storeys = data.get("storeys", [])
        return make_job(data)

    def _exactly(self, error: Exception) -> JobFileError:
        if self._path.stat().st_size <= _WHOLE_BYTES:
            try:
                read_job(self._path.read_bytes())
            except JobFileError as found:
                return found
        return JobFileError([Problem(field="file", reason=f"is not JSON: {str(error)[:120]}")])
