"""The talk is cut by its words: by mouse, by keys, heard as one flow, kept, and taken back."""

import re

import pytest
from playwright.sync_api import Locator, Page, Route, expect

from tests.e2e.pages import texts, undo_all, until

STRUCK = ".struck[data-talk]"
READY = """(() => { const v = document.querySelector('video');
  return v.src.startsWith('blob:') && v.readyState >= 3 && !v.seeking; })()"""
INK = """() => {
  const canvas = document.querySelector("[data-testid=scene]");
  const pixels = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height).data;
  return pixels.some((value, at) => at % 4 === 3 && value > 200);
}"""


@pytest.fixture
def trim(bench: Page) -> Page:
    bench.keyboard.press("Shift+Digit3")
    expect(bench.locator("[data-talk]").first).to_be_visible()
    # An earlier test may have left edits.
    undo_all(bench)
    expect(bench.locator(STRUCK)).to_have_count(0)
    return bench


def word(page: Page, text: str) -> Locator:
    return page.locator("span[data-talk]").filter(has_text=re.compile(f"^{re.escape(text)}", re.I))


def select(page: Page, first: str, last: str) -> None:
    a, b = word(page, first).first.bounding_box(), word(page, last).first.bounding_box()
    assert a
    assert b
    page.mouse.move(a["x"] + 4, a["y"] + 8)
    page.mouse.down()
    page.mouse.move(b["x"] + b["width"] - 4, b["y"] + 8, steps=6)
    page.mouse.up()


def talk(page: Page) -> list[str]:
    return page.locator("span[data-talk]").all_inner_texts()


def length_of(page: Page) -> int:
    view = page.evaluate(
        "fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())"
    )
    return int(view["pieces"][0]["duration_us"])


def test_words_are_struck_and_come_back_the_same_way(trim: Page) -> None:
    whole, read = length_of(trim), talk(trim)
    select(trim, "Lantern", "where")
    trim.keyboard.press("Delete")
    expect(trim.locator(STRUCK)).to_have_text(["Lantern", "Lane,", "where"])
    assert talk(trim) == read, "what is struck stays readable"
    assert 500_000 < whole - length_of(trim) < 2_000_000
    expect(
        trim.get_by_role("button", name=re.compile("Undo: strike “Lantern Lane, where”"))
    ).to_be_visible()
    trim.keyboard.press("Shift+Digit2")
    assert "Good morning from we mend things." in " ".join(texts(trim))
    trim.keyboard.press("Shift+Digit3")
    expect(trim.locator(STRUCK)).to_have_count(3)
    select(trim, "Lantern", "where")
    trim.keyboard.press("Delete")
    expect(trim.locator(STRUCK)).to_have_count(0)
    assert length_of(trim) == pytest.approx(whole, abs=2_000)


def test_the_cut_piece_plays_as_one_with_its_captions(trim: Page) -> None:
    select(trim, "where", "things.")
    trim.keyboard.press("Delete")
    expect(trim.locator(STRUCK)).to_have_count(4)
    until(trim, READY)
    # The playhead waits at the cut.
    at = trim.evaluate("document.querySelector('video').currentTime")
    seen = trim.evaluate(
        """async () => {
          const video = document.querySelector('video');
          video.muted = true;
          let stalled = 0;
          const seen = [];
          const note = (_, frame) => {
            seen.push(frame.mediaTime);
            video.requestVideoFrameCallback(note);
          };
          video.requestVideoFrameCallback(note);
          const end = video.currentTime + 1;
          await video.play();
          video.addEventListener('waiting', () => { stalled += 1; });
          while (video.currentTime < end) await new Promise((done) => setTimeout(done, 20));
          video.pause();
          return { seen, stalled };
        }"""
    )
    assert seen["stalled"] == 0
    assert seen["seen"] == sorted(seen["seen"])
    assert 1.0 < at < 4.0
    word(trim, "kettle").first.click()
    until(trim, INK)
    live = trim.locator(".live-word").inner_text()
    assert live.startswith("kettle")


