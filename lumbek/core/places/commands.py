"""Small named changes of the storeys and rooms of a house. Fields that a command does not name stay."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.model.text import GivenName, Id
from lumbek.core.plan.commands import PlanCommand
from lumbek.core.value import Change


class AddStorey(Change):
    """One more storey, below those that are there."""

    op: Literal["add-storey"] = "add-storey"
    name: GivenName


class SetStorey(Change):
    """What a storey is called."""

    op: Literal["storey"] = "storey"
    storey: Id
    name: GivenName


class MoveStorey(Change):
    """Put a storey among the others, the uppermost being 0."""

    op: Literal["move-storey"] = "move-storey"
    storey: Id
    index: Annotated[int, Field(ge=0, le=20)]


class DropStorey(Change):
    """Take a storey away; its rooms lie on none then."""

    op: Literal["drop-storey"] = "drop-storey"
    storey: Id


class AddRoom(Change):
    """One more room."""

    op: Literal["add-room"] = "add-room"
    name: GivenName
    storey: Id | None = None


class SetRoom(Change):
    """What a room is called, and on which storey it lies; a room that something names is listed by it."""

    op: Literal["room"] = "room"
    room: Id
    name: GivenName = "Room"
    storey: Id | None = None


class DropRoom(Change):
    """Take away a room that nothing is in."""

    op: Literal["drop-room"] = "drop-room"
    room: Id


PlacesCommand = Annotated[
    AddStorey | SetStorey | MoveStorey | DropStorey | AddRoom | SetRoom | DropRoom | PlanCommand,
    Field(discriminator="op"),
]
