/** Says that the disk is full for as long as it is: work waits then, and goes on by itself. */
import { HardDrive } from "lucide-react";
import { useProject } from "./state/store";

export function DiskNote() {
  const full = useProject((state) => state.diskFull);
  if (!full) return null;
  return (
    <p
      role="alert"
      className="flex items-center gap-2 border-b border-line bg-card px-4 py-2 text-clay"
    >
      <HardDrive size={16} className="shrink-0" />
      The disk is full. What you made is saved. Free some space, and what waits goes on by itself.
    </p>
  );
}
