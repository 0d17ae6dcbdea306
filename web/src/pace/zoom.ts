/** How far the Strip at time scale is zoomed in: pixels a second. */
import { create } from "zustand";

interface Zoom {
  scale: number;
  /** The least and the most that the window and the piece allow. */
  range: [number, number];
}

const USUAL = 90;

export const useZoom = create<Zoom>(() => ({ scale: USUAL, range: [1, 200] }));

export function zoomTo(scale: number): void {
  const [least, most] = useZoom.getState().range;
  useZoom.setState({ scale: Math.min(most, Math.max(least, scale)) });
}

export function zoomBy(factor: number): void {
  zoomTo(useZoom.getState().scale * factor);
}

export function setZoomRange(range: [number, number]): void {
  useZoom.setState({ range });
  zoomTo(useZoom.getState().scale);
}
