"""A part of the API, and what holds for every address of all parts."""

from fastapi import APIRouter, Depends

from lumbek.api.content import note_content

# How every address refuses, by the name of its schema: to make of its model what checks an answer, three times for each
# of 136 addresses, took a fourteenth of the start. Signing in (`api/session.py`) brings the model.
_REFUSED = {"content": {"application/json": {"schema": {"$ref": "#/components/schemas/ErrorBody"}}}}


def part_of_api(tag: str, prefix: str = "/api") -> APIRouter:
    """Return the router of a part.

    What all have in common is said here, not by the application: its routes are then put together once, as they are
    written, and not again by every application that includes them.
    """
    return APIRouter(
        prefix=prefix,
        tags=[tag],
        dependencies=[Depends(note_content)],
        responses={"4XX": _REFUSED, "500": _REFUSED, "503": _REFUSED},
    )
