"""The people of a firm, links that let somebody in, one's own account, and the audit."""

from datetime import date
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response
from pydantic import AfterValidator, BeforeValidator, Field

from lumbek.api.context import Admin, ProvedAdmin, SignedInPerson, WithServices, address_of
from lumbek.api.part import part_of_api
from lumbek.api.session import Code, Me, Secret, browser_of, device_of, keep_session, me_of, need_own_page
from lumbek.core.model.text import GivenName, cleaned, printable
from lumbek.core.value import Frozen
from lumbek.services.audit import AuditPage
from lumbek.services.links import LinkUse, LinkView
from lumbek.services.people import FactorOffer, Handed, PeopleView
from lumbek.services.roles import Role
from lumbek.store.audit import AuditAsked

router = part_of_api("people")

Email = Annotated[
    str,
    Field(min_length=3, max_length=200, pattern=r"^[^@\s]+@[^@\s]+\.[^@\s]+$"),
    AfterValidator(printable),
    BeforeValidator(cleaned),
]
Roles = Annotated[tuple[Role, ...], Field(max_length=8)]
Token = Annotated[str, Field(min_length=8, max_length=100, pattern=r"^[A-Za-z0-9_-]+$")]


class Invitation(Frozen):
    """Somebody to invite."""

    email: Email
    name: GivenName
    roles: Roles


class RolesGiven(Frozen):
    """Roles that somebody is to have from here on, and roles to have no more; the others stay as they are."""

    give: Roles = ()
    take: Roles = ()


class LinkToken(Frozen):
    """What stands at the end of a link."""

    token: Token


class UseLink(Frozen):
    """A link used, with what it asks for."""

    token: Token
    password: Secret
    email: Email | None = None
    name: GivenName | None = None
    firm: GivenName | None = None


class PasswordChange(Frozen):
    """One's password now, and the one to come."""

    current: Secret
    new: Secret
    code: Code = ""


class FactorTaken(Frozen):
    """The second factor that was offered, and a code of it."""

    secret: Annotated[str, Field(pattern=r"^[A-Z2-7]{32}$")]
    code: Code


@router.get("/people")
def list_people(services: WithServices, person: Admin) -> PeopleView:
    """Return everybody of the firm."""
    return services.people.view(person)


@router.post("/people/invitations", status_code=201)
def invite(invitation: Invitation, services: WithServices, person: ProvedAdmin) -> Handed:
    """Invite somebody: returns the link to hand to them."""
    return services.people.invite(person, invitation.email, invitation.name, invitation.roles)


@router.delete("/people/invitations/{invitation_id}")
def take_back(invitation_id: UUID, services: WithServices, person: ProvedAdmin) -> PeopleView:
    """Take an invitation back: its link is worthless from here on."""
    return services.people.take_back(person, invitation_id)


@router.patch("/people/{user_id}/roles")
def set_roles(user_id: UUID, given: RolesGiven, services: WithServices, person: ProvedAdmin) -> PeopleView:
    """Give somebody roles and take some off: what somebody else changed meanwhile stands beside it."""
    return services.people.set_roles(person, user_id, given.give, given.take)


@router.put("/people/{user_id}/lock")
def lock(user_id: UUID, services: WithServices, person: ProvedAdmin) -> PeopleView:
    """Let somebody in no more; their sessions end."""
    return services.people.lock(person, user_id)


@router.delete("/people/{user_id}/lock")
def unlock(user_id: UUID, services: WithServices, person: ProvedAdmin) -> PeopleView:
    """Let somebody in again."""
    return services.people.unlock(person, user_id)


@router.post("/people/{user_id}/reset", status_code=201)
def reset(user_id: UUID, services: WithServices, person: ProvedAdmin) -> Handed:
    """Make a link with which somebody sets a new password."""
    return services.people.reset(person, user_id)


@router.delete("/people/{user_id}/second-factor")
def drop_factor_of(user_id: UUID, services: WithServices, person: ProvedAdmin) -> PeopleView:
    """Take somebody's second factor off."""
    return services.people.drop_factor_of(person, user_id)


@router.get("/audit")
def read_audit(
    services: WithServices,
    person: Admin,
    before: Annotated[int | None, Query(ge=1, le=2**62)] = None,
    action: Annotated[str, Query(max_length=40), AfterValidator(printable)] = "",
    by: UUID | None = None,
    job: UUID | None = None,
    day: Annotated[date | None, Query(ge=date(2000, 1, 1), le=date(2999, 1, 1))] = None,
) -> AuditPage:
    """Return a page of what was done in the firm, the newest first: of a kind, by somebody, about a job, of a day."""
    return services.audit.page(person, AuditAsked(before, action, by, job, day))


@router.post("/links/look")
def look_at_link(link: LinkToken, services: WithServices) -> LinkView:
    """Say what a link is for."""
    return services.links.look(link.token)


@router.post("/links/use")
def use_link(used: UseLink, request: Request, response: Response, services: WithServices) -> Me | None:
    """Use a link: makes the account and signs in, or sets the password and no more: null, and one signs in with it."""
    need_own_page(request)
    said = LinkUse(password=used.password, email=used.email or "", name=used.name or "", firm=used.firm or "")
    begun = services.links.use(used.token, said, address_of(request), browser_of(request))
    if begun is None:
        return None
    token, person = begun
    keep_session(response, services, token)
    return me_of(person)


@router.put("/account/password", status_code=204)
def change_password(change: PasswordChange, request: Request, services: WithServices, person: SignedInPerson) -> None:
    """Set a new password of one's own; all other sessions end."""
    device = device_of(request, services)
    services.people.change_password(person, change.current, change.code, change.new, device)


@router.post("/account/second-factor")
def offer_factor(services: WithServices, person: SignedInPerson) -> FactorOffer:
    """Return a second factor to set up."""
    services.sessions.need_proof(person)
    return services.people.offer_factor(person)


@router.put("/account/second-factor", status_code=204)
def take_factor(taken: FactorTaken, services: WithServices, person: SignedInPerson) -> None:
    """Turn the second factor on, by a code of it."""
    services.sessions.need_proof(person)
    services.people.take_factor(person, taken.secret, taken.code)


@router.delete("/account/second-factor", status_code=204)
def drop_factor(services: WithServices, person: SignedInPerson) -> None:
    """Turn one's own second factor off."""
    services.sessions.need_proof(person)
    services.people.drop_factor(person)
