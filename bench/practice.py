"""Exercises by seed: how many have a safe way to full marks, how well the finder does, how long making one takes.

    python -m bench.practice [seeds [kind ...]]

Prints for each kind and level the seeds gone through to full marks, and the slowest making of one as a ratio of the
median; of faults what the finder named without being told, and the mean minutes it takes.
"""

import sys
from statistics import mean, median
from time import process_time
from typing import get_args

from lumbek.practice.exercise import MOST_LEVEL, Kind, School, solved
from lumbek.practice.faults import Faults
from lumbek.practice.hidden import is_named_by
from lumbek.practice.make import begin


def accused_rightly(exercise: Faults) -> bool:
    """Whether the finder, by its own run, accuses something that is wrong."""
    return any(is_named_by(each, mishap) for each in exercise.own.accused for mishap in exercise.hidden.mishaps)


def main(seeds: int, kinds: tuple[Kind, ...]) -> None:
    print(f"{'kind':<12} level  full marks  made in ms, median and most  finder right  its minutes")
    for kind in kinds:
        right = of = 0
        for level in range(1, MOST_LEVEL + 1):
            made, full, effort = [], 0, []
            for seed in range(seeds):
                began = process_time()
                exercise = begin(kind, seed, level, School())
                exercise.view()
                made.append(1000 * (process_time() - began))
                if isinstance(exercise, Faults):
                    effort.append(exercise.least_minutes)
                    right, of = right + accused_rightly(exercise), of + 1
                solved(exercise)
                full += exercise.reckon().marks == 100
            tail = f"{right} of {of}  {mean(effort):10.1f}" if effort else ""
            print(
                f"{kind:<12} {level:>5} {full:>6} of {seeds}  {median(made):10.0f} {max(made):6.0f}  {tail}", flush=True
            )


if __name__ == "__main__":
    asked = sys.argv[1:]
    main(int(asked[0]) if asked else 100, tuple(asked[1:]) or get_args(Kind))  # type: ignore[arg-type]
