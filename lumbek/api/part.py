"""A part of the API, and what holds for every address of all parts."""

from fastapi import APIRouter, Depends

from lumbek.api.content import note_content
from lumbek.api.errors import ErrorBody


def part_of_api(tag: str, prefix: str = "/api") -> APIRouter:
    """Return the router of a part.

    What all have in common is said here, not by the application: its routes are then put together once, as they are
    written, and not again by every application that includes them.
    """
    return APIRouter(
        prefix=prefix,
        tags=[tag],
        dependencies=[Depends(note_content)],
        responses={"4XX": {"model": ErrorBody}, "500": {"model": ErrorBody}, "503": {"model": ErrorBody}},
    )
