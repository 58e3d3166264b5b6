"""Everything that is set down in the audit, by the name it is known by for good: lines are never rewritten."""

from enum import StrEnum


class Deed(StrEnum):
    """Something that was done."""

    SIGN_IN = "sign-in"
    SIGN_IN_FAILED = "sign-in-failed"
    SIGN_OUT = "sign-out"
    SESSION_ENDED = "session-ended"
    FIRM_BEGUN = "firm-begun"
    INVITED = "invited"
    JOINED = "joined"
    ROLES = "roles"
    LOCKED = "locked"
    UNLOCKED = "unlocked"
    RESET_OFFERED = "reset-offered"
    RESET = "reset"
    PASSWORD_CHANGED = "password-changed"  # noqa: S105 - what was done, no secret
    SECOND_FACTOR_ON = "second-factor-on"
    SECOND_FACTOR_OFF = "second-factor-off"
    JOB_STARTED = "job-started"
    IMPORTED = "imported"
    JOB_CHANGED = "job-changed"
    PLACES_CHANGED = "places-changed"
    JOB_REMOVED = "job-removed"
    CIRCUIT_STARTED = "circuit-started"
    CIRCUIT_CHANGED = "circuit-changed"
    CIRCUIT_REMOVED = "circuit-removed"
    LIBRARY_KEPT = "library-kept"
    LIBRARY_REMOVED = "library-removed"
    READING = "reading"
    WIRING_RECORDED = "wiring-recorded"
    ATTACHED = "attached"
    EXPORTED = "exported"
    ISSUED = "issued"
