"""Who may do what. A person holds roles; a role holds rights; every route asks for one right."""

from collections.abc import Iterable
from enum import StrEnum


class Role(StrEnum):
    """What a person is in a firm. Everybody may read."""

    READER = "reader"
    DESIGNER = "designer"
    TESTER = "tester"
    SUPERVISOR = "supervisor"
    ADMIN = "admin"


class Right(StrEnum):
    """What a route asks for."""

    READ = "read"
    DESIGN = "design"
    TEST = "test"
    ISSUE = "issue"
    MANAGE = "manage"


# A qualified supervisor answers for the work of the others, and may do it too. An admin looks after people, no more.
_RIGHTS: dict[Role, frozenset[Right]] = {
    Role.READER: frozenset({Right.READ}),
    Role.DESIGNER: frozenset({Right.READ, Right.DESIGN}),
    Role.TESTER: frozenset({Right.READ, Right.TEST}),
    Role.SUPERVISOR: frozenset({Right.READ, Right.DESIGN, Right.TEST, Right.ISSUE}),
    Role.ADMIN: frozenset({Right.READ, Right.MANAGE}),
}

# What a person is told who lacks a right: who may.
WHO_MAY = {
    Right.READ: "people of the firm",
    Right.DESIGN: "designers and qualified supervisors",
    Right.TEST: "testers and qualified supervisors",
    Right.ISSUE: "qualified supervisors",
    Right.MANAGE: "admins",
}


def rights_of(roles: Iterable[str]) -> frozenset[Right]:
    """Return what somebody with these roles may do: with none of them to read. Unknown roles add nothing."""
    known = {each.value for each in Role}
    return _RIGHTS[Role.READER].union(*(_RIGHTS[Role(role)] for role in roles if role in known))
