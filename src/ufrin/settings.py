"""What can be set from outside: one frozen object; each setting's name, default and help stand together."""

from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict

THERMOMETER_BESIDE = 5  # the port of the simulated thermometer, counted from that of the first simulated scale


class Settings(BaseSettings):
    """Read from the environment, each name with ``UFRIN_`` before it."""

    model_config = SettingsConfigDict(env_prefix="UFRIN_", frozen=True)

    database_url: str = Field(
        default="", description="An existing PostgreSQL to use; empty: Ufrin starts its own under var/."
    )
    var: Path = Field(default=Path("var"), description="Where Ufrin's own cluster and its log are kept.")
    backup_folder: Path | None = Field(
        default=None, description="Where backups are kept; not set: in backups, beside the log."
    )
    host: str = Field(
        default="127.0.0.1",
        description="The address to serve on; one that others reach is refused until there is an owner who signs in.",
    )
    port: int = Field(default=8537, ge=1, le=65535, description="The port to serve on.")
    address: str = Field(
        default="",
        description="The address to show to others, such as https://bench.example; empty: that of this machine.",
    )
    allowed_hosts: tuple[str, ...] = Field(
        default=(),
        description="More host names that browsers may use, as a JSON list; loopback and, off it, this machine's own "
        "are known. Others are refused (guards against DNS rebinding).",
    )
    https: bool | None = Field(
        default=None, description="Whether to speak HTTPS; not set: whenever others reach the address."
    )
    certificate: Path | None = Field(
        default=None, description="A certificate (PEM) to speak HTTPS with; not set: Ufrin makes one of the shop's own."
    )
    certificate_key: Path | None = Field(default=None, description="The certificate's private key (PEM).")
    trusted_proxies: str = Field(
        default="",
        description="Addresses of reverse proxies, with commas, whose X-Forwarded-For and -Proto are believed.",
    )
    sign_in: bool = Field(
        default=True, description="Whether people sign in; without, Ufrin serves on loopback alone. The demo does not."
    )
    session_idle_h: int = Field(
        default=12, ge=1, le=24 * 90, description="A session that was not used for so many hours ends."
    )
    session_longest_h: int = Field(
        default=14 * 24, ge=1, le=24 * 365, description="A session ends after so many hours, used or not."
    )
    body_limit_bytes: int = Field(default=1_048_576, description="The most that one request may send.")
    mesh_limit_bytes: int = Field(default=100 * 1024 * 1024, description="The largest mesh file that is taken.")
    scale_port: int = Field(
        default=8540, ge=1, le=65000, description="The simulated scales' first port; the demo starts them."
    )
    lever_port: int = Field(
        default=8549, ge=1, le=65535, description="The page with the lever that pours onto the simulated scales."
    )
    workers: int = Field(
        default=1, ge=0, le=16, description="Workers started with the server; more can run elsewhere (./run worker)."
    )
    server_processes: int = Field(
        default=1, ge=1, le=16, description="Processes that answer pages; more of them use more cores."
    )
    meshes_at_once: int = Field(
        default=2, ge=1, le=16, description="Mesh files that one process reads at once; others wait their turn."
    )
    mesh_memory_mb: int = Field(
        default=2048, ge=256, le=65_536, description="The most memory that the work on one mesh file may take."
    )
    pool_size: int = Field(
        default=4, ge=1, le=50, description="Connections to the database, and pages made at once, by each process."
    )
    database_wait_s: float = Field(
        default=3.0, description="How long a request waits for the database before it says that it is away."
    )
    statement_limit_s: float = Field(default=10.0, description="How long one statement may run in the database.")

    @property
    def backups(self) -> Path:
        """The folder that backups are kept in."""
        return self.backup_folder or self.var / "backups"
