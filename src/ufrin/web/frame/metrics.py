"""Metrics in Prometheus' text format: counted by each process, and added up where several serve."""

import os
from collections.abc import Iterator, Mapping
from typing import Any

from prometheus_client import CollectorRegistry, Counter, Histogram, generate_latest, multiprocess
from prometheus_client.core import GaugeMetricFamily, Metric
from prometheus_client.exposition import CONTENT_TYPE_LATEST
from prometheus_client.registry import Collector

TEXT = CONTENT_TYPE_LATEST
_KEPT_BY_PROCESS = CollectorRegistry()
_REQUESTS = Counter(
    "ufrin_requests", "Requests that were answered.", ["method", "route", "status"], registry=_KEPT_BY_PROCESS
)
_SECONDS = Histogram(
    "ufrin_request_seconds",
    "How long a request took until its answer had ended.",
    ["route"],
    buckets=(0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10),
    registry=_KEPT_BY_PROCESS,
)
_ELSEWHERE = "other"


def count(scope: Mapping[str, Any], status: int, took_s: float) -> None:
    """Count a request that was answered.

    Parameters
    ----------
    scope : mapping
        Of the request, with the route that answered it.
    status : int
        Of the answer.
    took_s : float
        Until it had ended.
    """
    # by the route's own words, so that neither numbers nor secrets become labels
    route = getattr(scope.get("route"), "path", _ELSEWHERE)
    method = scope["method"] if scope["method"] in {"GET", "HEAD", "POST"} else _ELSEWHERE
    _REQUESTS.labels(method, route, str(status)).inc()
    _SECONDS.labels(route).observe(took_s)


def text(gauges: Mapping[str, tuple[str, float]]) -> bytes:
    """Return all metrics as text.

    Parameters
    ----------
    gauges : mapping of name to help and value
        What is so just now.

    Returns
    -------
    bytes
        In Prometheus' text format.
    """
    if os.environ.get("PROMETHEUS_MULTIPROC_DIR"):
        counted = CollectorRegistry()
        multiprocess.MultiProcessCollector(counted)  # type: ignore[no-untyped-call]
    else:
        counted = _KEPT_BY_PROCESS
    now = CollectorRegistry()
    now.register(_Now(gauges))
    return generate_latest(counted) + generate_latest(now)


class _Now(Collector):
    # what is so just now is kept by no process, and so never added up over several

    def __init__(self, gauges: Mapping[str, tuple[str, float]]) -> None:
        self._gauges = gauges

    def collect(self) -> Iterator[Metric]:
        for name, (words, value) in self._gauges.items():
            yield GaugeMetricFamily(name, words, value=value)
