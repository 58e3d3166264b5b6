"""Is every RCD that several circuits share left in peace by all that they leak?"""

from collections.abc import Iterator

from lumbek.core.board.house import House
from lumbek.core.board.shared_rcds import SharedRcd, shared_rcds
from lumbek.core.judging.check import Check, Step, Verdict, hold
from lumbek.core.judging.question import Question
from lumbek.core.numbers import plain, show


def _leaks(house: House, shared: SharedRcd) -> list[tuple[str, float]]:
    """Return the circuits behind an RCD that state a protective-conductor current, with it in mA."""
    members = map(house.members.get, shared.circuits)
    return [(member.title, member.leakage_ma) for member in members if member and member.leakage_ma]


def _check(house: House, shared: SharedRcd) -> Check:
    """Sum of the protective-conductor currents behind an RCD <= 0.3 IΔn, mA (531.3.2).

    What is stated of a circuit counts once; the leakages of three lines are taken not to cancel.
    """
    place, rcd = shared.place, shared.rcd
    question = Question(f"leakage-{place.id}", f"Leakage, {place.name}", "Is its RCD left in peace?", "leakage")
    leaks = _leaks(house, shared)
    steps = tuple(Step(text=title, sum=f"{show(leak)} mA") for title, leak in leaks)
    if rcd == "unknown" or rcd.rated_ma is None:
        return question.cannot_tell(house, (f"rated residual current of {place.name}",), steps=steps, place=place)
    part = house.rulebook.data.residual.leakage_fraction
    limit = part * rcd.rated_ma
    total = sum(leak for _, leak in leaks)
    if shared.unsure and hold(total, limit, "at most")[0] is Verdict.FAIL:
        what = f"RCD that each circuit of {place.name} is behind: there may be several alike"
        return question.cannot_tell(house, (what,), steps=steps, place=place)
    return question.held(
        house,
        total,
        limit,
        "at most",
        "{value} mA, limit {limit} mA",
        unit="mA",
        place=place,
        steps=(*steps, Step(text="Limit", sum=f"{plain(part)} × {plain(rcd.rated_ma)} = {plain(limit)} mA")),
        caution="" if leaks else "No circuit behind it states any leakage.",
    )


def leakage_checks(house: House) -> Iterator[Check]:
    """Yield the check of every RCD that circuits share."""
    for shared in shared_rcds(house, possible=True):
        yield _check(house, shared)
