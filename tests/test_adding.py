"""“How to add …”, tried: each recipe of ARCHITECTURE.md in a copy of the package, with no more than it names."""

import os
import shutil
import subprocess
import sys
from dataclasses import dataclass, field
from pathlib import Path

import pytest

ROOT = Path("src/mortiser").absolute()


@dataclass(frozen=True)
class Recipe:
    """Files that come (by name their text), lines that are put behind others, and what holds afterwards."""

    files: dict[str, str]
    holds: str
    lines: list[tuple[str, str, str]] = field(default_factory=list)


FORMAT = """
def write(captions, document):
    return "".join(f"[{one.start_us}] {' '.join(one.lines)}\\n" for one in captions)
"""
FINISH = """
from mortiser.core.style.finish.builtin.pine import PINE
ALDER = PINE.model_copy(update={"name": "Alder", "about": "A lighter Pine."})
"""
EDIT = '''
from typing import Literal
from dataclasses import replace
from mortiser.core.common.limits import Id
from mortiser.core.edits.base import BaseEdit

class ShoutName(BaseEdit):
    """Write a piece's name in capitals."""

    kind: Literal["shout_name"] = "shout_name"
    piece_id: Id

    def label(self, session):
        return "shout"

    def apply(self, session):
        was = session.settings(self.piece_id)
        session.save_settings(self.piece_id, replace(was, name=was.name.upper()))
'''
RECIPES = {
    "a caption format": Recipe(
        {"formats/plain.py": FORMAT},
        """
from mortiser.api import openapi, page_values
from mortiser.formats.base import Caption, CaptionDocument
from mortiser.formats.registry import FORMATS
from mortiser.core.project.output import TextFile
assert TextFile(form="plain").ending == "plain"
assert FORMATS["plain"]([Caption(5, 9, ("Tea",))], CaptionDocument(9)) == "[5] Tea\\n"
assert '"plain": "Plain lines"' in page_values.description(), "the page offers it"
assert '"plain"' in openapi.description(), "it can be asked for"
""",
        [
            (
                "core/project/text_forms.py",
                "TEXT_FORMS: dict[str, TextFacts] = {",
                '    "plain": TextFacts("Plain lines", "text/plain"),',
            )
        ],
    ),
    "a finish": Recipe(
        {"core/style/finish/builtin/alder.py": FINISH},
        """
from mortiser.core.style.finish.builtin import FINISHES
assert FINISHES["Alder"].about == "A lighter Pine."
""",
        [("core/style/finish/builtin/__init__.py", "ORDER = (", '    "alder",')],
    ),
    "a motion": Recipe(
        {},
        """
from mortiser.core.style.finish.motions import Entrance
from mortiser.core.style.motion.entrances import ENTRANCES
assert Entrance(kind="float").kind == "float"
assert "float" in ENTRANCES
""",
        [
            ("core/style/finish/names.py", "EntranceName = Literal[", '    "float",'),
            (
                "core/style/motion/entrances.py",
                "ENTRANCES: dict[EntranceName, Callable[[Coming], MotionLayer]] = {",
                '    "float": _rise,',
            ),
        ],
    ),
    "a guide": Recipe(
        {},
        """
from mortiser.core.framing.guides import GUIDES
assert GUIDES[0].name == "Shop window"
""",
        [
            (
                "core/framing/guides.py",
                "GUIDES: Guides = (",
                '    Guide(name="Shop window", shape="tall", areas=(_area("sill", 0, 0.9, 1, 0.1),)),',
            )
        ],
    ),
    "an edit": Recipe(
        {"core/edits/look/shouting.py": EDIT},
        """
from mortiser.core.edits.commands import EDIT
from mortiser.core.edits.look.shouting import ShoutName
from mortiser.api.openapi import description
assert EDIT.validate_python({"kind": "shout_name", "piece_id": 1}) == ShoutName(piece_id=1)
assert '"shout_name"' in description(), "the page can send it"
""",
        [
            (
                "core/edits/commands.py",
                "from __future__ import annotations",
                "from mortiser.core.edits.look.shouting import ShoutName",
            ),
            ("core/edits/commands.py", "AskedEdit = Annotated[", "    ShoutName |"),
        ],
    ),
}


@pytest.mark.parametrize("what", RECIPES)
def test_it_takes_no_more_than_is_said(what: str, tmp_path: Path) -> None:
    recipe, package = RECIPES[what], tmp_path / "mortiser"
    shutil.copytree(
        ROOT, package, copy_function=os.symlink, ignore=shutil.ignore_patterns("__pycache__")
    )
    for name, text in recipe.files.items():
        (package / name).write_text(text)
    for name, behind, line in recipe.lines:
        file = package / name
        text = file.read_text()
        file.unlink()
        assert text.count(behind + "\n") == 1, behind
        file.write_text(text.replace(behind + "\n", f"{behind}\n{line}\n"))
    done = subprocess.run(
        [sys.executable, "-c", recipe.holds],
        env={**os.environ, "PYTHONPATH": str(tmp_path)},
        capture_output=True,
        text=True,
        cwd=tmp_path,
    )
    assert done.returncode == 0, done.stderr[-2_000:]
