"""Settings, from the environment, with safe defaults."""

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """Read from variables that begin with LUMBEK_, such as LUMBEK_DATABASE_URL."""

    model_config = SettingsConfigDict(env_prefix="LUMBEK_")

    database_url: str = "postgresql+psycopg://lumbek@127.0.0.1:5432/lumbek"
    host: str = "127.0.0.1"
    port: int = Field(default=8080, ge=0, le=65535)
    demo: bool = False
    secure_cookies: bool = True
    session_hours: int = Field(default=24 * 14, ge=1)
    sign_in_window_minutes: int = Field(default=15, ge=1)
    sign_in_failures_per_account: int = Field(default=5, ge=1)
    sign_in_failures_per_address: int = Field(default=25, ge=1)
    log_level: str = "INFO"