def test_by_keys_alone(trim: Page) -> None:
    whole = length_of(trim)
    trim.keyboard.press("ArrowDown")
    trim.keyboard.press("ArrowDown")
    trim.keyboard.press("Shift+ArrowRight")
    picked = trim.locator(".picked[data-talk]").all_inner_texts()
    assert len(picked) >= 2
    trim.keyboard.press("Delete")
    expect(trim.locator(STRUCK)).to_have_count(2)
    trim.keyboard.press("Backspace")
    expect(trim.locator(STRUCK)).to_have_count(0)
    assert length_of(trim) == pytest.approx(whole, abs=2_000)
    trim.keyboard.press("Control+a")
    trim.keyboard.press("Delete")
    expect(trim.get_by_text("That would leave nothing of the piece.").first).to_be_visible()
    trim.keyboard.press("Escape")
    expect(trim.locator(".picked[data-talk]")).to_have_count(0)


def test_all_that_can_go_is_one_edit(trim: Page) -> None:
    whole = length_of(trim)
    button = trim.get_by_role("button", name=re.compile("^Take out all"))
    saves = float(re.search(r"([\d.]+) s shorter", button.inner_text()).group(1))  # type: ignore[union-attr]
    button.click()
    expect(word(trim, "um").first).to_have_class(re.compile("struck"))
    expect(trim.get_by_text("Nothing more is found.")).to_be_visible()
    assert (whole - length_of(trim)) / 1e6 == pytest.approx(saves, abs=0.1)
    trim.keyboard.press("Control+z")
    expect(trim.locator(STRUCK)).to_have_count(0)
    assert length_of(trim) == whole


def test_removals_are_heard_and_taken_one_by_one(trim: Page) -> None:
    trim.get_by_role("checkbox", name="Quiet", exact=True).click()
    trim.get_by_role("checkbox", name="Before and after the talk").click()
    trim.keyboard.press("Home")
    trim.keyboard.press("d")
    expect(trim.locator(".picked[data-talk]").first).to_have_text(re.compile("^um"))
    until(trim, "!document.querySelector('video').paused")
    trim.keyboard.press("x")
    expect(word(trim, "um").first).to_have_class(re.compile("struck"))
    expect(trim.get_by_role("button", name="Undo: take out a filler")).to_be_visible()
    for name in ("Quiet", "Before and after the talk"):
        trim.get_by_role("checkbox", name=name, exact=True).click()


def test_a_quiet_is_taken_out_and_back_with_a_click(trim: Page) -> None:
    whole = length_of(trim)
    quiet = trim.locator("button[data-talk]").nth(1)
    quiet.click()
    expect(quiet.locator(".line-through")).to_be_visible()
    assert length_of(trim) < whole
    quiet.click()
    expect(quiet.locator(".line-through")).to_have_count(0)
    assert length_of(trim) == pytest.approx(whole, abs=2_000)


def test_cuts_are_there_after_a_reload_and_all_can_be_taken_back(trim: Page) -> None:
    whole = length_of(trim)
    select(trim, "Good", "from")
    trim.keyboard.press("Delete")
    expect(trim.locator(STRUCK)).to_have_count(3)
    trim.reload()
    # The stage stands in the address.
    expect(trim.locator(STRUCK)).to_have_count(3)
    trim.keyboard.press("Shift+Digit2")
    expect(trim.locator("[data-cue-text]").first).to_be_visible()
    assert texts(trim)[0].startswith("Lantern")
    trim.keyboard.press("Shift+Digit3")
    expect(trim.locator(STRUCK)).to_have_count(3)
    undo_all(trim)
    expect(trim.locator(STRUCK)).to_have_count(0)
    assert length_of(trim) == whole
    until(trim, "!document.querySelector('video').src.startsWith('blob:')")


def test_a_goal_says_what_is_still_over(trim: Page) -> None:
    goal = trim.get_by_role("textbox", name="Goal for the length")
    goal.fill("0:05")
    goal.press("Enter")
    rule = trim.get_by_role("navigation", name="Stages")
    expect(rule.get_by_role("button", name=re.compile("^Trim"))).to_contain_text("over")
    expect(trim.get_by_text("over the goal")).to_be_visible()
    goal = trim.get_by_role("textbox", name="Goal for the length")
    goal.fill("soon")
    goal.press("Enter")
    expect(trim.get_by_text("Type a length such as 0:45").first).to_be_visible()


