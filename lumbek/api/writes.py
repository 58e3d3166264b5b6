"""What is sent with a write, whatever is written."""

from uuid import UUID

from lumbek.core.value import Frozen


class Write(Frozen):
    """An id that the sender made: what is sent twice is done once."""

    id: UUID


class OnVersion(Write):
    """A write on the version of the document that its sender saw."""

    version: int
