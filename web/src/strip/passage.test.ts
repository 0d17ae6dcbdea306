// @vitest-environment happy-dom
import { beforeEach, describe, expect, it } from "vitest";
import type { Cue } from "../api/client";
import { useProject } from "../state/store";
import {
  extend,
  isPicked,
  passageCues,
  passageText,
  pasted,
  selectAll,
  usePassage,
} from "./passage";

const cue = (id: number, text: string, speaker: string | null = null) =>
  ({
    id,
    piece_id: 1,
    start_us: id * 1e6,
    end_us: id * 1e6 + 5e5,
    words: text
      .split(" ")
      .map((one, n) => ({ id: id * 10 + n, text: one, speaker, tight: n === 0 })),
  }) as unknown as Cue;

const CUES = [cue(1, "Good morning"), cue(2, "from Lantern Lane"), cue(3, "where we mend")];

describe("a passage over captions", () => {
  beforeEach(() => {
    document.body.innerHTML = '<div id="page" tabindex="-1"></div>';
    useProject.setState({ cues: CUES, onlySpeaker: null });
    usePassage.setState({ passage: null });
  });

  it("reads the same whichever way it was selected", () => {
    const [anchor, focus] = [
      { cue: 3, letter: 5 },
      { cue: 1, letter: 5 },
    ];
    usePassage.setState({ passage: { anchor, focus } });
    expect(passageText()).toBe("morning\nfrom Lantern Lane\nwhere");
    usePassage.setState({ passage: { anchor: focus, focus: anchor } });
    expect(passageText()).toBe("morning\nfrom Lantern Lane\nwhere");
    expect(CUES.map(isPicked)).toEqual([false, true, false]);
  });

  it("grows by letters and captions, from one caption into the next", () => {
    extend({ cue: 1, letter: 3 }, { cue: 1, letter: 12 }, "letter", 1);
    expect(usePassage.getState().passage?.focus).toEqual({ cue: 2, letter: 0 });
    extend({ cue: 2, letter: 4 }, { cue: 2, letter: 0 }, "letter", -1);
    expect(usePassage.getState().passage?.focus).toEqual({ cue: 1, letter: 12 });
    extend({ cue: 1, letter: 3 }, { cue: 1, letter: 9 }, "caption", 1);
    expect(usePassage.getState().passage?.focus).toEqual({ cue: 2, letter: 9 });
    extend({ cue: 1, letter: 3 }, { cue: 3, letter: 2 }, "caption", 1);
    expect(usePassage.getState().passage?.focus).toEqual({ cue: 3, letter: 13 });
  });

  it("never touches what a filter hides", () => {
    const spoken = [cue(1, "Tea", "Marlo"), cue(2, "please", "Ida"), cue(3, "Thank you", "Marlo")];
    useProject.setState({ cues: spoken, onlySpeaker: "Marlo" });
    selectAll();
    expect(passageCues()?.cues.map((one) => one.id)).toEqual([1, 3]);
    expect(passageText()).toBe("Tea\nThank you");
    usePassage.setState({
      passage: { anchor: { cue: 2, letter: 0 }, focus: { cue: 3, letter: 1 } },
    });
    expect(passageCues()).toBeNull();
  });

  it("takes text from elsewhere with plain line ends and without empty lines", () => {
    const data = { getData: () => "tea\r\n\n  \nis free\u2028now" } as unknown as DataTransfer;
    expect(pasted(data)).toBe("tea\nis free\nnow");
    expect(pasted(null)).toBe("");
  });
});
