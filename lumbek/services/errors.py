"""What a use case may refuse, and why. The API turns each into one shape."""

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


class TooManyAttemptsError(ServiceError):
    """Sign-in is closed for a while."""

    code = "too-many-attempts"


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
