// @vitest-environment happy-dom
import { describe, expect, it } from "vitest";
import { Player } from "./player";

const playing = (durationUs: number) =>
  new Player(document.createElement("video"), false, durationUs);

describe("going to a moment", () => {
  it("stays within the piece", () => {
    const player = playing(2_000_000);
    player.seek(1_000_000);
    expect(player.at).toBe(1_000_000);
    player.seek(5_000_000);
    expect(player.at).toBe(1_999_000);
  });

  it("goes there as soon as the piece is long enough", () => {
    const player = playing(2_000_000);
    player.seek(2_500_000);
    player.setDuration(3_000_000);
    expect(player.at).toBe(2_500_000);
  });

  it("does not go there when somebody went elsewhere meanwhile", () => {
    const player = playing(2_000_000);
    player.seek(2_500_000);
    player.seek(500_000);
    player.setDuration(3_000_000);
    expect(player.at).toBe(500_000);
  });
});
