"""What can be set from outside: environment variables that start with MORTISER_."""

from __future__ import annotations

import ipaddress
import socket
from pathlib import Path

from pydantic import Field, SecretStr
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
    model_cache: Path = Field(
        default=Path.home() / ".cache" / "mortiser",
        description="Where speech models are kept for all workspaces of this machine.",
    )
    speech_model: str = Field(
        default="base",
        pattern=r"^[\w.-]{1,40}$",
        description="Which model the multilingual engine uses; a larger one hears better and slower.",
    )
    fetch_model: bool = Field(
        default=False, description="Whether a model that is not here may be fetched."
    )
    undo_steps: int = Field(
        default=5_000, ge=1, description="How many edits of a project can be taken back."
    )
    most_pixels: int = Field(
        default=36_000_000,
        gt=0,
        description="Of one picture of a recording; 8K video has 33 million.",
    )
    pass_phrase: SecretStr | None = Field(
        default=None, min_length=8, description="Asked for beyond this machine, in place of a code."
    )
    library_folder: Path | None = Field(
        default=None, description="A folder of yours with films, pictures and sounds to bring in."
    )
    library_service: str = Field(
        default="",
        pattern=r"^(https?://[^\s?#]{1,300})?$",
        description="The address of a clip library.",
    )
    names: str = Field(
        default="", description="Further host names to answer to, with commas between."
    )
    web: Path | None = Field(default=None, description="The built pages; found by itself if unset.")


def is_local(host: str) -> bool:
    """Whether an address to listen on can be reached from this machine alone."""
    if host.lower() == "localhost":
        return True
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def own_names(settings: Settings) -> list[str]:
    """The host names that a server open beyond this machine answers to, beside its addresses."""
    name = socket.gethostname()
    further = [one.strip() for one in settings.names.split(",")]
    found = [settings.host, name, f"{name.split('.')[0]}.local", socket.getfqdn(), *further]
    return list(dict.fromkeys(one.lower() for one in found if one))
