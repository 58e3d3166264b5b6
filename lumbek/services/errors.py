"""What a use case may refuse, and why. The API turns each into one shape."""

from collections.abc import Mapping

from lumbek.exchange.problems import Problem


class ServiceError(Exception):
    """A refusal with a message for the person who asked."""

    code = "refused"

    def __init__(self, message: str, problems: list[Problem] | None = None) -> None:
        super().__init__(message)
        self.message = message
        self.problems = problems or []


class NotSignedInError(ServiceError):
    """Nobody is signed in."""

    code = "not-signed-in"


class WrongTokenError(ServiceError):
    """A write without the session's own token."""

    code = "wrong-token"


class NotAllowedError(ServiceError):
    """This person's roles do not cover it."""

    code = "not-allowed"


class ProveAgainError(ServiceError):
    """What matters asks for the password again, when it was last given too long ago."""

    code = "prove-again"


class SecondFactorError(ServiceError):
    """The password is right; the code of the second factor is asked for."""

    code = "second-factor"


class TooManyAttemptsError(ServiceError):
    """Sign-in is closed for a while; `retry_after_s` says how long."""

    code = "too-many-attempts"

    def __init__(self, message: str, retry_after_s: int) -> None:
        super().__init__(message)
        self.retry_after_s = retry_after_s


class TakenNumberError(ServiceError):
    """Another paper of the firm was issued while this one was set: it is set again, with the next number."""

    code = "taken-number"


class BusyError(ServiceError):
    """So much is being worked out that one more would only wait."""

    code = "busy"


class TooLongError(ServiceError):
    """Something took longer than anything may."""

    code = "too-long"


class CutOffError(ServiceError):
    """What worked something out was ended by the machine before it was done."""

    code = "cut-off"


class NotFoundError(ServiceError):
    """There is no such thing, or it is not this firm's: the answer is the same."""

    code = "not-found"


class BadInputError(ServiceError):
    """The input cannot be used; `problems` say which field and why."""

    code = "bad-input"


class UsedIdError(BadInputError):
    """The id that was sent with a write belongs to something else already."""

    def __init__(self) -> None:
        super().__init__("This id has been used already; send another.")


class ChangedMeanwhileError(ServiceError):
    """Someone else has saved since this person loaded; `current` is what stands now."""

    code = "changed-meanwhile"

    def __init__(self, message: str, current: dict[str, object]) -> None:
        super().__init__(message)
        self.current = current

    @classmethod
    def of(cls, called: str, by: str, version: int, shown: Mapping[str, object]) -> "ChangedMeanwhileError":
        """Return that somebody changed what is called so, with its version and what it says now."""
        return cls(f"{by} changed this {called} while you worked on it.", {"version": version, **shown})
