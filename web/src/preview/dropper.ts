/** Taking a colour from the picture: the next click on the preview says which. */
import { create } from "zustand";
import { whenProjectEnds } from "../state/projectSession";

export const useDropper = create<{ take: ((colour: string | null) => void) | null }>(() => ({
  take: null,
}));

whenProjectEnds(() => useDropper.getState().take?.(null));

/** Resolves to the colour that is clicked, or to null when it is given up. */
export function pickFromPicture(): Promise<string | null> {
  useDropper.getState().take?.(null);
  return new Promise((resolve) => {
    useDropper.setState({
      take: (colour) => {
        useDropper.setState({ take: null });
        resolve(colour);
      },
    });
  });
}

/** The colour of a video at a place of its box (0 to 1 across and down), captions left out. */
export function colourAt(video: HTMLVideoElement, x: number, y: number): string | null {
  const canvas = document.createElement("canvas");
  canvas.width = 1;
  canvas.height = 1;
  const context = canvas.getContext("2d");
  if (!context || !video.videoWidth) return null;
  const [left, top] = [x * video.videoWidth, y * video.videoHeight];
  context.drawImage(video, Math.floor(left), Math.floor(top), 1, 1, 0, 0, 1, 1);
  const [r = 0, g = 0, b = 0] = context.getImageData(0, 0, 1, 1).data;
  return `#${[r, g, b].map((value) => value.toString(16).padStart(2, "0")).join("")}`;
}
