/** What is active, in a line at the foot of the Strip, with the keys that matter there. */

import { useDrafts } from "../drafts/store";
import { useActive } from "../focus/active";
import { useProject } from "../state/store";

const HINTS = {
  text: [
    ["Ctrl Enter", "next caption"],
    ["Enter", "splits"],
    ["Esc", "leaves"],
  ],
  page: [
    ["Enter", "types"],
    ["↑ ↓", "captions"],
    ["Space", "plays"],
    ["?", "all keys"],
  ],
  draft: [
    ["Enter", "goes on typing"],
    ["Esc", "drops it"],
  ],
  field: [
    ["Enter", "takes it"],
    ["Esc", "leaves"],
  ],
} as const;

export function HintLine() {
  const active = useActive((state) => state.active);
  const selected = useProject((state) => state.selected);
  const held = useDrafts((state) => selected !== null && state.drafts.get(selected)?.held === true);
  const at = active === "text" ? "text" : active === "field" ? "field" : held ? "draft" : "page";
  const said = {
    text: "Typing in the caption",
    field: "Typing in a field",
    draft: "Typed, not taken yet",
    page: "On the page",
  }[at];
  return (
    <p
      data-testid="active"
      className={`flex h-6 items-center gap-3 overflow-hidden whitespace-nowrap px-3 text-small ${
        at === "text" ? "bg-chalk text-white" : "bg-tint text-dim"
      }`}
    >
      <span className={at === "text" ? "" : "text-ink"}>{said}</span>
      {HINTS[at].map(([key, what]) => (
        <span key={key}>
          <kbd className="tabular">{key}</kbd> {what}
        </span>
      ))}
    </p>
  );
}
