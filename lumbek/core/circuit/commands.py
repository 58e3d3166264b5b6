"""Small named changes of a circuit: the only way that a design is written.

A command says what it is about and what it sets; fields that it does not name stay as they are. What follows from a
choice (the nearest rating of another standard, the method a cable of another type is laid by) is decided with it, in
the file of what it changes.
"""

from typing import Annotated

from pydantic import Field

from lumbek.core.circuit.changes import boxes, cables, circuit, legs, lighting, points, remains
from lumbek.core.circuit.edit import (
    AddPoint,
    AddSpur,
    Edited,
    InsertPoint,
    JoinPoints,
    MovePoint,
    RemoveLeg,
    RemovePoint,
    apply_edit,
)
from lumbek.core.circuit.usual import next_point
from lumbek.core.model.circuit import Circuit
from lumbek.core.rulebooks import Rulebook

RunCommand = AddPoint | AddSpur | InsertPoint | MovePoint | RemovePoint | JoinPoints | RemoveLeg
Command = Annotated[
    RunCommand
    | circuit.SetCircuit
    | circuit.SetSurroundings
    | circuit.SetEarth
    | circuit.SetDevice
    | cables.SetCable
    | cables.OwnCable
    | points.SetPoint
    | points.MakeReady
    | points.AddLoad
    | points.SetLoad
    | points.DropLoad
    | legs.SetLeg
    | legs.SetSegment
    | legs.AddSegment
    | legs.DropSegment
    | remains.LeaveDead
    | remains.SetRemains
    | remains.DropRemains
    | boxes.SetJoins
    | boxes.SetAccessories
    | lighting.SetScheme
    | lighting.LoopAt
    | boxes.AddPlace
    | boxes.Connect
    | boxes.MarkCore
    | boxes.AddCable
    | boxes.SameCable
    | circuit.Take,
    Field(discriminator="op"),
]

_DO = {**circuit.DO, **cables.DO, **points.DO, **legs.DO, **remains.DO, **boxes.DO, **lighting.DO}


def carry_out(rulebook: Rulebook, design: Circuit, commands: tuple[Command, ...]) -> Edited:
    """Return the circuit after these commands, one after another, and what the eye should go to.

    Raises EditRefusedError where the circuit does not allow one, and the model's ValidationError at its limits.
    """
    found = Edited(circuit=design, focus="")
    for command in commands:
        found = _carry_out(rulebook, found.circuit, command)
    return found


def _carry_out(rulebook: Rulebook, design: Circuit, command: Command) -> Edited:
    if isinstance(command, RunCommand):
        return apply_edit(design, command, next_point(rulebook, design))
    changed = _DO[type(command)](rulebook, design, command)
    # Held to the model again: a field by itself may be sound and the whole not.
    return Edited(circuit=Circuit.model_validate(changed.model_dump()), focus="")
