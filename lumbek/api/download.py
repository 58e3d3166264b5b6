"""Handing out a file under a plain name, and saying so in the API's description."""

import re
from typing import Any

from fastapi import Response


def download(content: bytes, media_type: str, name: str) -> Response:
    """Return an answer that browsers keep as a file."""
    plain_name = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-")
    return Response(
        content, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{plain_name}"'}
    )


def download_csv(text: str, name: str) -> Response:
    """Return a table as a file for spreadsheets: the mark at its head tells them that the text is UTF-8."""
    return download(("\ufeff" + text).encode(), "text/csv; charset=utf-8", name)


def hands_out(*media_types: str) -> dict[int | str, dict[str, Any]]:
    """Return how the API's description names a route that answers with a file."""
    # Read by its media type, a job file is an object; the others are bytes.
    content = {each: {"schema": _JOB_FILE if each == "application/json" else _FILE} for each in media_types}
    return {200: {"description": "The file", "content": content}}


def takes(media_type: str) -> dict[str, Any]:
    """Return how the API's description names a route whose body is a file."""
    return {"requestBody": {"required": True, "content": {media_type: {"schema": _FILE}}}}


_FILE = {"type": "string", "format": "binary"}
_JOB_FILE = {"type": "object", "description": "A job file, as in job.schema.json"}
