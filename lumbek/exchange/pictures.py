"""Photos as they are set into a paper: small enough to send, plain enough to keep for years (PDF/A wants RGB)."""

import io

from PIL import Image

_SIDE, _QUALITY = 1100, 82


def for_paper(data: bytes) -> bytes:
    """Return a photo as a JPEG of at most 1100 points a side, on white where it lets something through."""
    with Image.open(io.BytesIO(data), formats=["JPEG", "PNG"]) as found:
        found.draft("RGB", (_SIDE, _SIDE))
        found.thumbnail((_SIDE, _SIDE))
        clear = found.convert("RGBA")
        flat = Image.new("RGB", clear.size, "white")
        flat.paste(clear, mask=clear)
        out = io.BytesIO()
        flat.save(out, "JPEG", quality=_QUALITY)
    return out.getvalue()
