"""Several `lumbek serve` over one database, and a proxy before them that gives each request to the next one.

It does what `docs/running.md` has nginx do: a request that a stand did not answer goes to another, writes too, for a
write is done once however often it is sent.
"""

import http.client
import itertools
import socketserver
import subprocess
import sys
import threading
import time
from contextlib import suppress
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

from lumbek.ops.cluster import free_port
from tests.support.running import environment
from tests.support.stack import ROOT


class Stand:
    """`lumbek serve` in a process of its own, on a port of its own."""

    def __init__(self, url: str, **said: str) -> None:
        self.port = free_port()
        known = {"LUMBEK_PORT": str(self.port), "LUMBEK_WORKERS": "1", "LUMBEK_DEMO": "false"}
        known |= {"LUMBEK_SECURE_COOKIES": "false", "LUMBEK_LOG_LEVEL": "WARNING", **said}
        command = [sys.executable, "-m", "lumbek.cli", "serve"]
        self.process = subprocess.Popen(command, env=environment(url, **known), cwd=ROOT)

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def wait(self) -> "Stand":
        """Wait until it answers."""
        end = time.monotonic() + 120
        while time.monotonic() < end:
            with suppress(OSError, http.client.HTTPException):
                connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
                connection.request("GET", "/api/health")
                if connection.getresponse().status == 200:
                    return self
            time.sleep(0.1)
        self.kill()
        raise RuntimeError("the stand did not start")

    def kill(self) -> None:
        self.process.kill()
        self.process.wait()


class Proxy:
    """Gives requests to stands in turn; what one does not answer goes to the next."""

    def __init__(self, stands: list[Stand]) -> None:
        turns = itertools.count()
        self.answered = dict.fromkeys((stand.port for stand in stands), 0)
        answered = self.answered

        class Handler(BaseHTTPRequestHandler):
            protocol_version = "HTTP/1.1"

            def log_message(self, *_: object) -> None:
                pass

            def hand_on(self) -> None:
                body = self.rfile.read(int(self.headers.get("content-length", 0)))
                turn = next(turns) % len(stands)
                for stand in (*stands[turn:], *stands[:turn]):
                    connection = http.client.HTTPConnection("127.0.0.1", stand.port, timeout=60)
                    try:
                        connection.request(self.command, self.path, body, dict(self.headers))
                        answer = connection.getresponse()
                        content = answer.read()
                    except (OSError, http.client.HTTPException):
                        continue
                    finally:
                        connection.close()
                    answered[stand.port] += 1
                    self.send_response(answer.status)
                    for name, value in answer.getheaders():
                        if name.lower() not in ("transfer-encoding", "content-length", "connection", "date", "server"):
                            self.send_header(name, value)
                    self.send_header("Content-Length", str(len(content)))
                    self.end_headers()
                    self.wfile.write(content)
                    return
                self.send_error(502)

            do_GET = do_POST = do_PUT = do_DELETE = hand_on  # noqa: N815

        self._server: socketserver.BaseServer = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        self.address = f"http://127.0.0.1:{self._server.server_address[1]}"
        threading.Thread(target=self._server.serve_forever, daemon=True).start()

    def stop(self) -> None:
        self._server.shutdown()
        self._server.server_close()
