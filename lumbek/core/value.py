"""The base of every value: equal by content, never changed."""

from pydantic import BaseModel, ConfigDict


class Frozen(BaseModel):
    """A value: equal by content, never changed, and with no fields that its type does not name."""

    model_config = ConfigDict(frozen=True, extra="forbid")
