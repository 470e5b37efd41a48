"""Readings of a scale as events that a page listens to."""

import json

from fastapi.sse import ServerSentEvent

from ufrin.devices.scale_reader import ScaleReading


def reading_event(heard: ScaleReading) -> ServerSentEvent:
    """Return a reading as an event."""
    line = heard.line
    fields = {
        "n": heard.count,
        "g": round(line.g, 4) if line and line.state == "ok" else None,
        "state": line.state if line else "ok",
        "settled": heard.is_settled,
        "link": heard.link,
    }
    return ServerSentEvent(event="reading", raw_data=json.dumps(fields))


def changed_event() -> ServerSentEvent:
    """Return word that a record has a new line."""
    return ServerSentEvent(event="changed", raw_data="1")