def test_a_piece_is_made_of_a_passage_gone_to_named_and_taken_away(trim: Page) -> None:
    read = talk(trim)
    called = "this kettle came in stone cold"
    holding = False
    held: list[Route] = []

    def talked(route: Route) -> None:
        if holding:
            held.append(route)
        else:
            route.continue_()

    # From the beginning: a request right after routes are asked for may still pass by them.
    trim.route("**/talk*", talked)
    select(trim, "This", "cold.")
    trim.keyboard.press("m")
    expect(trim.get_by_text(re.compile(f"Made the piece “{called}", re.I)).first).to_be_visible()
    assert talk(trim) == read, "the piece that was open stays open"
    holding = True
    trim.keyboard.press("v")
    menu = trim.get_by_role("button", name=re.compile(f"^Piece: {called}", re.I))
    expect(menu).to_be_visible()
    # As long as its words are on their way, none of the other piece stand there.
    expect(trim.locator("span[data-talk]")).to_have_count(0)
    assert held
    holding = False
    for route in held:
        route.continue_()
    trim.unroute("**/talk*")
    expect(trim.locator("span[data-talk]")).to_have_count(6)
    until(trim, READY)
    menu.click()
    trim.get_by_role("menuitem", name="Rename").click()
    name = trim.get_by_role("textbox", name="Name of the piece")
    name.fill("Stone cold")
    name.press("Enter")
    trim.keyboard.press("Shift+Digit2")
    assert re.match(called, " ".join(texts(trim)), re.I)
    trim.get_by_role("button", name="Piece: Stone cold").click()
    trim.get_by_role("menuitem", name="Delete").click()
    expect(trim.get_by_role("button", name="Piece: Short kettle")).to_be_visible()
    expect(trim.locator("[data-cue-text]").first).to_contain_text("Good")
    undo_all(trim)
    expect(trim.get_by_role("button", name="Piece: Short kettle")).to_be_visible()


def test_an_edge_of_a_cut_is_moved_by_key_and_by_hand(trim: Page) -> None:
    select(trim, "Today", "um")
    trim.keyboard.press("Delete")
    expect(trim.locator(STRUCK)).to_have_count(2)
    until(trim, READY)
    loupe = trim.get_by_role("region", name="Loupe")
    expect(loupe).to_contain_text("cut at")
    before = length_of(trim)
    with trim.expect_response("**/edits"):
        trim.keyboard.press("]")
    assert length_of(trim) - before == pytest.approx(1e6 / 30, abs=2)
    with trim.expect_response("**/edits"):
        trim.keyboard.press(",")
    assert length_of(trim) - before == pytest.approx(1e6 / 30 - 10_000, abs=2)
    edge = loupe.locator("[data-cut-edge=start]").bounding_box()
    assert edge
    trim.mouse.move(edge["x"] + 6, edge["y"] + 30)
    trim.mouse.down()
    trim.mouse.move(edge["x"] - 14, edge["y"] + 30, steps=5)
    trim.mouse.up()
    expect(trim.get_by_role("button", name="Undo: move the start of a clip")).to_be_visible()
    # The last step of the dragging goes out when the one before is answered.
    until(
        trim,
        """(least) => fetch(location.pathname.replace('/projects', '/api/projects')).then((a) => a.json())
          .then((p) => p.pieces[0].duration_us > least)""",
        before + 100_000,
    )
    undo_all(trim)


