"""Records of an inspection whose circuits are called otherwise: in a file by numbers, where they are kept by ids."""

from collections.abc import Iterable, Mapping

from lumbek.core.model.inspection import FindingSaid, FindingSpot, InspectionKept, OfferDismissed, Opened, TaskSaid
from lumbek.core.model.site import OF_CIRCUITS, StepSaid


def renamed_records(records: Iterable[InspectionKept], names: Mapping[str, str]) -> tuple[InspectionKept, ...]:
    """Return the records with every circuit they name called as `names` has it; what it does not have stays."""
    return tuple(each.model_copy(update={"said": _renamed(each.said, names)}) for each in records)


def _renamed(said: object, names: Mapping[str, str]) -> object:
    match said:
        case FindingSaid():
            return said.model_copy(update={"spot": _spot(said.spot, names), "offer": _key(said.offer, names)})
        case OfferDismissed():
            return said.model_copy(update={"offer": _key(said.offer, names)})
        case Opened():
            return said.model_copy(update={"circuit": names.get(said.circuit, said.circuit)})
        case TaskSaid():
            touched = tuple(
                each.model_copy(update={"circuit": names.get(each.circuit, each.circuit)}) for each in said.touched
            )
            return said.model_copy(update={"touched": touched})
        case StepSaid():
            first, *rest = said.step.split("/")
            own = [names.get(rest[0], rest[0]), *rest[1:]] if rest and first in OF_CIRCUITS else rest
            return said.model_copy(update={"step": "/".join((first, *own))})
        case _:
            return said


def _spot(spot: FindingSpot, names: Mapping[str, str]) -> FindingSpot:
    circuit = names.get(spot.circuit or "", spot.circuit)
    own = circuit if spot.of == "circuit" and circuit else spot.id
    return spot.model_copy(update={"circuit": circuit, "id": own})


def _key(key: str | None, names: Mapping[str, str]) -> str | None:
    """Return the key of an offer: it begins with the circuit where it is of one."""
    if key is None:
        return None
    first, slash, rest = key.partition("/")
    return f"{names.get(first, first)}{slash}{rest}"
