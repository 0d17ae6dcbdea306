/** Says which settings of the open piece could not be read: the usual ones are shown in their place. */
import { FileWarning } from "lucide-react";
import { openPiece, useProject } from "./state/store";

export function UnreadableNote() {
  const lost = useProject(openPiece)?.unreadable ?? [];
  if (lost.length === 0) return null;
  return (
    <p
      role="alert"
      className="flex items-center gap-2 border-b border-line bg-card px-4 py-2 text-clay"
    >
      <FileWarning size={16} className="shrink-0" />
      These settings of the piece cannot be read, and the usual ones stand in for them:{" "}
      {lost.join(", ")}. Set them anew, or remove the piece. Words and captions are all there.
    </p>
  );
}
