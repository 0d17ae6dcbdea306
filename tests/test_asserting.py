"""Every test can fail: it asserts something, or calls what does."""

import ast
from collections import defaultdict
from pathlib import Path

ASSERTING = {"raises", "expect", "warns"}
"""What fails by itself where things are not as they should be."""
Function = ast.FunctionDef | ast.AsyncFunctionDef


def functions() -> list[tuple[Path, Function]]:
    found = []
    for path in sorted(Path("tests").rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, Function):
                found.append((path, node))
    return found


def called(node: Function) -> set[str]:
    """What is called in a function, by its last name; a class stands for all its methods."""
    names = set()
    for one in ast.walk(node):
        if isinstance(one, ast.Call):
            target = one.func
            names |= {target.attr} if isinstance(target, ast.Attribute) else set()
            names |= {target.id} if isinstance(target, ast.Name) else set()
    return names


def test_every_test_asserts_something() -> None:
    everything = functions()
    calls: dict[str, set[str]] = defaultdict(set)
    sure = set(ASSERTING)
    for _, node in everything:
        calls[node.name] |= called(node)
        if any(isinstance(one, ast.Assert | ast.Raise) for one in ast.walk(node)):
            sure.add(node.name)
    while more := {name for name, used in calls.items() if used & sure} - sure:
        sure |= more
    idle = [
        f"{path}::{node.name}"
        for path, node in everything
        if node.name.startswith("test_") and path.name.startswith("test_") and node.name not in sure
    ]
    assert not idle, "\n".join(idle)
