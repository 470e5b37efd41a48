"""Free time: when a person or a thing that is partly taken can be had next."""

from bisect import bisect_left, insort

from ufrin.core.schedule.steps import Thing, Window, Worker


class PersonTime:
    """The hours of one person, and what is taken of them.

    Parameters
    ----------
    worker : Worker
        With windows in order.
    """

    def __init__(self, worker: Worker) -> None:
        self._windows = worker.windows
        self._begins = [begin for begin, _ in worker.windows]
        self._taken: list[Window] = []

    def next_s(self, from_s: int, takes_s: int) -> int | None:
        """Return the earliest begin of so long a time in one piece.

        Parameters
        ----------
        from_s : int
            Not before.
        takes_s : int
            More than 0.

        Returns
        -------
        int or None
            None where there is none in the windows that are known.
        """
        place = max(0, bisect_left(self._begins, from_s + 1) - 1)
        for begin, end in self._windows[place:]:
            at_s = self._past_taken(max(begin, from_s), takes_s)
            if at_s + takes_s <= end:
                return at_s
        return None

    def _past_taken(self, at_s: int, takes_s: int) -> int:
        for begin, end in self._taken:
            if begin >= at_s + takes_s:
                break
            at_s = max(at_s, end)
        return at_s

    def take(self, begin_s: int, end_s: int) -> None:
        """Take a time.

        Parameters
        ----------
        begin_s, end_s : int
            From and to.
        """
        if end_s > begin_s:
            insort(self._taken, (begin_s, end_s))

    def give_back(self, begin_s: int, end_s: int) -> None:
        """Give a time back that was taken.

        Parameters
        ----------
        begin_s, end_s : int
            As it was taken.
        """
        if end_s > begin_s:
            self._taken.remove((begin_s, end_s))


class ThingTime:
    """Equipment of one kind, and when how many are taken.

    Parameters
    ----------
    thing : Thing
        With the times in which one is away.
    """

    def __init__(self, thing: Thing) -> None:
        self._count = thing.count
        self._taken: list[Window] = sorted(thing.away)

    def next_s(self, from_s: int, takes_s: int, number: int) -> int:
        """Return the earliest begin of a time all through which so many are free.

        Parameters
        ----------
        from_s, takes_s : int
            Not before, and how long.
        number : int
            At once; no more than there are.

        Returns
        -------
        int
            It is never far: what is taken ends.
        """
        at_s = from_s
        while True:
            blocked_until_s = self._blocked_until_s(at_s, takes_s, number)
            if blocked_until_s is None:
                return at_s
            at_s = blocked_until_s

    def _blocked_until_s(self, at_s: int, takes_s: int, number: int) -> int | None:
        inside = [one for one in self._taken if one[0] < at_s + takes_s and one[1] > at_s]
        for moment in sorted({at_s, *(begin for begin, _ in inside if begin > at_s)}):
            ends = [end for begin, end in inside if begin <= moment < end]
            if len(ends) + number > self._count:
                return min(ends)
        return None

    def take(self, begin_s: int, end_s: int, number: int) -> None:
        """Take so many.

        Parameters
        ----------
        begin_s, end_s : int
            From and to.
        number : int
            Of them.
        """
        for _ in range(number if end_s > begin_s else 0):
            insort(self._taken, (begin_s, end_s))

    def give_back(self, begin_s: int, end_s: int, number: int) -> None:
        """Give back what was taken.

        Parameters
        ----------
        begin_s, end_s : int
            As they were taken.
        number : int
            Of them.
        """
        for _ in range(number if end_s > begin_s else 0):
            self._taken.remove((begin_s, end_s))
