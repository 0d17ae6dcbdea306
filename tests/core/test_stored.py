"""Stored values are whole, and what earlier versions wrote means today what it meant then."""

import json
from pathlib import Path
from typing import Any

import pytest

from mortiser.core.assembly import cutaway, grade, joining
from mortiser.core.captions import pace, standing
from mortiser.core.common.errors import BadInput
from mortiser.core.common.stored import Stored
from mortiser.core.framing import guides, layer, shape
from mortiser.core.project import jig, output, post
from mortiser.core.style.finish import stored as finish

FORMS: dict[str, Stored[Any]] = {
    "finish": finish.STORED, "pace": pace.STORED, "standing": standing.STORED, "layers": layer.STORED,
    "cutaways": cutaway.STORED,
    "joins": joining.STORED,
    "grades": grade.STORED,
    "shapes": shape.STORED, "outputs": output.STORED, "post": post.STORED, "guides": guides.STORED,
    "jig": jig.STORED,
}  # fmt: skip
FIRST = json.loads((Path(__file__).parent / "first_texts.json").read_text())
"""Texts of the version before there were any, and what each of them meant then."""


@pytest.mark.parametrize("form", FORMS)
def test_texts_of_before_versions_mean_what_they_meant(form: str) -> None:
    """Where this fails, a default or a built-in value was changed: the form needs an upgrade that puts in
    what the older texts left out."""
    for text, meant in FIRST[form]:
        assert json.loads(FORMS[form].write(FORMS[form].read(text)))["value"] == meant, text


def test_a_built_in_one_is_stored_whole() -> None:
    for form in ("finish", "pace"):
        for text, meant in FIRST[form]:
            written = json.loads(FORMS[form].write(FORMS[form].read(text)))
            assert written == {"version": FORMS[form].version, "value": meant}


def test_values_go_through_the_upgrades_that_they_have_not_seen() -> None:
    one = Stored[dict[str, int]](dict[str, int], first=json.loads)
    three = Stored[dict[str, int]](
        dict[str, int],
        first=json.loads,
        upgrades=[lambda old: old | {"b": 2}, lambda old: {**old, "c": old["b"] + 1}],
    )
    assert three.version == 3
    for text in ('{"a": 1}', one.write({"a": 1})):
        assert three.read(text) == {"a": 1, "b": 2, "c": 3}
    assert three.read(three.write({"a": 5})) == {"a": 5}, "no upgrade twice"
    with pytest.raises(BadInput, match="newer Mortiser"):
        one.read(three.write({"a": 1}))
    assert one.read('{"version": 1}') == {"version": 1}, "a text of before that looks like one"
