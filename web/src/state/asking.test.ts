import { beforeEach, describe, expect, it, vi } from "vitest";

const sent = vi.hoisted(() => [] as unknown[]);
vi.mock("./commands", () => ({
  edit: (command: unknown) => {
    sent.push(command);
    return Promise.resolve(true);
  },
}));
vi.mock("../api/client", () => ({
  api: { GET: () => Promise.resolve(["pare", "pear"]) },
  take: (found: unknown) => found,
}));

import type { Cue } from "../api/client";
import type { Player } from "../playback/player";
import { ask, decide, wordBefore } from "./asking";
import { keepAll } from "./doubts";
import { useProject } from "./store";

const word = (id: number, doubt = false) => ({
  id,
  text: `w${id}`,
  start_us: id * 1_000_000,
  end_us: id * 1_000_000 + 900_000,
  doubt,
  alternatives: doubt ? ["heard"] : [],
});
const cue = (id: number, ...words: ReturnType<typeof word>[]) =>
  ({ id, words, start_us: words[0]?.start_us, end_us: words.at(-1)?.end_us }) as unknown as Cue;
const CUES = [cue(1, word(1), word(2)), cue(2, word(3), word(4, true))];

function listener(at: number) {
  const player = { at, moves: 0, playing: true, media: { pause: () => (player.playing = false) } };
  return Object.assign(player, {
    toggle: () => (player.playing = !player.playing),
    playStretch: () => (player.playing = true),
  });
}
const of = (player: ReturnType<typeof listener>) => player as unknown as Player;
const asked = () => useProject.getState().doubt;

describe("asking about a word while it is listened to", () => {
  beforeEach(() => {
    sent.length = 0;
    useProject.setState({ cues: CUES, doubt: null, selected: null, word: null });
  });

  it("stops at the word that was just said, and goes on once it is settled", async () => {
    const player = listener(3_100_000);
    ask(of(player));
    expect([player.playing, asked()]).toEqual([false, 2]);
    await decide(of(player), 0);
    expect(sent).toEqual([{ kind: "replace_word", cue_id: 1, word_id: 2, text: "pare" }]);
    expect([player.playing, asked()]).toEqual([true, null]);
  });

  it("goes to the word before with each further time, over the edge of a caption", () => {
    const player = listener(4_000_000);
    ask(of(player));
    expect(asked()).toBe(3);
    ask(of(player));
    expect(asked()).toBe(2);
    ask(of(player));
    ask(of(player));
    expect(asked()).toBe(1);
    expect(wordBefore(CUES, 1)).toBeUndefined();
  });

  it("counts as asked again where the last frame is shown long after the sound has stopped", async () => {
    const player = listener(3_100_000);
    ask(of(player));
    player.at += 400_000;
    ask(of(player));
    expect(asked()).toBe(1);
    await decide(of(player), 0);
    expect(player.playing).toBe(true);
  });

  it("asks about the word at another moment that was gone to since", () => {
    const player = listener(3_100_000);
    ask(of(player));
    player.at = 4_500_000;
    player.moves += 1;
    ask(of(player));
    expect(asked()).toBe(4);
  });

  it("keeps a word that was not in doubt without an edit", async () => {
    const player = listener(1_500_000);
    ask(of(player));
    await decide(of(player), "keep");
    expect([sent, asked(), player.playing]).toEqual([[], null, true]);
  });

  it("leaves the word asked about when there is no other of that number", async () => {
    const player = listener(1_500_000);
    ask(of(player));
    await decide(of(player), 5);
    expect([sent, asked(), player.playing]).toEqual([[], 1, false]);
  });

  it("shows no word any more when all that are in doubt are kept", () => {
    useProject.setState({ doubt: 4, project: { pieces: [{ id: 7 }] } as never });
    keepAll();
    expect([sent, asked()]).toEqual([[{ kind: "accept_all", piece_id: 7 }], null]);
  });

  it("does not start what was not playing", async () => {
    const player = listener(4_500_000);
    player.playing = false;
    ask(of(player));
    expect(asked()).toBe(4);
    useProject.setState({ doubt: 3 });
    await decide(of(player), { written: "knot" });
    expect([player.playing, asked()]).toEqual([false, null]);
  });
});
