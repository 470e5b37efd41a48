"""How the shop does things, gathered for a page of jobs at once.

They are its own tests, schools, releases, and stops that somebody signed off.
"""

from collections.abc import Mapping, Sequence

from ufrin.core.degassing.air_pressure import local_air_kpa
from ufrin.core.job.checks_station import ShopWays
from ufrin.store import shop_ways
from ufrin.store.connection import Connection
from ufrin.store.jobs import Job
from ufrin.store.workshop_settings import Workshop


def shops(connection: Connection, listed: Sequence[Job], settings: Workshop) -> Mapping[int, ShopWays]:
    """Gather how the shop does things, for some jobs."""
    kept = shop_ways.load(connection, [job.id for job in listed])
    return {
        job.id: ShopWays(
            own_rules=kept.rules,
            air=settings.air,
            release=settings.release,
            products=kept.products,
            signed=kept.signed.get(job.id, ()),
            scale_step_g=settings.scale_step_g,
            room_temp_c=settings.room_temp_c,
            air_kpa=local_air_kpa(settings.air_pressure_hpa, settings.height_m),
        )
        for job in listed
    }
