/** Whether the sheet of keys is open. */
import { create } from "zustand";

export const useSheet = create<{ open: boolean }>(() => ({ open: false }));

export function showKeys(): void {
  useSheet.setState({ open: true });
}
