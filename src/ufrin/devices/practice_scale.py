"""The scale of a practice: the simulated scale, loaded by what is done at the table of the practice."""

from ufrin.core.practice.levels import STEP_G
from ufrin.core.practice.practice_table import PracticeTable
from ufrin.devices.scale_line import read_line
from ufrin.devices.scale_reader import ScaleReading
from ufrin.devices.simulated_scale import SimulatedScale

NOISE_G = 0.02


class PracticeScale:
    """Reads the table of a practice as a scale would.

    Parameters
    ----------
    seed : int
        Of its noise.
    """

    def __init__(self, seed: int) -> None:
        self._scale = SimulatedScale(step_g=STEP_G, noise_g=NOISE_G, seed=seed)
        self._count, self._read_s = 0, 0.0

    def read(self, table: PracticeTable, real_s: float) -> ScaleReading:
        """Take the next reading.

        Parameters
        ----------
        table : PracticeTable
            As it is now.
        real_s : float
            Since the practice began, by a wall clock.

        Returns
        -------
        ScaleReading
            At rest once nothing runs into the cup any more.
        """
        at_s, passed_s = table.at_s(real_s), real_s - self._read_s
        load_g = table.load_g(at_s)
        if table.runs_at(at_s) and passed_s > 0:
            self._scale.flow_g_per_s = (load_g - self._scale.load_g) / passed_s
        else:
            self._scale.load_g, self._scale.flow_g_per_s = load_g, 0.0
        self._scale.zero_g = -table.drift_g(at_s)
        line = read_line(self._scale.line(real_s).strip())
        self._count, self._read_s = self._count + 1, real_s
        is_settled = line is not None and bool(line.is_stable) and table.rests_at(at_s)
        return ScaleReading(count=self._count, at_s=real_s, line=line, is_settled=is_settled, link="reading")
