"""Handing out a file under a plain name."""

import re

from fastapi import Response


def download(content: bytes, media_type: str, name: str) -> Response:
    """Return an answer that browsers keep as a file."""
    plain_name = re.sub(r"[^A-Za-z0-9._-]+", "-", name).strip("-")
    return Response(
        content, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{plain_name}"'}
    )
