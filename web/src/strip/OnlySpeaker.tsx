/** Whose captions alone are shown, and the way back to all. */
import { useProject } from "../state/store";
import { showOnly } from "../state/visible";

export function OnlySpeaker() {
  const only = useProject((state) => state.onlySpeaker);
  if (!only) return null;
  return (
    <button type="button" className="text-link hover:underline" onClick={() => showOnly(null)}>
      only {only} · show all
    </button>
  );
}
