"""What can go wrong, said so that a person knows what to do.

MortiserError
├── BadInput        the request or the file cannot be used as it is   (400)
│   └── BadMedia    a recording that cannot be taken                  (422)
├── TooLarge        over a limit                                      (413)
├── NotFound        the thing asked for is not there                  (404)
├── Stale           the project moved on since it was read            (409)
├── Conflict        not possible in this state                        (409)
├── Busy            other work holds what is needed                   (503)
├── OutOfReach      what is asked elsewhere does not answer            (502)
├── NoSpace         the disk is full                                  (507)
├── Damaged         the workspace cannot be read or written           (500)
└── Cancelled       stopped on request, not a fault
"""

import errno

UNFORESEEN = (
    "Something went wrong inside Mortiser. Your work is safe; try again, and look into the "
    "server's log if it happens again."
)
"""What is said of a fault that is none of these."""


class MortiserError(Exception):
    """A fault with a message for people: what happened, what was kept, what to do."""

    code = "error"


class BadInput(MortiserError):
    """The request cannot be carried out as it was put."""

    code = "bad_input"


class BadMedia(BadInput):
    """A file that is no recording Mortiser can take."""

    code = "bad_media"


class TooLarge(MortiserError):
    """Over a limit that is a setting."""

    code = "too_large"


class NotFound(MortiserError):
    """No such thing."""

    code = "not_found"


class Stale(MortiserError):
    """The edit was made against an older revision."""

    code = "stale"


class Conflict(MortiserError):
    """Not possible in the present state."""

    code = "conflict"


class NoSpace(MortiserError):
    """The disk has no room."""

    code = "no_space"


class Busy(MortiserError):
    """Other work holds what is needed for long."""

    code = "busy"


class OutOfReach(MortiserError):
    """What is asked elsewhere does not answer, or not as it should."""

    code = "out_of_reach"


class Damaged(MortiserError):
    """The workspace's files cannot be read or written."""

    code = "damaged"


class Cancelled(MortiserError):
    """Work stopped because somebody asked for it."""

    code = "cancelled"


def foreseen(error: BaseException) -> MortiserError | None:
    """What a fault of the system means: a full disk, wherever it was met; None for others."""
    if isinstance(error, MortiserError):
        return error
    if getattr(error, "errno", None) in (errno.ENOSPC, errno.EDQUOT):
        return NoSpace(
            "The disk is full. Nothing half done was kept; free some space and try again."
        )
    return None
