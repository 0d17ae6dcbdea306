"""What can be set from outside: environment variables that start with MORTISER_."""

from pathlib import Path

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict

GIB = 1024**3


class Settings(BaseSettings):
    """Settings with their defaults; sizes in bytes."""

    model_config = SettingsConfigDict(env_prefix="MORTISER_")

    workspace: Path = Path("workspace")
    host: str = "127.0.0.1"
    port: int = Field(default=8747, ge=0, le=65535)
    largest_upload: int = Field(default=4 * GIB, gt=0)
    spare_disk: int = Field(default=GIB // 4, ge=0, description="Disk space that is never used up.")
    model_folder: Path | None = Field(
        default=None, description="A folder with a multilingual speech model of your own."
    )
    web: Path | None = Field(default=None, description="The built pages; found by itself if unset.")
