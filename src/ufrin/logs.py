"""Logs: one JSON object a line, in a file that is turned over before it grows too large."""

import logging
from pathlib import Path

import structlog
from concurrent_log_handler import ConcurrentRotatingFileHandler
from structlog.typing import Processor

MOST_BYTES, KEPT = 5_000_000, 3


def write_to(folder: Path) -> Path:
    """Send everything that is logged to a file.

    Parameters
    ----------
    folder : Path
        Made when it is missing.

    Returns
    -------
    Path
        The file.
    """
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / "ufrin.jsonl"
    # several processes write to it, and one of them turns it over
    handler = ConcurrentRotatingFileHandler(str(file), maxBytes=MOST_BYTES, backupCount=KEPT, encoding="utf-8")
    shared: list[Processor] = [
        structlog.processors.add_log_level,
        structlog.processors.TimeStamper(fmt="iso"),
        structlog.processors.format_exc_info,
    ]
    formatter = structlog.stdlib.ProcessorFormatter(
        processors=[structlog.stdlib.ProcessorFormatter.remove_processors_meta, structlog.processors.JSONRenderer()],
        foreign_pre_chain=shared,
    )
    handler.setFormatter(formatter)
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)
    for chatty in ("fontTools", "weasyprint", "yoyo"):
        logging.getLogger(chatty).setLevel(logging.WARNING)
    structlog.configure(
        processors=[*shared, structlog.stdlib.ProcessorFormatter.wrap_for_formatter],
        logger_factory=structlog.stdlib.LoggerFactory(),
        wrapper_class=structlog.stdlib.BoundLogger,
        cache_logger_on_first_use=True,
    )
    return file
