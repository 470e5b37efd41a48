"""The tree of errors that Ufrin raises itself.

::

    UfrinError                 anything a person can act on; never a 500
    ├── Refused                a value, or values together, that can't be computed with   422
    ├── Missing                what was asked for is not there                            404
    ├── Stale                  the thing was changed since it was read                    409
    ├── Overtaken              someone else has done the step already                     409
    ├── InUse                  it can't go while something needs it                       409
    ├── NotSignedIn            nobody is signed in, or not with this                      401
    ├── NotAllowed             whoever asks may not do this                               403
    ├── TooManyTries           it failed too often, so it is not looked at for a while    429
    ├── NotOurs                a change asked for by a page of another origin             403
    ├── TooLarge               more was sent than is taken                                413
    ├── DatabaseAway           the database does not answer                               503
    ├── DatabaseBusy           every connection to it is in use                           503
    └── DiskFull               the database's disk has no room left                       507
"""

from collections.abc import Mapping

from ufrin.language import Text


class UfrinError(Exception):
    """The base: facts as attributes, the sentence built when it is shown."""

    status = 400
    title: str = Text("That did not work")

    def __str__(self) -> str:
        return self.title


class Refused(UfrinError):
    """A value that can't be computed with.

    Parameters
    ----------
    field : str
        The name of the field it is about; empty when it is about no single one.
    why : str
        What is wrong and what to do, as a sentence; amounts in it as ``quantities.say_amounts`` reads them.
    """

    status = 422
    title = Text("That can't be worked out")

    def __init__(self, field: str, why: str) -> None:
        super().__init__(field, why)
        self.field, self.why = field, why

    def __str__(self) -> str:
        return self.why


class Missing(UfrinError):
    """What was asked for is not there.

    Parameters
    ----------
    what : str
        The thing, with its article: "this job".
    """

    status = 404
    title = Text("Not found")

    def __init__(self, what: str = Text("this page")) -> None:
        super().__init__(what)
        self.what = what

    def __str__(self) -> str:
        return Text(
            "Ufrin has no record of {what}. It may have been deleted, or the address is mistyped. "
            "Start again from the Board.",
            what=self.what,
        )


class Stale(UfrinError):
    """A save that was based on an older version than the one kept.

    Parameters
    ----------
    theirs, mine : mapping of field name to value
        The values that differ: as kept, and as they were to be saved.
    version : int
        The version now kept.
    """

    status = 409
    title = Text("Somebody changed this meanwhile")

    def __init__(self, theirs: Mapping[str, object], mine: Mapping[str, object], version: int) -> None:
        super().__init__(version)
        self.theirs, self.mine, self.version = theirs, mine, version

    def __str__(self) -> str:
        return Text(
            "It was changed since this page was opened, in another tab or by someone else. "
            "Nothing was overwritten: choose which values stand."
        )


class Overtaken(UfrinError):
    """A step that another bench has done meanwhile; what was sent for it is not kept."""

    status = 409
    title = Text("Another bench was quicker")

    def __str__(self) -> str:
        return Text(
            "This step was done meanwhile at another bench or in another tab. Nothing was written "
            "twice: look where the pour stands, then go on from there."
        )


class InUse(UfrinError):
    """It can't be deleted while something needs it.

    Parameters
    ----------
    why : str
        What needs it and what to do instead, as a sentence.
    """

    status = 409
    title = Text("Still in use")

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


class NotSignedIn(UfrinError):
    """Nobody is signed in, or what was shown to sign in is not good.

    Parameters
    ----------
    why : str
        What is wrong and what to do, as a sentence.
    """

    status = 401
    title = Text("Sign in first")

    def __init__(self, why: str = Text("Nobody is signed in here. Sign in, then try again.")) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


class NotAllowed(UfrinError):
    """Whoever asks may not do this.

    Parameters
    ----------
    why : str
        Who may, as a sentence.
    """

    status = 403
    title = Text("You may not do this")

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


class TooManyTries(UfrinError):
    """It failed too often, so it is not looked at for a while."""

    status = 429
    title = Text("Too many tries")

    def __str__(self) -> str:
        return Text("That failed too often, so nothing is looked at for a quarter of an hour. Then try again.")


class NotOurs(UfrinError):
    """A change that was asked for by a page of another origin."""

    status = 403
    title = Text("Refused")

    def __str__(self) -> str:
        return Text(
            "This change was asked for by a page that is not Ufrin's. Open Ufrin itself and make the change there."
        )


class TooLarge(UfrinError):
    """More was sent than is taken.

    Parameters
    ----------
    limit_bytes : int
        The most that is taken at once.
    file : bool
        Whether it was a mesh file.
    """

    status = 413
    title = Text("Too much at once")

    def __init__(self, limit_bytes: int, *, file: bool = False) -> None:
        super().__init__(limit_bytes)
        self.limit_bytes, self.file = limit_bytes, file

    def __str__(self) -> str:
        if not self.file:
            return Text(
                "More than {limit_bytes} kB was sent at once, so nothing was saved. Shorten the "
                "longest text and try again.",
                limit_bytes=self.limit_bytes // 1024,
            )
        return Text(
            "The file is larger than the {limit_bytes:.0f} MB that are taken, so nothing was "
            "saved. Reduce the model to fewer triangles and export it again.",
            limit_bytes=self.limit_bytes / 1024 / 1024,
        )


class DatabaseAway(UfrinError):
    """The database does not answer."""

    status = 503
    title = Text("The record book can't be reached")

    def __str__(self) -> str:
        return Text(
            "The database does not answer, so nothing can be read or saved just now. What you "
            "typed is still in the page: leave it open and try again in a moment."
        )


class DatabaseBusy(UfrinError):
    """Every connection to the database is in use."""

    status = 503
    title = Text("Too much at once")

    def __str__(self) -> str:
        return Text(
            "The record book is busy: everyone who may use it at once is doing so just now, so "
            "nothing was read or saved. What you typed is still in the page: try again in a "
            "moment."
        )


class DiskFull(UfrinError):
    """The database's disk has no room left."""

    status = 507
    title = Text("The disk is full")

    def __str__(self) -> str:
        return Text(
            "The disk on which the record book is kept is full, so nothing was saved; what was "
            "saved before is safe. Make room on that disk, then try again. What you typed is "
            "still in the page."
        )
