"""What the documents name is there."""

import re
from pathlib import Path

import pytest

DOCUMENTS = [Path("ARCHITECTURE.md"), Path("README.md"), *sorted(Path("docs").rglob("*.md"))]
FOLDERS = [folder.name for folder in Path("src/mortiser").iterdir() if folder.is_dir()]
NAMED = re.compile(rf"`((?:{'|'.join(FOLDERS)}|web|scripts|bench|tests)/[\w/.-]+)")
LINKED = re.compile(r"\]\(([^)#:]+)\)")


def there(name: str) -> bool:
    """Whether a path is there, or (behind a dot) something of a module."""
    module = name.rpartition(".")[0] or name
    return any(
        (root / path).exists()
        for root in (Path(), Path("src/mortiser"))
        for path in (name, f"{name}.py", f"{module}.py", module)
    )


@pytest.mark.parametrize("document", DOCUMENTS, ids=str)
def test_paths_in_documents_are_there(document: Path) -> None:
    text = document.read_text()
    named = [name.rstrip("./") for name in NAMED.findall(text)]
    assert [name for name in named if not there(name)] == []
    links = [document.parent / link for link in LINKED.findall(text)]
    assert [link for link in links if not link.exists()] == []
