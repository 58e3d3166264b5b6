"""Handing notifications in to an office over HTTP: `PUT /notifications/ID`, sent as often as it takes."""

import http.client
import json
from collections.abc import Mapping
from typing import Any, Literal, NamedTuple
from urllib.parse import urlsplit
from uuid import UUID

import structlog

from lumbek.settings import Settings

_SECONDS = 5.0
_MOST_BYTES = 20_000
_MOST_SAID = 500
_RECEIVED = (200, 201)
# What it says of what it got; everything else is no word on it, and is tried again.
_REFUSED = (409, 422)
log = structlog.get_logger()


class OfficeSaid(NamedTuple):
    """The office's word on a notification: its receipt, or why it was refused."""

    outcome: Literal["received", "refused"]
    receipt: str
    said: str


class Office:
    """The way to the office, where there is one."""

    def __init__(self, settings: Settings) -> None:
        self._url = urlsplit(settings.office_url)

    @property
    def is_known(self) -> bool:
        """Whether settings name one."""
        return bool(self._url.hostname)

    def hand_in(self, notification_id: UUID, document: Mapping[str, Any]) -> OfficeSaid | None:
        """Hand a notification in; return what the office says, nothing where it gives no word on it now."""
        try:
            status, body = self._put(f"/notifications/{notification_id}", json.dumps(document))
            said = json.loads(body)
            if status in _RECEIVED and isinstance(receipt := said["receipt"], str) and receipt:
                return OfficeSaid("received", receipt[:_MOST_SAID], "")
            if status in _REFUSED:
                return OfficeSaid("refused", "", "; ".join(str(each) for each in said["why"])[:_MOST_SAID])
            log.warning("office-no-word", status=status)
        except (OSError, http.client.HTTPException, ValueError, KeyError, TypeError) as error:
            log.warning("office-no-word", why=type(error).__name__)
        return None

    def _put(self, path: str, body: str) -> tuple[int, bytes]:
        kind = http.client.HTTPSConnection if self._url.scheme == "https" else http.client.HTTPConnection
        connection = kind(self._url.hostname or "", self._url.port, timeout=_SECONDS)
        try:
            headers = {"Content-Type": "application/json"}
            connection.request("PUT", self._url.path.rstrip("/") + path, body.encode(), headers)
            answer = connection.getresponse()
            return answer.status, answer.read(_MOST_BYTES)
        finally:
            connection.close()
