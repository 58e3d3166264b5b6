"""Reading a stored document: of whatever version it is, with whatever fields it has that are known no longer."""

from copy import deepcopy
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from lumbek.exchange.upgrade import Part, upgrade

Model = TypeVar("Model", bound=BaseModel)


def read_stored(model: type[Model], part: Part, document: dict[str, Any], version: int) -> Model:
    """Return what a stored document holds. Fields that its model does not know are left out, never refused.

    Raises ValidationError only for what no version ever wrote.
    """
    upgraded = upgrade(part, document, version)
    try:
        return model.model_validate(upgraded)
    except ValidationError as error:
        unknown = [each["loc"] for each in error.errors() if each["type"] == "extra_forbidden"]
        if not unknown:
            raise
        return model.model_validate(_without(deepcopy(upgraded), unknown))


def _without(document: dict[str, Any], places: list[tuple[int | str, ...]]) -> dict[str, Any]:
    for *path, last in places:
        at: Any = document
        for step in path:
            at = at[step]
        del at[last]
    return document
