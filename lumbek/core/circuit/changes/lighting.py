"""What switches what, and where the feed is looped."""

from typing import Literal

from lumbek.core.circuit.changes.parts import Doing, with_changes
from lumbek.core.circuit.routes import in_school
from lumbek.core.model.circuit import Circuit
from lumbek.core.model.scheme import LightingSchool, Scheme
from lumbek.core.rulebooks import Rulebook
from lumbek.core.value import Change


class SetScheme(Change):
    """What switches what, where cable may run, and what is wanted of it."""

    op: Literal["scheme"] = "scheme"
    scheme: Scheme | None


class LoopAt(Change):
    """Where the feed is looped: the runs of the scheme become those that this school has."""

    op: Literal["loop-at"] = "loop-at"
    school: LightingSchool


def _set_scheme(_: Rulebook, circuit: Circuit, command: SetScheme) -> Circuit:
    return with_changes(circuit, {"scheme": command.scheme})


def _loop_at(_: Rulebook, circuit: Circuit, command: LoopAt) -> Circuit:
    return with_changes(circuit, {"scheme": in_school(circuit, circuit.scheme or Scheme(), command.school)})


DO: Doing = {
    SetScheme: _set_scheme,
    LoopAt: _loop_at,
}
