"""A simulated building control office: takes notifications over HTTP on loopback, and keeps each as a file.

    python -m lumbek.standins.office --port 8433 --folder var/demo/office

The protocol is in docs/formats/notification.md: what is sent twice is answered twice with one receipt.
"""

import argparse
import hashlib
import json
import sys
import threading
from datetime import UTC, date, datetime
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any
from uuid import UUID

PORT = 8433
_MOST_BYTES = 100_000
_SECONDS = 10
# The office wants to be told so soon after the work is finished.
_DAYS = 30
_ASKED = {
    "firm": "who did the work",
    "by": "who notifies it",
    "address": "where it is",
    "work": "what was done",
    "finished": "when it was finished",
    "papers": "the number of its certificate",
}
_Answer = tuple[int, dict[str, Any]]


class Desk:
    """The notifications of a folder, and what is made of a new one."""

    def __init__(self, folder: Path) -> None:
        self._folder, self._lock = folder, threading.Lock()
        folder.mkdir(parents=True, exist_ok=True)

    def take_in(self, notification_id: UUID, body: bytes, today: date) -> _Answer:
        """Return the status and the answer to a notification, which is kept once where it is taken in."""
        try:
            said = json.loads(body)
        except ValueError:
            return 422, {"why": ["it is not JSON"]}
        why = _wrong(said, today)
        if why:
            return 422, {"why": why}
        digest = hashlib.sha256(json.dumps(said, sort_keys=True).encode()).hexdigest()
        kept = self._folder / f"{notification_id}.json"
        with self._lock:
            if kept.is_file():
                before = json.loads(kept.read_text())
                if before["sha256"] != digest:
                    return 409, {"why": ["another notification was handed in under this id"]}
                return 200, {"receipt": before["receipt"]}
            receipt = f"BC-{today:%Y}-{1 + len(list(self._folder.glob('*.json'))):06}"
            half = kept.with_suffix(".coming")
            half.write_text(json.dumps({"receipt": receipt, "sha256": digest, "said": said}))
            half.rename(kept)
        return 201, {"receipt": receipt}


def _wrong(said: object, today: date) -> list[str]:
    if not isinstance(said, dict):
        return ["it is no object"]
    missing = [f"{name}: it does not say {words}" for name, words in _ASKED.items() if not said.get(name)]
    if missing:
        return missing
    try:
        ago = (today - date.fromisoformat(str(said["finished"]))).days
    except ValueError:
        return ["finished: that is no day"]
    if ago < 0:
        return ["finished: that day is still to come"]
    return [f"finished: that was {ago} days ago, and {_DAYS} are allowed"] if ago > _DAYS else []


def _handler(desk: Desk) -> type[BaseHTTPRequestHandler]:
    class Door(BaseHTTPRequestHandler):
        timeout = _SECONDS

        def do_PUT(self) -> None:
            size = self.headers.get("Content-Length", "")
            if not size.isdigit() or int(size) > _MOST_BYTES:
                return self._say(413, {"why": [f"it is larger than {_MOST_BYTES} bytes, or does not say how large"]})
            body = self.rfile.read(int(size))
            where, _, last = self.path.rpartition("/")
            try:
                known = UUID(last) if where == "/notifications" else None
            except ValueError:
                known = None
            if known is None:
                return self._say(404, {"why": ["there is nothing here"]})
            return self._say(*desk.take_in(known, body, datetime.now(UTC).date()))

        def log_message(self, *_: Any) -> None:
            """Nothing: what is handed in is personal."""

        def _say(self, status: int, answer: dict[str, Any]) -> None:
            said = json.dumps(answer).encode()
            self.send_response(status)
            self.send_header("Content-Type", "application/json")
            self.send_header("Content-Length", str(len(said)))
            self.end_headers()
            self.wfile.write(said)

    return Door


def _wait_for_parent(server: ThreadingHTTPServer) -> None:
    sys.stdin.read()
    server.shutdown()


def main() -> None:
    """Take notifications in until told to stop."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--port", type=int, default=PORT)
    parser.add_argument("--folder", type=Path, required=True)
    parser.add_argument("--with-parent", action="store_true", help="stop when standard input ends")
    given = parser.parse_args()
    server = ThreadingHTTPServer(("127.0.0.1", given.port), _handler(Desk(given.folder)))
    if given.with_parent:
        # The other end of this pipe goes with whoever started us.
        threading.Thread(target=_wait_for_parent, args=(server,), daemon=True).start()
    server.serve_forever()


if __name__ == "__main__":
    main()
