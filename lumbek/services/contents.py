"""What a file is, by its first bytes and whatever it calls itself: photos, and papers that were scanned."""

from lumbek.services.errors import BadInputError

# What each kind of file that is taken in begins with.
_BEGINS = {b"\xff\xd8\xff": "image/jpeg", b"\x89PNG\r\n\x1a\n": "image/png", b"%PDF-": "application/pdf"}


def kind_of_content(data: bytes) -> str:
    """Return the media type of a file. Raises BadInputError for what is not taken in."""
    found = next((kind for start, kind in _BEGINS.items() if data.startswith(start)), None)
    if found is None:
        raise BadInputError("A photo is a JPEG or a PNG, a paper a PDF.")
    return found
