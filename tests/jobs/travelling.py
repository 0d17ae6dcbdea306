"""What jobs are given and what comes of them, as it is sent to another machine: written as JSON, and read."""

from typing import Any, get_args, get_type_hints

from pydantic import TypeAdapter

from mortiser.jobs.kind import Kind


def adapters(kind: Kind[Any, Any]) -> tuple[TypeAdapter[Any], TypeAdapter[Any]]:
    """For what a kind of job is given and for what comes of it."""
    hints = get_type_hints(kind.work)
    result = get_args(hints.pop("return"))[0]
    return TypeAdapter(list(hints.values())[-1]), TypeAdapter(result)


def sent(adapter: TypeAdapter[Any], value: Any) -> Any:
    there = adapter.validate_json(adapter.dump_json(value))
    assert there == value, "it is the same where it arrives"
    return there
