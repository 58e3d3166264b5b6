"""Photos as devices make them, and files that only look like photos."""

import io

from PIL import Image


def photo(form: str = "PNG", size: tuple[int, int] = (8, 6), mode: str = "RGB", **beside: object) -> bytes:
    """A photo, its upper left quarter red."""
    picture = Image.new(mode, size, "white")
    picture.paste("red", (0, 0, size[0] // 2, size[1] // 2))
    out = io.BytesIO()
    picture.save(out, form, **beside)
    return out.getvalue()


def read(data: bytes) -> Image.Image:
    return Image.open(io.BytesIO(data))


def taken_sideways() -> bytes:
    """A JPEG that says where it was taken, with which phone, and that it is to be turned by a quarter."""
    beside = Image.Exif()
    beside[0x0112] = 6
    beside[0x010F] = "A phone of somebody"
    beside.get_ifd(0x8825)[2] = (51.0, 30.0, 0.0)
    return photo("JPEG", (80, 60), exif=beside.tobytes(), comment=b"in the loft of somebody")
