"""Writing the OpenAPI description, from which the front end's types are generated."""

import json
import sys

from lumbek.api.app import make_app
from lumbek.settings import Settings


def description() -> str:
    """Return the OpenAPI description as JSON text."""
    app = make_app(Settings(log_level="ERROR"))
    return json.dumps(app.openapi(), ensure_ascii=False, indent=1) + "\n"


if __name__ == "__main__":
    sys.stdout.write(description())
