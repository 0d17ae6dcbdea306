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
NOTE = """
from typing import Literal
from mortiser.core.style.finish.parts import Value

class NoteFile(Value):
    kind: Literal["note"] = "note"
    name: str = ""
"""
NOTES = '''
class Notes:
    def make(self, order, part, out, files, progress):
        """See Maker."""

    def verify(self, order, part, made, files):
        """See Maker."""
'''
DOT = """

class Dot(BaseLayer):
    kind: Literal["dot"] = "dot"
    colour: Colour = (1, 2, 3, 255)
"""
ENGINE = """
class EchoRecogniser:
    name = "echo"
"""
JOB = """
from mortiser.jobs.kind import Kind

def dust(tools, task, given):
    yield from range(given, 0, -1)

DUST = Kind(read=lambda context, taken: 3, work=dust, keep=lambda context, given, result: None)
"""
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
    "a check": Recipe(
        {},
        """
from mortiser.core.captions.checks import check
from mortiser.core.captions.pace import PACES
from mortiser.core.common.frames import Frames
from mortiser.core.transcript.words import Cue, Shown
said = Shown("TEA", 0, 900_000)
found = check([Cue(0, (said,), 0, 1_000_000, id=7)], next(iter(PACES.values())), 2_000_000, Frames(25))
assert [(one.kind, one.cue_id) for one in found if one.kind == "shouted"] == [("shouted", 7)]
from mortiser.api.openapi import description
assert '"shouted"' in description(), "the page can be told of it"
""",
        [
            ("core/captions/checks.py", "CheckKind = Literal[", '    "shouted",'),
            (
                "core/captions/checks.py",
                "        found += _order(cue, before)",
                '        found += [_of("shouted", cue, "In capitals.", None)] * cue.text.isupper()',
            ),
        ],
    ),
    "a kind of output": Recipe(
        {"core/project/note.py": NOTE, "outputs/notes.py": NOTES},
        """
from mortiser.core.project.output import STORED
from mortiser.core.project.note import NoteFile
from mortiser.outputs import OUTPUTS
from mortiser.api.openapi import description
assert STORED.read(STORED.write((NoteFile(),))) == (NoteFile(),)
assert OUTPUTS["note"].make.__doc__ == "See Maker."
assert '"note"' in description(), "it can be asked for"
""",
        [
            (
                "core/project/output.py",
                "from __future__ import annotations",
                "from mortiser.core.project.note import NoteFile",
            ),
            ("core/project/output.py", "Output = Annotated[", "    NoteFile |"),
            (
                "outputs/__init__.py",
                "from __future__ import annotations",
                "from mortiser.outputs.notes import Notes",
            ),
            ("outputs/__init__.py", "OUTPUTS: Mapping[str, Maker] = {", '    "note": Notes(),'),
        ],
    ),
    "a layer": Recipe(
        {},
        """
from mortiser.core.edits.look.layers import AddLayer, NAMES
from mortiser.core.framing.layer import LAYERS, PLACES, STORED
from mortiser.api import openapi, page_values
(read,) = STORED.of(STORED.version, [{"id": 1, "kind": "dot", "opacity": 0.5}])
assert (read.kind, read.colour) == ("dot", (1, 2, 3, 255))
assert AddLayer(piece_id=1, layer="dot").layer == "dot" and PLACES["dot"] and NAMES["dot"] == "dot"
assert '"dot": "Dot"' in page_values.description(), "the page offers it"
assert '"dot"' in openapi.description()
""",
        [
            ("core/framing/layer.py", "LayerKind = Literal[", '    "dot",'),
            ("core/framing/layer.py", "    wave: Wave = Wave()", DOT),
            ("core/framing/layer.py", "OneLayer = (", "    Dot |"),
            (
                "core/framing/layer.py",
                "PLACES: dict[LayerKind, LayerPlace] = {",
                '    "dot": LayerPlace(width=0.1, height=0.1),',
            ),
            ("core/framing/layer.py", "LAYER_NAMES: dict[LayerKind, str] = {", '    "dot": "Dot",'),
        ],
    ),
    "an engine": Recipe(
        {"speech/echo.py": ENGINE},
        """
from pathlib import Path
from mortiser.settings import Settings
from mortiser.speech.engines import recogniser_for
from mortiser.wiring import known_engines, model_place
settings = Settings(workspace=Path("w"))
assert "echo" in [engine.name for engine in known_engines(settings)], "it is listed"
assert recogniser_for("xx", model_place(settings)).name == "echo", "its language is heard by it"
""",
        [
            (
                "speech/engines.py",
                "from __future__ import annotations",
                "from mortiser.speech.echo import EchoRecogniser",
            ),
            (
                "speech/engines.py",
                "    return [",
                '        Engine("echo", "An echo.", ("xx",), lambda _: EchoRecogniser()),',
            ),
        ],
    ),
    "a kind of job": Recipe(
        {"jobs/dusting.py": JOB},
        """
from mortiser.core.project.job import JOB_SPECS
from mortiser.core.project.job_payloads import SourcePayload
from mortiser.wiring import KINDS
assert list(KINDS["dust"].work(None, None, 3)) == [3, 2, 1]
assert JOB_SPECS["dust"].payload is SourcePayload
assert KINDS.keys() == JOB_SPECS.keys()
""",
        [
            ("core/project/job.py", "JobKind = Literal[", '    "dust",'),
            (
                "core/project/job.py",
                "JOB_SPECS: dict[JobKind, JobSpec] = {",
                '    "dust": JobSpec(SourcePayload, 0),',
            ),
            (
                "wiring.py",
                "from __future__ import annotations",
                "from mortiser.jobs.dusting import DUST",
            ),
            ("wiring.py", "KINDS: Kinds = {", '    "dust": DUST,'),
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
