"""Handing out a file under a plain name, and saying so in the API's description."""

import re
from typing import Any
from urllib.parse import quote

from fastapi import Response


def download(content: bytes, media_type: str, name: str) -> Response:
    """Return an answer that browsers keep as a file."""
    plain = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-")
    # A name of nothing but pictures would leave a file that hides itself.
    plain = f"job{plain}" if plain.startswith(".") else plain
    said = f'attachment; filename="{plain}"'
    if not name.isascii():
        said += f"; filename*=UTF-8''{quote(_without_paths(name), safe='')}"
    return Response(content, media_type=media_type, headers={"Content-Disposition": said})


def _without_paths(name: str) -> str:
    kept = re.sub(r'[\x00-\x1f/\\:*?"<>|]+', "-", name).strip()
    return f"job{kept}" if kept.startswith(".") else kept


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
