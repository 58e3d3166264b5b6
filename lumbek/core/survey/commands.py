"""Small named changes of a job: its head and what the survey found. Fields that a command does not name stay."""

from typing import Annotated, Literal

from pydantic import Field

from lumbek.core.circuit.edit import EditRefusedError
from lumbek.core.model.extent import Extent, Sampling, WholeState, Work, Year
from lumbek.core.model.job import Edition, JobHead, RulebookId, School
from lumbek.core.model.supply import Earthing, MainFuse, Origin, Service, ServiceKind, Supply, Tails
from lumbek.core.model.text import CsaMm2, GivenName, Name, Note, OhmsUpTo, RatingA
from lumbek.core.value import Change, swapped


class SetHead(Change):
    """What a job is called, for whom it is done, and what it is judged by."""

    op: Literal["head"] = "head"
    name: GivenName = "-"
    client: Name = ""
    address: Note = ""
    rulebook: RulebookId = "bs7671"
    edition: Edition = ""
    protection_school: School = "rcbo-each"


class SetExtent(Change):
    """What is done, and what of it is covered and tested."""

    op: Literal["extent"] = "extent"
    state: WholeState = "new"
    year: Year | None = None
    work: Work = "whole"
    sampling: Sampling = "every"
    limits: Note = ""


class SetSupply(Change):
    """What was found out of the supply."""

    op: Literal["supply"] = "supply"
    earthing: Earthing | None = None
    phases: Literal[1, 3] = 1
    ze_ohm: OhmsUpTo | None = None
    ze_origin: Origin | None = None
    fault_current_ka: float | None = None
    fault_current_origin: Origin | None = None
    board_conditional_ka: float | None = None
    declared_limit_a: float | None = None
    earthing_conductor_mm2: CsaMm2 | None = None
    higher_risk: bool = False
    surge_protection: Literal["fitted", "declined", "unknown"] = "unknown"
    board: Name = ""
    notes: Note = ""


class SetMainFuse(Change):
    """The distributor's fuse."""

    op: Literal["main-fuse"] = "main-fuse"
    standard: Literal["bs88-3", "bs88-2", "bs1361", "iec60269", "unknown"] = "unknown"
    rating_a: RatingA | None = None


class SetTails(Change):
    """The consumer's tails."""

    op: Literal["tails"] = "tails"
    csa_mm2: CsaMm2 | None = None
    length_m: float | None = None
    own_device: bool = False


class AddService(Change):
    """A pipe or part more that comes in from outside."""

    op: Literal["add-service"] = "add-service"
    what: ServiceKind


class SetService(Change):
    """What was found of a service that comes in."""

    op: Literal["service"] = "service"
    index: Annotated[int, Field(ge=0, le=40)]
    what: ServiceKind = "water"
    material: Literal["metal", "plastic", "unknown"] = "unknown"
    bonding_mm2: CsaMm2 | None = None
    bonded: Literal["yes", "no", "unknown"] = "unknown"
    within_600mm: bool | None = None


class DropService(Change):
    """Take a service off the list."""

    op: Literal["drop-service"] = "drop-service"
    index: Annotated[int, Field(ge=0, le=40)]


JobCommand = Annotated[
    SetHead | SetExtent | SetSupply | SetMainFuse | SetTails | AddService | SetService | DropService,
    Field(discriminator="op"),
]


def carry_out_on_job(head: JobHead, supply: Supply, commands: tuple[JobCommand, ...]) -> tuple[JobHead, Supply]:
    """Return head and supply after these commands. Raises EditRefusedError, and ValidationError at the limits."""
    for command in commands:
        said = command.said("index")
        match command:
            case SetHead():
                head = JobHead.model_validate({**head.model_dump(), **said})
                continue
            case SetExtent():
                extent = Extent.model_validate({**head.extent.model_dump(), **said})
                head = head.model_copy(update={"extent": extent})
                continue
            case SetSupply():
                changes: dict[str, object] = said
            case SetMainFuse():
                changes = {"main_fuse": MainFuse.model_validate({**supply.main_fuse.model_dump(), **said})}
            case SetTails():
                changes = {"tails": Tails.model_validate({**supply.tails.model_dump(), **said})}
            case AddService():
                changes = {"services": (*supply.services, Service(what=command.what))}
            case SetService():
                found = _service(supply, command.index)
                new = Service.model_validate({**found.model_dump(), **said})
                changes = {"services": swapped(supply.services, command.index, new)}
            case DropService():
                _service(supply, command.index)
                changes = {"services": swapped(supply.services, command.index)}
        # Held to the model again: a field by itself may be sound and the whole not.
        supply = Supply.model_validate(supply.model_copy(update=changes).model_dump())
    return head, supply


def _service(supply: Supply, index: int) -> Service:
    if index >= len(supply.services):
        raise EditRefusedError(f"There is no service {index + 1} on the list any more.")
    return supply.services[index]
