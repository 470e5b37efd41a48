"""Benchmarks of moulds: a thousand of them with two hundred thousand shots, and how long a life takes to fit."""

import statistics
import time
from typing import Any

import psycopg
from casts import LOADS, _load
from extent import at_most

from ufrin.actions.moulds.cards import SHARE
from ufrin.core.moulds.life_outlook import life_model
from ufrin.core.moulds.mould_life import UsedMould, life_curve, weibull_fit

MOULDS, SHOTS_EACH = at_most(1_000, 12), at_most(200, 5)
FILL = """
    with made as (
        insert into jobs (name, is_mould_only) select 'Mould ' || n, true from generate_series(1, %(moulds)s) n
        returning id
    ), at_stations as (
        insert into stations (job_id, station, inputs)
        select id, s, case when s = 'casts' then '{"cavity_ml": 40, "mould_family": "addition-silicone"}'::jsonb
            else '{}' end
        from made, unnest(array['master', 'opening', 'box', 'rubber', 'checks', 'casts']) as s
    )
    insert into moulds (job_id, made_on, retired_at, cause)
    select id, date '2026-01-01' + (id %% 300)::int, case when id %% 3 = 0 then now() end,
        case when id %% 3 = 0 then 'torn' else '' end
    from made
"""
CAST = """
    with made as (
        insert into shots (
            job_id, who, kind, resin, mixed_g, left_over_g, was_short, missing_g, release, air, attitude, note, reason,
            token
        )
        select m.job_id, 'Wren', 'solid', 'Quayside 70', 50, n %% 5, false, 0, '', '', '', '', '', 'bench-' || n
        from moulds m cross join generate_series(1, %(each)s - (m.id %% 40)::int) as n where m.id > %(after)s
        returning id
    )
    insert into shot_pieces (shot_id, cavity, is_good, flaws) select id, 1, true, '{}' from made
"""


def fill_with_moulds(conninfo: str) -> int:
    """Put a thousand moulds in, and return how many shots they have."""
    with psycopg.connect(conninfo) as connection:
        (after,) = connection.execute("select max(id) from moulds").fetchone() or (0,)
        connection.execute(FILL, {"moulds": MOULDS})
        connection.execute(CAST, {"each": SHOTS_EACH + 20, "after": after})
        (shots,) = connection.execute("select count(*) from shots").fetchone() or (0,)
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("vacuum analyze")
    return int(shots)


def lists_and_cards(few: int, many: int, shots: int, tell: Any) -> None:
    """Load the list and a card beside a workshop with few moulds, turn by turn."""
    for path in ("/moulds", "/moulds/8"):
        taken: dict[int, list[float]] = {few: [], many: []}
        for _ in range(LOADS):
            for port, times in taken.items():
                times.append(_load(port, path)[0])
        few_ms, many_ms = (statistics.median(taken[port]) for port in (few, many))
        more = f"{many_ms:.1f} ms against {few_ms:.1f} ms, {shots} shots"
        tell(f"{path} with 1,000 moulds / with 11", many_ms / few_ms, "<= 2", more)


def fitted(tell: Any) -> None:
    """Fit the life of a thousand moulds."""
    used = [UsedMould(casts=1 + n % 90, failed=n % 3 == 0) for n in range(MOULDS)]
    taken = []
    for _ in range(20):
        began = time.perf_counter()
        life_model(SHARE, used)
        life_curve(used)
        weibull_fit(used)
        taken.append((time.perf_counter() - began) * 1000)
    median = statistics.median(taken)
    tell("Life of 1,000 moulds fitted / 50 ms", median / 50, "< 1", f"median {median:.1f} ms")
