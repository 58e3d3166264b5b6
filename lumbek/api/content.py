"""What a write says, as a hash: so that another one under an id that was used is told from the same sent twice."""

import json
from functools import partial
from hashlib import sha256

from fastapi import Request

from lumbek.services.writes import CONTENT

_WRITING = ("POST", "PUT", "PATCH", "DELETE")


async def note_content(request: Request) -> None:
    """Note what a write of JSON says, wherever it is sent to; the version that its sender saw is no part of that.

    A file is no such thing: whoever takes one in compares it.
    """
    if request.method not in _WRITING or "json" not in request.headers.get("content-type", ""):
        return
    if request.url.path.endswith("/file"):
        return
    # Worked out by whoever asks for it: most of what is sent is not done once by an id.
    CONTENT.set(partial(hash_of, request.url.path, await request.body()))


def hash_of(path: str, body: bytes) -> str:
    """Return a hash of what a body says to a path; nothing for what is no JSON object, which is refused anyway."""
    try:
        said = json.loads(body)
    except (ValueError, RecursionError):
        return ""
    if not isinstance(said, dict):
        return ""
    kept = {key: value for key, value in said.items() if key not in ("id", "version")}
    return sha256(f"{path} {json.dumps(kept, sort_keys=True)}".encode()).hexdigest()
