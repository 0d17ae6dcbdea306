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

  it("is not taken back by a frame of where it was before", () => {
    const media = document.createElement("video");
    let come: (mediaTime: number) => void = () => undefined;
    Object.assign(media, {
      requestVideoFrameCallback: (told: (now: number, frame: { mediaTime: number }) => void) => {
        come = (mediaTime) => told(0, { mediaTime });
        return 1;
      },
    });
    const seeking = (now: boolean) =>
      Object.defineProperty(media, "seeking", { value: now, configurable: true });
    const player = new Player(media, true, 9_000_000);
    player.seek(500_000);
    seeking(true);
    come(2.5);
    expect(player.at).toBe(500_000);
    seeking(false);
    come(0.5);
    expect(player.at).toBe(500_000);
    come(0.54);
    expect(player.at).toBe(540_000);
  });
});
