"""The one error tree of the program.

Every error has a stable `code`, the `field` it concerns and a sentence that says what to do. Adapters
(command line, HTTP) translate the class, never the text.
"""


class JuneShadeError(Exception):
    """Base of every error that the program raises on purpose.

    code: stable machine word. field: dotted path of the value concerned, "" when none. message: one sentence.
    """

    code = "error"

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.field = field

    def __str__(self) -> str:
        return f"{self.field}: {self.message}" if self.field else self.message


class InputError(JuneShadeError):
    """A value that can't be: out of range, of the wrong kind, or at odds with another."""

    code = "invalid_input"


class UnknownKeyError(InputError):
    """A key that the format does not have; refused, so that a slip of the pen is never ignored."""

    code = "unknown_key"


class NoWeatherError(JuneShadeError):
    """No plan can be made: no weather, no normals to stand in for it. The state is unknown, not fine."""

    code = "no_weather"


class NotFoundError(JuneShadeError):
    """The thing named does not exist."""

    code = "not_found"


class SignInError(JuneShadeError):
    """Nobody is signed in, or what they typed to come in is not right."""

    code = "sign_in"


class ForbiddenError(JuneShadeError):
    """It is not theirs to do."""

    code = "forbidden"


class LateError(ForbiddenError):
    """It was entered on a phone that was signed out meanwhile: it waits there for an owner's yes."""

    code = "late"


class LateRefusedError(ForbiddenError):
    """The same, and an owner said no."""

    code = "late_refused"


class TooManyTriesError(JuneShadeError):
    """Too many tries to come in that were wrong. wait_s: after so long the next one is looked at [s]."""

    code = "too_many_tries"

    def __init__(self, wait_s: int) -> None:
        super().__init__(f"too many tries: wait {_waited(wait_s)}, then try again")
        self.wait_s = wait_s


def _waited(wait_s: int) -> str:
    return f"{wait_s} s" if wait_s < 90 else f"{-(-wait_s // 60)} min"


class NoRoomError(JuneShadeError):
    """Something could not be kept: there is no room for it."""

    code = "disk_full"


class ConflictError(JuneShadeError):
    """The request is at odds with what is already stored."""

    code = "conflict"


class AgainError(ConflictError):
    """It looks as if something were stored twice; sent again without asking it is stored."""

    code = "again"


class StaleError(ConflictError):
    """Someone changed the row since it was read. differences: (field, the value sent, the value stored)."""

    code = "stale"

    def __init__(self, differences: list[tuple[str, object, object]], version: int) -> None:
        super().__init__("someone else changed this meanwhile: look at what differs, then save again", "version")
        self.differences = differences
        self.version = version


class TooLargeError(InputError):
    """A file over the size that is read."""

    code = "too_large"
