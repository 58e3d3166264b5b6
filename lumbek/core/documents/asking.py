"""Gathering what a paper says and what it still wants: a field is said, does not apply, or is wanted, never blank."""

from collections.abc import Sequence

from lumbek.core.documents.paper import Fact, Facts, Signature, Want
from lumbek.core.inspection.standing import StandingSign
from lumbek.core.model.inspection import SignedRole

NOT_APPLICABLE = "not applicable"
TO_BE_SAID = "to be said"
# Where particulars are said.
PARTICULARS = "inspection/particulars"

SIGNED_AS: dict[SignedRole, str] = {
    "designer": "Designed by",
    "constructor": "Built by",
    "inspector": "Inspected and tested by",
    "authoriser": "Authorised by",
}


class Asking:
    """What a paper says so far, with what it wants."""

    def __init__(self) -> None:
        self.wants: list[Want] = []

    def want(self, words: str, at: str = PARTICULARS) -> None:
        """Note something that is wanted, once."""
        if all(each.words != words for each in self.wants):
            self.wants.append(Want(words=words, at=at))

    def fact(self, name: str, value: str | None, at: str = f"{PARTICULARS}", none: str = "") -> Fact:
        """Return a fact: as it is said; `none` where nothing said means that; else it is wanted."""
        if value:
            return Fact(name=name, value=value)
        if none:
            return Fact(name=name, value=none)
        self.want(name, at)
        return Fact(name=name, value=TO_BE_SAID)

    def facts(self, *facts: Fact) -> Facts:
        """Return facts side by side."""
        return Facts(facts=facts)

    def signatures(
        self, signed: Sequence[StandingSign], covers: str | None, *roles: SignedRole
    ) -> tuple[Signature, ...]:
        """Return the places to sign; who has signed the job as it stands is named, the others are wanted.

        `covers` is what a signature has to cover; None where nobody can tell, outside of where it is kept.
        """
        stands = {
            each.said.role: each
            for each in signed
            if covers is None or not each.said.covers or each.said.covers == covers
        }
        found = []
        for role in roles:
            mine = stands.get(role)
            if mine is None:
                self.want(f"{SIGNED_AS[role]}: signature", "inspection/sign")
            found.append(
                Signature(
                    role=SIGNED_AS[role],
                    by="" if mine is None else mine.last.by,
                    on="" if mine is None else mine.last.at[:10],
                )
            )
        return tuple(found)

    @property
    def missing(self) -> tuple[str, ...]:
        """What is wanted, in words."""
        return tuple(each.words for each in self.wants)
