"""The life to expect of a mould's cavities: by its rubber, what is cast in it, its detail and its release."""

from ufrin.actions.job.open_job import OpenJob
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.moulds.life_prior import LifePrior, life_prior
from ufrin.core.rubber.shore import reading
from ufrin.store import moulds
from ufrin.store.connection import Connection
from ufrin.store.moulds import MouldDetails


def prior_of(opened: OpenJob, details: MouldDetails) -> LifePrior:
    """Return the life to expect of a mould's cavities."""
    settled: SettledCasts = opened.job.casts.settled()
    resin = opened.casts.picks.resin if opened.casts else None
    pour = opened.plan.pour
    return life_prior(
        mould_family=opened.rubber.family if opened.rubber else settled.mould_family,
        cast_kind=resin.kind if resin else "",
        pot_life_min=resin.pot_life_min if resin else None,
        detail=details.detail,
        is_released=details.is_released,
        shore_a=reading(pour.thinned.modulus_mpa, "A") if pour and pour.thinned else None,
    )


def keep_expected_life(connection: Connection, opened: OpenJob) -> None:
    """Work out the life to expect of a job's mould, and keep it for the lists; nothing before the mould is there."""
    number = moulds.of_job(connection, opened.job.id)
    if number is not None:
        prior = prior_of(opened, moulds.look(connection, number).details)
        moulds.expect(connection, number, prior.median_casts)
