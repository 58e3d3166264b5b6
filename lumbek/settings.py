"""Settings, from the environment, with safe defaults."""

from ipaddress import ip_network

from pydantic import Field, field_validator
from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """Read from variables that begin with LUMBEK_, such as LUMBEK_DATABASE_URL."""

    model_config = SettingsConfigDict(env_prefix="LUMBEK_")

    # The application's role, and whoever owns the tables: for upgrades, backups and restoring. Without the second, the
    # first does both.
    database_url: str = "postgresql+psycopg://lumbek@127.0.0.1:5432/lumbek"
    owner_database_url: str = ""
    workers: int = Field(default=2, ge=1, le=64)
    host: str = "127.0.0.1"
    port: int = Field(default=8080, ge=0, le=65535)
    demo: bool = False
    secure_cookies: bool = True
    # A session ends so long after it was begun, and so long after it was last used.
    session_hours: int = Field(default=24 * 14, ge=1)
    session_idle_hours: int = Field(default=12, ge=1)
    # What matters asks for the password again after so long.
    proof_minutes: int = Field(default=10, ge=1)
    link_hours: int = Field(default=72, ge=1)
    sign_in_window_minutes: int = Field(default=15, ge=1)
    sign_in_failures_per_account: int = Field(default=5, ge=1)
    sign_in_failures_per_address: int = Field(default=25, ge=1)
    log_level: str = "INFO"
    # A request comes whole in so long, a large one in more: what does not is closed.
    request_seconds: float = Field(default=20, gt=0)
    # Heavy work of each process: so many pieces at once, so many waiting, so long each.
    heavy_at_once: int = Field(default=2, ge=1, le=64)
    heavy_waiting: int = Field(default=40, ge=1, le=1000)
    heavy_seconds: float = Field(default=60, gt=0)
    # The key that secrets of second factors are sealed with: made where it is not there, the same on every machine.
    key_file: str = "var/lumbek.key"
    # How Lumbek is reached from outside, such as https://lumbek.example: for links, and as the one host it answers to.
    public_address: str = ""
    # Proxies whose word on where a request came from is taken, as addresses or networks, with commas between.
    trusted_proxies: str = ""
    # Where mail is handed in, such as smtp://127.0.0.1:25; without it links are handed over by whoever made them.
    smtp_url: str = ""
    mail_from: str = "lumbek@localhost"
    # Where notifiable work is handed in, such as https://office.example; without it people hand it in themselves.
    office_url: str = ""
    # What could not be handed in is tried again so often.
    office_seconds: float = Field(default=60, gt=0)

    @field_validator("trusted_proxies")
    @classmethod
    def _are_addresses(cls, said: str) -> str:
        for each in said.split(","):
            if each.strip():
                ip_network(each.strip(), strict=False)
        return said

    @property
    def address(self) -> str:
        """How it is reached, as far as settings say."""
        return self.public_address.rstrip("/") or f"http://{self.host}:{self.port}"

    @property
    def owner_url(self) -> str:
        """Where the tables' owner signs in."""
        return self.owner_database_url or self.database_url
