"""Send every route of a running application what nobody would: python -m tools.fuzz [minutes].

Schemathesis reads the API's own description and makes requests of it, right and wrong; no answer may be a fault of
ours, and none may be of a shape that the description does not know. Wants `pip install -e .[fuzz]`.
"""

import json
import subprocess
import sys
from pathlib import Path
from typing import Any
from uuid import uuid4

import httpx2 as httpx

from tests.support.client import sign_in
from tests.support.stack import Server, new_database, stop_stack

ROOT = Path(__file__).resolve().parents[1]
VAR = ROOT / "var"


def main() -> int:
    minutes = float(sys.argv[1]) if sys.argv[1:] else 3
    server = Server(new_database(demo=True)).start()
    try:
        with httpx.Client(base_url=server.address) as client:
            token = sign_in(client).headers["X-CSRF-Token"]
            cookie = f"lumbek_session={client.cookies['lumbek_session']}"
            description = VAR / "openapi-of-the-demo.json"
            description.write_text(json.dumps(_with_ids(client)))
        command = [
            "schemathesis",
            "run",
            str(description),
            f"--url={server.address}",
            f"--header=Cookie: {cookie}",
            f"--header=X-CSRF-Token: {token}",
            "--checks=not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance",
            # Signing out would end the walk, and what is removed is not there to be tried.
            "--exclude-path=/api/session",
            "--exclude-method=DELETE",
            "--continue-on-failure",
            "--max-failures=20",
            f"--max-time={60 * minutes:.0f}",
        ]
        return subprocess.run(command, cwd=VAR, check=False).returncode  # noqa: S603
    finally:
        server.stop()
        stop_stack()


def _with_ids(client: httpx.Client) -> dict[str, Any]:
    """Return the API's description with the jobs and circuits that there are as the only ids, or all would be 404."""
    description: dict[str, Any] = json.loads((ROOT / "docs" / "formats" / "openapi.json").read_text())
    jobs = [job["id"] for job in client.get("/api/jobs").json()]
    circuits = [line["id"] for job in jobs for line in client.get(f"/api/jobs/{job}").json()["circuits"]]
    records = []
    for circuit in circuits[:3]:
        made = client.post(f"/api/circuits/{circuit}/records", json={"id": str(uuid4())})
        records.append(made.json()["id"])
    ids = {"job_id": jobs, "circuit_id": circuits, "record_id": records}
    for operations in description["paths"].values():
        for operation in operations.values():
            for parameter in operation.get("parameters", ()):
                if parameter["name"] in ids:
                    parameter["schema"] = {"type": "string", "enum": ids[parameter["name"]]}
    return description


if __name__ == "__main__":
    sys.exit(main())
