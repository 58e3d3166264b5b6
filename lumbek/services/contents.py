"""What a file that is taken in holds, whatever it calls itself: photos, drawn anew, and papers that were scanned.

A photo is decoded within bounds and written anew: what a device put beside it (where it was taken, by whose phone) and
whatever else the file held, is not kept.
"""

import io
import re
from threading import BoundedSemaphore
from typing import NamedTuple

from PIL import Image, ImageOps, UnidentifiedImageError

from lumbek.services.errors import BadInputError

# What each kind of file that is taken in begins with.
_BEGINS = {b"\xff\xd8\xff": "image/jpeg", b"\x89PNG\r\n\x1a\n": "image/png", b"%PDF-": "application/pdf"}
_FORMATS = {"image/jpeg": "JPEG", "image/png": "PNG"}
# No photo has more points, nor a side that is longer; what is drawn anew has no longer side than the last.
_MOST_POINTS, _MOST_SIDE, _KEPT_SIDE = 50_000_000, 12_000, 3000
_QUALITY = 88
# A paper ends with this, and nothing but blank after it: behind it something else could stand.
_PDF_END = re.compile(rb"%%EOF\s*\Z")
# So many are decoded at once, each taking up to 150 MB for a moment.
_DECODING = BoundedSemaphore(2)


class Content(NamedTuple):
    """A file as it is kept: its media type and bytes."""

    kind: str
    data: bytes


def taken_in(data: bytes) -> Content:
    """Return a file as it is kept. Raises BadInputError for what is not taken in."""
    kind = next((kind for start, kind in _BEGINS.items() if data.startswith(start)), None)
    if kind is None:
        raise BadInputError("A photo is a JPEG or a PNG, a paper a PDF.")
    if kind != "application/pdf":
        with _DECODING:
            return Content(kind, _drawn_anew(data, _FORMATS[kind]))
    if not _PDF_END.search(data):
        raise BadInputError("This PDF does not end as one does: it is cut off, or holds something else besides.")
    return Content(kind, data)


def _drawn_anew(data: bytes, form: str) -> bytes:
    try:
        with Image.open(io.BytesIO(data), formats=[form]) as found:
            if found.width * found.height > _MOST_POINTS or max(found.size) > _MOST_SIDE:
                size = f"{found.width} x {found.height}"
                raise BadInputError(f"A photo of {size} points is larger than any that is taken in.")
            # Of a JPEG no more is decoded than is kept.
            found.draft("RGB", (_KEPT_SIDE, _KEPT_SIDE))
            upright = ImageOps.exif_transpose(found)
            upright.thumbnail((_KEPT_SIDE, _KEPT_SIDE))
            clean = upright.convert("RGB" if form == "JPEG" or upright.mode not in ("L", "RGBA") else upright.mode)
            # Without what stood beside the points: the encoder would write it again.
            clean.info = {}
            out = io.BytesIO()
            clean.save(out, form, quality=_QUALITY, optimize=True)
    except Image.DecompressionBombError as error:
        raise BadInputError("This photo has far more points, and is larger than any that is taken in.") from error
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError) as error:
        raise BadInputError("This photo cannot be read: it is damaged, or no photo.") from error
    return out.getvalue()