def test_a_passage_is_moved_and_another_said_twice(trim: Page) -> None:
    read = " ".join(talk(trim))
    select(trim, "Lantern", "where")
    trim.keyboard.press("Control+KeyX")
    expect(trim.locator(STRUCK)).to_have_text(["Lantern", "Lane,", "where"])
    word(trim, "kettle").first.click()
    trim.keyboard.press("Control+KeyV")
    expect(trim.locator("span.picked[data-talk]")).to_have_text(["Lantern", "Lane,", "where"])
    assert "kettle Lantern Lane, where came" in " ".join(talk(trim))
    # What was put there is gone to, and comes onto the screen.
    until(trim, READY)
    until(trim, INK.replace("200", "40"))
    trim.get_by_role("button", name="Copy the passage").click()
    word(trim, "stone").first.click()
    trim.get_by_role("button", name="Put the passage behind what is selected").click()
    until(trim, "document.querySelectorAll('[data-talk]').length > 0")
    expect(word(trim, "Lantern")).to_have_count(3)
    assert "stone Lantern Lane, where cold." in " ".join(talk(trim))
    trim.keyboard.press("Shift+Digit2")
    assert "Lantern Lane, where came in" in " ".join(texts(trim))
    trim.keyboard.press("Shift+Digit3")
    trim.reload()
    expect(word(trim, "Lantern")).to_have_count(3)
    undo_all(trim)
    expect(trim.locator(STRUCK)).to_have_count(0)
    assert " ".join(talk(trim)) == read


def test_it_plays_on_where_what_was_being_read_is_gone(trim: Page) -> None:
    select(trim, "times", "out")
    trim.keyboard.press("Delete")
    until(trim, READY)
    # Segments come late, so that a cut meets a place that is still being gone to.
    trim.evaluate(
        """() => {
          const { fetch } = window;
          window.fetch = async (...asked) => {
            const answer = await fetch(...asked);
            if (String(asked[0]).includes("segments"))
              await new Promise((done) => setTimeout(done, 600));
            return answer;
          };
        }"""
    )
    for text in ("things", "Lane", "morning"):
        word(trim, text).first.click()
        trim.keyboard.press("Shift+ArrowRight")
        trim.keyboard.press("Delete")
        until(trim, READY)


def test_what_saves_most_can_be_listed_first(trim: Page) -> None:
    saved = trim.get_by_text(re.compile(r"^−\d"))

    def seconds() -> list[float]:
        return [float(text[1:-2]) for text in saved.all_inner_texts()]

    expect(saved.first).to_be_visible()
    said = seconds()
    assert said != sorted(said, reverse=True)
    trim.get_by_role("button", name="what saves most first").click()
    expect(saved.first).to_have_text(f"−{max(said):.1f} s")
    assert seconds() == sorted(said, reverse=True)
    trim.keyboard.press("d")
    looked = trim.locator("[aria-label='Tray of Trim'] div.border-chalk")
    expect(looked).to_contain_text(f"−{max(said):.1f} s")
    trim.get_by_role("button", name="as it is said").click()
    expect(saved.first).to_have_text(f"−{said[0]:.1f} s")


def test_a_talk_is_tight_after_ten_gestures_at_most(trim: Page) -> None:
    """All pauses and fillers out, the ends trimmed, two passages struck; a press, a drag, a key is one."""
    gestures = 0

    def strike(first: str, last: str) -> None:
        nonlocal gestures
        select(trim, first, last)
        trim.keyboard.press("Delete")
        gestures += 2
        # What stands below moves up once it is struck, which the page shows after the edit is named.
        expect(
            trim.get_by_role("button", name=re.compile(f"Undo: strike “{first}"))
        ).to_be_visible()
        struck = trim.locator(STRUCK).filter(has_text=re.compile(f"^{first}"))
        expect(struck.first).to_be_visible()

    before = length_of(trim)
    trim.keyboard.press("Shift+KeyX")
    gestures += 1
    expect(trim.get_by_role("button", name=re.compile("Undo: take out "))).to_be_visible()
    strike("where", "things.")
    strike("Nine", "ten")
    expect(trim.get_by_role("button", name=re.compile("Undo: strike “Nine"))).to_be_visible()
    assert gestures + 1 <= 10, "with the key that opens the stage"
    tray = trim.get_by_label("Tray of Trim")
    for kind in ("Quiet", "Fillers", "Before and after the talk"):
        box = trim.get_by_role("checkbox", name=kind, exact=True)
        line = tray.locator("div", has=box).last
        expect(line).to_contain_text("none")
    assert length_of(trim) < 0.75 * before
