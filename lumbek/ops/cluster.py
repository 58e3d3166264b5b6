"""A PostgreSQL cluster of our own: on loopback, on a free port, as root or as a plain user.

PostgreSQL refuses to run as root, so root starts it as the account that Debian's package makes.
"""

import os
import pwd
import shutil
import socket
import subprocess
import time
from pathlib import Path

_ACCOUNT = "postgres"


class ClusterError(Exception):
    """The database server could not be made or started; the message says what was tried."""


def free_port(preferred: int = 0) -> int:
    """Return a port on loopback that nothing listens on: the preferred one if it is free."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", preferred))
        except OSError:
            return free_port()
        port: int = probe.getsockname()[1]
        return port


def _binary(name: str) -> str:
    packaged = sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), key=lambda path: int(path.parts[4]))
    found = str(packaged[-1]) if packaged else shutil.which(name)
    if not found:
        raise ClusterError(f"PostgreSQL's {name} is not installed: apt-get install postgresql")
    return found


class Cluster:
    """A cluster in a folder. `start` makes it if need be; `stop` leaves its data."""

    def __init__(self, folder: Path, durable: bool = True) -> None:
        self.folder, self.durable = folder, durable
        self.port = 0

    @property
    def url(self) -> str:
        """The SQLAlchemy address of the database `lumbek`."""
        return f"postgresql+psycopg://lumbek@127.0.0.1:{self.port}/lumbek"

    def start(self) -> None:
        """Start the cluster, made first if it is new. Raises ClusterError."""
        self.folder.mkdir(parents=True, exist_ok=True)
        data = self.folder / "data"
        self._hand_over(self.folder)
        new = not (data / "PG_VERSION").is_file()
        if new:
            self._run("initdb", "-D", str(data), "-U", "lumbek", "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8")
        if self._running():
            # Left behind by a start that was killed: its data is sound, its port may not be known.
            self.stop()
        self.port = free_port()
        options = [
            f"-c port={self.port}",
            "-c listen_addresses=127.0.0.1",
            f"-c unix_socket_directories={self.folder}",
            "-c max_connections=50",
        ]
        if not self.durable:
            options += ["-c fsync=off", "-c synchronous_commit=off", "-c full_page_writes=off"]
        log = self.folder / "log"
        self._run("pg_ctl", "-D", str(data), "-l", str(log), "-w", "-t", "60", "-o", " ".join(options), "start")
        if new:
            self._run("createdb", "-h", "127.0.0.1", "-p", str(self.port), "-U", "lumbek", "lumbek")

    def stop(self) -> None:
        """Stop the cluster if it runs."""
        data = self.folder / "data"
        if (data / "postmaster.pid").exists():
            self._run("pg_ctl", "-D", str(data), "-m", "fast", "-w", "stop", check=False)

    def remove(self) -> None:
        """Stop the cluster and delete it with all its data."""
        self.stop()
        shutil.rmtree(self.folder, ignore_errors=True)

    def _running(self) -> bool:
        data = self.folder / "data"
        return self._run("pg_ctl", "-D", str(data), "status", check=False) == 0

    def _hand_over(self, folder: Path) -> None:
        """As root, give the folder to PostgreSQL's account, and see that it can get there."""
        if os.geteuid() != 0:
            return
        account = pwd.getpwnam(_ACCOUNT)
        os.chown(folder, account.pw_uid, account.pw_gid)
        reachable = subprocess.run(self._as_account("test", "-w", str(folder)), check=False).returncode == 0
        if not reachable:
            raise ClusterError(
                f"{folder} lies in a folder that the account {_ACCOUNT} may not enter. "
                "Let others pass through it (chmod o+x), or check out elsewhere."
            )

    @staticmethod
    def _as_account(*command: str) -> list[str]:
        account = pwd.getpwnam(_ACCOUNT)
        return [
            "setpriv",
            f"--reuid={account.pw_uid}",
            f"--regid={account.pw_gid}",
            "--clear-groups",
            "--",
            *command,
        ]

    def _run(self, name: str, *arguments: str, check: bool = True) -> int:
        command = [_binary(name), *arguments]
        if os.geteuid() == 0:
            command = self._as_account(*command)
        # A file, not a pipe: the server keeps what pg_ctl had open, and a pipe would never end.
        output = self.folder / f"{name}.out"
        with output.open("w") as out:
            done = subprocess.run(
                command, stdin=subprocess.DEVNULL, stdout=out, stderr=subprocess.STDOUT, cwd="/", check=False
            )
        if check and done.returncode:
            raise ClusterError(f"{name} failed:\n{output.read_text(errors='replace')}")
        return done.returncode


def wait_for(port: int, seconds: float = 30) -> bool:
    """Return whether something listens on a loopback port before the time is up."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        with socket.socket() as probe:
            probe.settimeout(0.5)
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                return True
        time.sleep(0.05)
    return False
