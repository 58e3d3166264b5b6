"""A simulated mail server: takes what is handed in by SMTP over loopback, and keeps each message as a file.

    python -m lumbek.standins.mailbox --port 8425 --folder var/demo/mail

It speaks as much of SMTP (RFC 5321) as a program needs that hands mail in. Messages go nowhere else.
"""

import argparse
import asyncio
import sys
from datetime import UTC, datetime
from pathlib import Path

_MOST_BYTES = 1_000_000


class Mailbox:
    """The messages of a folder, and the conversation that brings a new one."""

    def __init__(self, folder: Path) -> None:
        self._folder, self._count = folder, 0
        folder.mkdir(parents=True, exist_ok=True)

    async def talk(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """Talk with one that hands mail in, until it says goodbye."""
        try:
            await self._talk(reader, writer)
        except (ConnectionError, ValueError):
            pass
        finally:
            writer.close()

    async def _talk(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        await _say(writer, "220 mailbox at your service")
        while line := await reader.readline():
            verb = line.split()[0].upper() if line.split() else b""
            if verb == b"QUIT":
                await _say(writer, "221 goodbye")
                return
            if verb == b"DATA":
                await _say(writer, "354 go on, a dot ends it")
                self._keep(await _message(reader))
                await _say(writer, "250 kept")
            elif verb in (b"HELO", b"EHLO", b"MAIL", b"RCPT", b"RSET", b"NOOP"):
                await _say(writer, "250 mailbox")
            else:
                await _say(writer, "502 that is not spoken here")

    def _keep(self, message: bytes) -> None:
        self._count += 1
        stamp = datetime.now(UTC).strftime("%Y%m%d-%H%M%S")
        half = self._folder / ".coming"
        half.write_bytes(message)
        half.rename(self._folder / f"{stamp}-{self._count:04}.eml")


async def _message(reader: asyncio.StreamReader) -> bytes:
    lines: list[bytes] = []
    size = 0
    while (line := await reader.readline()) not in (b".\r\n", b".\n", b""):
        size += len(line)
        if size > _MOST_BYTES:
            raise ValueError("too large a message")
        lines.append(line[1:] if line.startswith(b"..") else line)
    return b"".join(lines)


async def _say(writer: asyncio.StreamWriter, line: str) -> None:
    writer.write(f"{line}\r\n".encode())
    await writer.drain()


async def _serve(port: int, folder: Path, with_parent: bool) -> None:
    server = await asyncio.start_server(Mailbox(folder).talk, "127.0.0.1", port)
    async with server:
        if with_parent:
            # The other end of this pipe goes with whoever started us.
            await asyncio.get_running_loop().run_in_executor(None, sys.stdin.read)
        else:
            await server.serve_forever()


def main() -> None:
    """Take mail in until told to stop."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--port", type=int, default=8425)
    parser.add_argument("--folder", type=Path, required=True)
    parser.add_argument("--with-parent", action="store_true", help="stop when standard input ends")
    given = parser.parse_args()
    asyncio.run(_serve(given.port, given.folder, given.with_parent))


if __name__ == "__main__":
    main()
