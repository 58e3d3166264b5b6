"""The base of every value: equal by content, never changed."""

from typing import Any, TypeVar

from pydantic import BaseModel, ConfigDict


class Frozen(BaseModel):
    """A value: equal by content, never changed, and with no fields that its type does not name.

    What checks its fields is built at once: built when it is first wanted, two threads that want it would undo each
    other's work.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")


_F = TypeVar("_F", bound=Frozen)


def swapped(all_of: tuple[_F, ...], at: int, *new: _F) -> tuple[_F, ...]:
    """Return several values with one of them swapped for others, or gone."""
    return (*all_of[:at], *new, *all_of[at + 1 :])


def _no_defaults(schema: dict[str, Any]) -> None:
    """Leave out of a schema what a field would be by itself: here it means that the field is not named."""
    for name, field in schema.get("properties", {}).items():
        if name != "op":
            field.pop("default", None)


class Change(Frozen):
    """A change of a value: only the fields that it names count, whatever the others would be by themselves."""

    model_config = ConfigDict(frozen=True, extra="forbid", json_schema_extra=_no_defaults)

    def said(self, *about: str) -> dict[str, Any]:
        """Return the fields that it names, without what it is about."""
        return {key: getattr(self, key) for key in self.model_fields_set if key not in ("op", *about)}
