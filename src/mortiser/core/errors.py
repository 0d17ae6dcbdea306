"""What can go wrong, said so that a person knows what to do.

MortiserError
├── BadInput        the request or the file cannot be used as it is   (400)
│   └── BadMedia    a recording that cannot be taken                  (422)
├── TooLarge        over a limit                                      (413)
├── NotFound        the thing asked for is not there                  (404)
├── Stale           the project moved on since it was read            (409)
├── Conflict        not possible in this state                        (409)
├── NoSpace         the disk is full                                  (507)
└── Cancelled       stopped on request, not a fault
"""

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


class Cancelled(MortiserError):
    """Work stopped because somebody asked for it."""

    code = "cancelled"
