"""The glossary and the speakers on the page."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.e2e.pages import texts, undo_all
from tests.recordings import COUNTER
from tests.serving import Server, bring_in, wait_for_job


@pytest.fixture
def glossary(bench: Page, server: Server) -> Iterator[Page]:
    bench.get_by_role("tab", name="Glossary").click()
    yield bench
    undo_all(bench)
    with server.client() as client:
        for entry in client.get("/api/glossary").json()["entries"]:
            client.delete(f"/api/glossary/{entry['id']}")


def test_an_entry_is_added_applied_put_back_and_removed(glossary: Page) -> None:
    before = texts(glossary)
    glossary.get_by_label("Written", exact=True).fill("Lanthorn Lane")
    glossary.get_by_label("Heard as").fill("lantern lane")
    glossary.get_by_role("button", name="Add and apply").click()
    expect(glossary.get_by_role("button", name="Undo: glossary: “Lanthorn Lane,”")).to_be_visible()
    assert "Lanthorn Lane," in " ".join(texts(glossary))
    expect(glossary.locator("s", has_text="Lantern Lane,")).to_be_visible()
    expect(glossary.locator("[data-cue-text] .glossed")).to_have_count(2)
    glossary.get_by_role("button", name="put back").click()
    expect(glossary.get_by_role("button", name="Undo: put back “Lantern Lane,”")).to_be_visible()
    assert texts(glossary) == before
    glossary.get_by_label("Remove Lanthorn Lane").click()
    expect(glossary.get_by_label("Remove Lanthorn Lane")).to_have_count(0)


def test_a_correction_made_again_is_offered(glossary: Page, server: Server, project: dict) -> None:
    with server.client() as client:
        path = f"/api/projects/{project['id']}"
        copies = [client.post(f"{path}/duplicate").json()["project_id"] for _ in range(2)]
        for copy in copies:
            view = client.get(f"/api/projects/{copy}").json()
            cue = next(c for c in view["cues"] if any(w["text"] == "Lane," for w in c["words"]))
            text = " ".join(w["text"] for w in cue["words"]).replace("Lane,", "Layne,")
            edit = {"kind": "retype_cue", "cue_id": cue["id"], "text": text}
            body = {"base_revision": view["revision"], "edit": edit}
            assert client.post(f"/api/projects/{copy}/edits", json=body).status_code == 200
        glossary.reload()
        glossary.get_by_role("tab", name="Glossary").click()
        expect(glossary.get_by_text("2 times")).to_be_visible()
        glossary.get_by_role("button", name="add to the glossary").click()
        expect(glossary.get_by_role("button", name="Undo: glossary: “Layne,”")).to_be_visible()
        expect(glossary.get_by_text("Corrected by hand")).to_have_count(0)
        expect(glossary.get_by_text("heard as Lane")).to_be_visible()
        for copy in copies:
            client.delete(f"/api/projects/{copy}")


def test_a_file_of_entries_is_taken_in_with_its_faults(glossary: Page, tmp_path: Path) -> None:
    file = tmp_path / "names.csv"
    file.write_bytes(
        "written;heard\nMarlo;marlow;mar low\n;nothing\nGarnière;garnier\n".encode("cp1252")
    )
    glossary.get_by_label("Glossary file").set_input_files(file)
    expect(glossary.get_by_test_id("notice")).to_contain_text(
        "2 entries taken in. Not taken: Line 3:"
    )
    expect(glossary.get_by_text("heard as marlow, mar low")).to_be_visible()
    glossary.get_by_label("Change Garnière").click()
    glossary.get_by_label("Heard as").last.fill("garnier, gar near")
    glossary.get_by_role("button", name="Save", exact=True).click()
    expect(glossary.get_by_text("heard as garnier, gar near")).to_be_visible()
    with glossary.expect_download() as saved:
        glossary.get_by_text("Save as CSV").click()
    assert saved.value.path().read_text().splitlines() == [
        "written,heard",
        "Garnière,garnier,gar near",
        "Marlo,marlow,mar low",
    ]


@pytest.fixture(scope="module")
def talk(server: Server) -> Iterator[dict]:
    with server.client() as client:
        view = bring_in(client, COUNTER)
        wait_for_job(client, view["id"], "speakers")
        yield view
        client.delete(f"/api/projects/{view['id']}")


def test_speakers_are_found_renamed_shown_and_given(page: Page, server: Server, talk: dict) -> None:
    page.goto(f"{server.address}/projects/{talk['id']}")
    expect(page.get_by_role("button", name="Undo: find 2 speakers")).to_be_visible()
    page.get_by_role("tab", name="Speakers").click()
    field = page.get_by_label("Name of Speaker 1")
    field.fill("Odalys")
    field.press("Enter")
    expect(page.get_by_role("button", name="Undo: speaker Odalys")).to_be_visible()
    strip = page.get_by_label("Strip")
    expect(strip.get_by_text("Odalys", exact=True).first).to_be_visible()
    shown = len(texts(page))
    page.get_by_role("checkbox", name="only on the Strip").first.click()
    expect(strip.get_by_text("without them").first).to_be_visible()
    assert len(texts(page)) < shown or shown > 12
    strip.get_by_text("show all").click()
    page.get_by_role("checkbox", name="Names in captions and files").click()
    expect(page.get_by_role("button", name="Undo: show speakers")).to_be_visible()
    piece = talk["pieces"][0]["id"]
    with server.client() as client:
        file = client.get(f"/api/pieces/{piece}/captions.vtt").text
        assert "<v Odalys>" in file
        assert "<v Speaker 2>" in file
        named = client.get(f"/api/pieces/{piece}/captions.txt").text
        assert named.startswith("Odalys: ")
        window = {"from_us": 0, "to_us": 5_000_000}
        with_name = client.get(f"/api/pieces/{piece}/scene", params=window).json()
    page.locator("[data-cue-text]").first.click()
    page.get_by_label("Another speaker").fill("Wanda")
    page.get_by_role("button", name="Set", exact=True).click()
    expect(page.get_by_role("button", name="Undo: speaker Wanda")).to_be_visible()
    page.get_by_role("button", name="Undo: speaker Wanda").click()
    expect(page.get_by_role("button", name="Undo: show speakers")).to_be_visible()
    page.get_by_role("button", name="Undo: show speakers").click()
    expect(page.get_by_role("button", name="Undo: speaker Odalys")).to_be_visible()
    with server.client() as client:
        plain = client.get(f"/api/pieces/{piece}/scene", params=window).json()
    assert len(with_name["cues"][0]["paths"]) == len(plain["cues"][0]["paths"]) + 1
