"""Whether work has to be notified, by the rules of the country, as questions.

England's Approved Document P, which most jobs to BS 7671 go by; other countries ask their own office.
"""

from collections.abc import Iterable
from typing import Literal

from lumbek.core.documents.gathered import Gathered
from lumbek.core.model.inspection import TurnsOn
from lumbek.core.value import Frozen


class NotifyAsk(Frozen):
    """A question, with what the model answers."""

    id: str
    asks: str
    model: Literal["yes", "no", ""] = ""


class Notifiable(Frozen):
    """Whether it is notifiable: yes, no, or open with the questions that nobody has answered."""

    word: Literal["yes", "no", "open"]
    why: str
    asks: tuple[NotifyAsk, ...]


_ASKS = (
    ("new-circuit", "Is there a new circuit?"),
    ("new-board", "Is there a new or replaced board?"),
    ("bath-zone", "Is anything added or altered in the space round a bath or shower?"),
    ("pool", "Is anything added or altered in the room of a pool or sauna heater?"),
)
_OTHER = "By your country's own rules: ask its office before you begin"


def notifiable(gathered: Gathered, answers: Iterable[TurnsOn]) -> Notifiable:
    """Return whether the work of a job is notifiable: one yes is enough, and every no is needed."""
    known = _by_model(gathered)
    asks = tuple(
        NotifyAsk.model_validate({"id": key, "asks": asks, "model": known.get(key, "")}) for key, asks in _ASKS
    )
    said = known | {each.id: each.answer for each in answers}
    if gathered.job.rulebook != "bs7671":
        return Notifiable(word="open", why=_OTHER, asks=())
    yes = next((each for each in asks if said.get(each.id) == "yes"), None)
    if yes is not None:
        return Notifiable(word="yes", why=yes.asks.replace("Is there ", "There is ").rstrip("?"), asks=asks)
    if all(said.get(each.id) == "no" for each in asks):
        return Notifiable(word="no", why="None of what has to be notified", asks=asks)
    return Notifiable(word="open", why="Not every question is answered", asks=asks)


def _by_model(gathered: Gathered) -> dict[str, str]:
    """Return what the model answers: a yes it is sure of; a no only of circuits and boards, which it lists all of."""
    job = gathered.job
    circuits = any(circuit.design.state == "new" for circuit in job.circuits)
    boards = any(board.state == "new" for board in job.boards)
    zone = any(
        point.zone in ("0", "1", "2") and (point.state == "new" and circuit.design.state != "as-found")
        for circuit in job.circuits
        for point in circuit.design.points
    )
    return {
        "new-circuit": "yes" if circuits else "no",
        **({"new-board": "yes" if boards else "no"} if job.boards else {}),
        **({"bath-zone": "yes"} if zone else {}),
    }
