"""Mail with links, handed to a mail server; where none takes it, whoever made the link hands it on."""

import smtplib
from datetime import datetime
from email.message import EmailMessage
from urllib.parse import urlsplit

import structlog

from lumbek.settings import Settings

_SECONDS = 5.0
log = structlog.get_logger()


class Mail:
    """The way to a mail server."""

    def __init__(self, settings: Settings) -> None:
        self._settings = settings

    def send(self, to: str, subject: str, path: str, until: datetime) -> bool:
        """Send a link; return whether a mail server took it. It is never an error that it did not."""
        address = self._settings.public_address.rstrip("/") + path
        words = f"{subject}:\n\n{address}\n\nGood once, until {until:%d %B %Y, %H:%M} UTC.\n"
        return bool(self._settings.public_address) and self.tell(to, subject, words)

    def tell(self, to: str, subject: str, words: str) -> bool:
        """Tell somebody something; return whether a mail server took it."""
        server = urlsplit(self._settings.smtp_url)
        if not server.hostname:
            return False
        message = EmailMessage()
        message["From"], message["To"], message["Subject"] = self._settings.mail_from, to, subject
        message.set_content(words)
        try:
            with smtplib.SMTP(server.hostname, server.port or 25, timeout=_SECONDS) as smtp:
                if server.scheme == "smtps":
                    smtp.starttls()
                if server.username and server.password:
                    smtp.login(server.username, server.password)
                smtp.send_message(message)
        except (OSError, smtplib.SMTPException, ValueError) as error:
            # Without the address it was for: logs hold no personal data.
            log.warning("mail-not-taken", why=type(error).__name__)
            return False
        return True
