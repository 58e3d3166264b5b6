"""Reading a PDF as somebody would who has been handed it."""

import subprocess
import tempfile


def words_of(pdf: bytes) -> str:
    """The text of a PDF."""
    with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
        file.write(pdf)
        file.flush()
        done = subprocess.run(["pdftotext", "-layout", file.name, "-"], capture_output=True, text=True, check=True)
    return done.stdout
