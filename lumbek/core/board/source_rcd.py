"""A source of power behind an RCD that guards other circuits too."""

from collections.abc import Iterator

from lumbek.core.board.house import House
from lumbek.core.board.shared_rcds import shared_rcds
from lumbek.core.judging.check import Check, Step, Verdict
from lumbek.core.judging.question import Question


def source_checks(house: House) -> Iterator[Check]:
    """Yield for each RCD that circuits share whether a source of power stands behind it with others (551.7.1)."""
    for shared in shared_rcds(house, possible=True):
        members = [house.members[key] for key in shared.circuits]
        source = next((member for member in members if member.is_source), None)
        others = [member for member in members if not member.is_source]
        if source is None or not others:
            continue
        question = Question(
            f"source-rcd-{shared.key}",
            f"Source behind {shared.place.name}",
            "Does a source stand by itself?",
            "source-rcd",
        )
        yield question.check(
            house,
            Verdict.FAIL,
            f"{source.title} is behind the RCD of {others[0].title}",
            place=shared.place,
            steps=(Step(text="What it feeds back holds a tripped circuit alive, and blinds the RCD"),),
        )
