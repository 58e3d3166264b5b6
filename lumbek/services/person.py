"""Who asks: a person of a firm, in a session, from an address."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from lumbek.services.roles import Right, rights_of


@dataclass(frozen=True)
class Person:
    """Who asks. `session_id` is none for what the shell does, and for the demo's own loading."""

    user_id: UUID
    firm_id: UUID
    name: str
    firm: str
    email: str = ""
    roles: tuple[str, ...] = ()
    csrf_token: str = ""
    session_id: UUID | None = None
    # When the password was last given in this session.
    proved_at: datetime | None = None
    address: str = ""
    second_factor: bool = False
    # When somebody last tried so many passwords on this account that it was held back.
    held_at: datetime | None = None

    @property
    def rights(self) -> frozenset[Right]:
        """What this person may do."""
        return rights_of(self.roles)

    @property
    def has_drafts(self) -> bool:
        """Whether what this person takes away is marked a draft: only who may issue a document has it without."""
        return Right.ISSUE not in self.rights
