"""What anybody may ask of a paper, signed in or not: whether a file was issued here. Asked in bounds, by address."""

from typing import Annotated

from fastapi import Request
from pydantic import Field

from lumbek.api.context import WithServices, address_of
from lumbek.api.part import part_of_api
from lumbek.core.value import Frozen
from lumbek.services.verifying import VerifyAnswer

router = part_of_api("verifying")


class AskVerify(Frozen):
    """The SHA-256 of a whole file, the code on its last page, or both. The file itself stays where it is."""

    sha256: Annotated[str, Field(pattern=r"^([0-9a-f]{64})?$")] = ""
    code: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{0,64}$")] = ""


@router.post("/verify")
def verify(asked: AskVerify, request: Request, services: WithServices) -> VerifyAnswer:
    """Say what is known of a file or a code: issued by whom on which day, corrected, altered, or unknown."""
    services.verifying.count(address_of(request))
    return services.verifying.ask(asked.sha256, asked.code)
