"""Who may import whom, walked over the real source."""

import ast
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path("src/mortiser")
ANYONE = {"disk"}
"""What everything but the core may import."""
MAY = {
    "core": {"core"},
    "apart": {"core"},
    "formats": {"core", "formats"},
    "media": {"core", "media"},
    "speech": {"core", "speech"},
    "store": {"core", "store"},
    "emoji": {"core", "emoji"},
    "fonts": {"core", "emoji", "fonts"},
    "pictures": {"core", "pictures"},
    "library": {"apart", "core", "library", "media", "pictures"},
    "paint": {"core", "emoji", "paint", "pictures"},
    "render": {"core", "media", "paint", "pictures", "render"},
    "outputs": {"core", "fonts", "formats", "media", "render", "outputs"},
    "jobs": {
        "apart",
        "core",
        "fonts",
        "formats",
        "media",
        "library",
        "pictures",
        "speech",
        "store",
        "render",
        "outputs",
        "jobs",
    },
    "api": {
        "apart",
        "core",
        "emoji",
        "fonts",
        "formats",
        "media",
        "store",
        "outputs",
        "pictures",
        "library",
        "jobs",
        "api",
        "settings",
        "wiring",
    },
}
ALL = {folder.name for folder in ROOT.iterdir() if folder.is_dir()} | {"settings", "wiring"}
MAY |= {"standins": {"core", "services", "standins"}}
MAY |= {"services": ALL - {"cli", "demo"}, "demo": ALL - {"api", "cli", "services"}, "cli": ALL}
ONLY_IN = {
    "av": {"media", "render"},
    "skia": {"paint"},
    "PIL": {"pictures"},
    "sqlite3": {"store", "api"},
    "moonshine_voice": {"speech"},
    "pocketsphinx": {"speech"},
    "fastapi": {"api", "standins"},
    "huey": {"jobs"},
}
PACKAGES = {folder.name for folder in ROOT.iterdir() if folder.is_dir()}
FOREIGN_TO_CORE = {
    "os",
    "pathlib",
    "time",
    "datetime",
    "sqlite3",
    "av",
    "skia",
    "fastapi",
    "random",
    "subprocess",
}


def imports(file: Path) -> set[str]:
    found: set[str] = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
            found |= {
                f"mortiser.{a.name}"
                for a in node.names
                if node.module == "mortiser" and a.name in PACKAGES
            }
    return found


FILES = sorted(ROOT.rglob("*.py"))


@pytest.mark.parametrize("layer", MAY)
def test_layers_import_only_what_they_may(layer: str) -> None:
    for file in (ROOT / layer).rglob("*.py"):
        own = {name.split(".")[1] for name in imports(file) if name.startswith("mortiser.")}
        may = MAY[layer] | (ANYONE if layer != "core" else set())
        assert own <= may, f"{file} imports {own - may}"


@pytest.mark.parametrize("library", ONLY_IN)
def test_libraries_stay_in_their_layer(library: str) -> None:
    users = {
        file.relative_to(ROOT).parts[0]
        for file in FILES
        if library in {name.split(".")[0] for name in imports(file)}
    }
    assert users <= ONLY_IN[library]
    assert users


def test_the_core_touches_nothing_outside() -> None:
    for file in (ROOT / "core").rglob("*.py"):
        roots = {name.split(".")[0] for name in imports(file)}
        assert not roots & FOREIGN_TO_CORE, file


CORE = (
    "common", "transcript", "editing", "style", "captions", "framing", "library", "assembly",
    "project", "scene", "delivery", "edits",
)  # fmt: skip
"""The packages of the core: each imports only those before it."""
MOST_MODULES = 22


@pytest.mark.parametrize("package", CORE)
def test_packages_of_the_core_import_only_those_before_them(package: str) -> None:
    may = set(CORE[: CORE.index(package) + 1])
    for file in (ROOT / "core" / package).rglob("*.py"):
        own = {name.split(".")[2] for name in imports(file) if name.startswith("mortiser.core.")}
        assert own <= may, f"{file} imports {own - may}"


def test_packages_of_the_core_say_what_they_are_and_stay_small() -> None:
    assert {path.name for path in (ROOT / "core").iterdir()} - {"__pycache__"} == {
        *CORE,
        "__init__.py",
    }
    for init in (ROOT / "core").rglob("__init__.py"):
        assert ast.get_docstring(ast.parse(init.read_text())), init
        assert len(list(init.parent.glob("*.py"))) <= MOST_MODULES, init.parent


def test_the_root_holds_settings_and_wiring_alone() -> None:
    assert {path.name for path in ROOT.glob("*.py")} == {
        "__init__.py",
        "__main__.py",
        "settings.py",
        "wiring.py",
    }


def test_no_type_has_the_name_of_another() -> None:
    found: dict[str, list[str]] = {}
    for file in FILES:
        for node in ast.parse(file.read_text()).body:
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                found.setdefault(node.name, []).append(str(file))
    assert {name: files for name, files in found.items() if len(files) > 1} == {}


def test_a_server_starts_without_loading_the_second_engine() -> None:
    ask = "import sys, mortiser.wiring; print('faster_whisper' in sys.modules)"
    answer = subprocess.run([sys.executable, "-c", ask], capture_output=True, text=True, check=True)
    assert answer.stdout.strip() == "False"


OUTSIDE = {"api/guard.py", "api/errors.py", "services/hearing.py", "cli/commands.py"}
"""Modules outside the store that read mappings of others: requests, faults, JSON."""


def test_rows_of_the_database_end_in_the_store() -> None:
    found = []
    for folder in ("api", "cli", "jobs", "outputs", "render", "services"):
        for file in (ROOT / folder).glob("*.py"):
            name = str(file.relative_to(ROOT))
            for node in ast.walk(ast.parse(file.read_text())):
                if isinstance(node, ast.Attribute) and node.attr == "Row":
                    found.append(f"{name}:{node.lineno}: a row")
                if (
                    isinstance(node, ast.Subscript)
                    and isinstance(node.ctx, ast.Load)
                    and isinstance(node.slice, ast.Constant)
                    and isinstance(node.slice.value, str)
                    and name not in OUTSIDE
                ):
                    found.append(f"{name}:{node.lineno}: [{node.slice.value!r}]")
    assert found == []
