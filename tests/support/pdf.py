"""Reading a PDF as somebody would who has been handed it."""

import subprocess
import tempfile


def words_of(pdf: bytes) -> str:
    """The text of a PDF."""
    return _by(pdf, "pdftotext", "-layout", after=("-",))


def pictures_of(pdf: bytes) -> list[tuple[int, int]]:
    """The width and height of each picture in a PDF, in points."""
    lines = [line.split() for line in _by(pdf, "pdfimages", "-list").splitlines()[2:]]
    return [(int(each[3]), int(each[4])) for each in lines if each[2] == "image"]


def _by(pdf: bytes, *command: str, after: tuple[str, ...] = ()) -> str:
    with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
        file.write(pdf)
        file.flush()
        done = subprocess.run([*command, file.name, *after], capture_output=True, text=True, check=True)
    return done.stdout
