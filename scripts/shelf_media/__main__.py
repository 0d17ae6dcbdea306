"""Write the files and the catalogue."""

from __future__ import annotations

import json
from pathlib import Path

from scripts.shelf_media.scenes import FILMS, PICTURES, draw_film, draw_picture, draw_small
from scripts.shelf_media.sounds import MUSIC, SOUNDS, write_sound

OUT = Path("src/mortiser/standins/media")
MAKERS = ("Ada Wickstead", "Tam Tallowby", "Pim Ferrule")
LICENCES = ("CC BY 4.0", "CC0 1.0", "CC BY-SA 4.0")


def main() -> None:
    """Write everything anew."""
    OUT.mkdir(parents=True, exist_ok=True)
    for old in OUT.iterdir():
        old.unlink()
    listed = []
    for film in FILMS:
        file = OUT / f"{film.ref}.mp4"
        draw_film(film, file)
        draw_small(film, OUT / f"{film.ref}.small.jpg")
        listed.append(_entry("film", film, file, film.seconds, film.size))
    for picture in PICTURES:
        file = OUT / f"{picture.ref}.png"
        draw_picture(picture, file)
        draw_small(picture, OUT / f"{picture.ref}.small.jpg")
        listed.append(_entry("picture", picture, file, 0, picture.size))
    for kind, sounds in (("sound", SOUNDS), ("music", MUSIC)):
        for sound in sounds:
            file = OUT / f"{sound.ref}.m4a"
            seconds = write_sound(sound, file)
            listed.append(_entry(kind, sound, file, seconds, (0, 0)))
    for number, entry in enumerate(listed):
        entry |= {"maker": MAKERS[number % 3], "licence": LICENCES[number // 2 % 3]}
    (OUT / "catalogue.json").write_text(json.dumps(listed, indent=1) + "\n")


def _entry(kind: str, what, file: Path, seconds: float, size: tuple[int, int]) -> dict:
    return {
        "id": what.ref,
        "title": what.title,
        "kind": kind,
        "tags": what.tags.split(),
        "file": file.name,
        "length_ms": round(seconds * 1000),
        "width": size[0],
        "height": size[1],
        "bytes": file.stat().st_size,
    }


main()
