"""Send every route of a running application what nobody would: python -m tools.fuzz [minutes].

Schemathesis reads the API's own description and makes requests of it, right and wrong; no answer may be a fault of
ours, and none may be of a shape that the description does not know. Wants `pip install -e .[fuzz]`.
"""

import subprocess
import sys
from pathlib import Path

import httpx2 as httpx

from lumbek.services import demo
from tests.support.stack import Server, new_database, stop_stack

ROOT = Path(__file__).resolve().parents[1]
VAR = ROOT / "var"


def main() -> int:
    minutes = float(sys.argv[1]) if sys.argv[1:] else 3
    server = Server(new_database(demo=True)).start()
    try:
        with httpx.Client(base_url=server.address) as client:
            me = client.post("/api/session", json={"email": demo.EMAIL, "password": demo.PASSWORD}).json()
            cookie = f"lumbek_session={client.cookies['lumbek_session']}"
        command = [
            "schemathesis",
            "run",
            str(ROOT / "docs" / "formats" / "openapi.json"),
            f"--url={server.address}",
            f"--header=Cookie: {cookie}",
            f"--header=X-CSRF-Token: {me['csrf_token']}",
            "--checks=not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance",
            # Signing out would end the walk.
            "--exclude-path=/api/session",
            "--continue-on-failure",
            "--max-failures=20",
            f"--max-time={60 * minutes:.0f}",
        ]
        return subprocess.run(command, cwd=VAR, check=False).returncode  # noqa: S603
    finally:
        server.stop()
        stop_stack()


if __name__ == "__main__":
    sys.exit(main())
