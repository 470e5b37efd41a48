"""Moments: points in time by the clock on the wall and by the steady clock of a machine."""

from dataclasses import dataclass, replace


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """A point in time as a machine tells it.

    Parameters
    ----------
    wall_s : float
        Seconds since 1970, by the clock on the wall, which can be set.
    steady_s : float
        Seconds that the machine has run, which can't be set.
    machine : str
        Which run of which machine ``steady_s`` belongs to.
    """

    wall_s: float
    steady_s: float
    machine: str

    def before(self, seconds: float) -> "Moment":
        """Return the moment that was so many seconds before this one, by both clocks.

        Parameters
        ----------
        seconds : float
            0 or more.

        Returns
        -------
        Moment
            Of the same run of the machine.
        """
        return replace(self, wall_s=self.wall_s - seconds, steady_s=self.steady_s - seconds)

    def since_s(self, earlier: "Moment") -> float:
        """Return the seconds since an earlier moment.

        They are counted by the steady clock while the machine was not restarted, otherwise by the clock on the wall.

        Parameters
        ----------
        earlier : Moment
            Before this one.

        Returns
        -------
        float
            Never less than 0.
        """
        same = self.machine == earlier.machine
        return max(0.0, self.steady_s - earlier.steady_s if same else self.wall_s - earlier.wall_s)

    def clock_moved_s(self, earlier: "Moment") -> float:
        """Return by how much the clock on the wall was set since an earlier moment; 0 where it can't be known.

        Parameters
        ----------
        earlier : Moment
            Before this one.

        Returns
        -------
        float
            Seconds, positive when it was set forwards.
        """
        if self.machine != earlier.machine:
            return 0.0
        return (self.wall_s - earlier.wall_s) - (self.steady_s - earlier.steady_s)
