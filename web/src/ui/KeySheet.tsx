/** The sheet of keys, opened with ?: the list of actions as a page. */
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { Action, Group } from "../actions/action";
import { ACTIONS } from "../actions/index";
import { useSheet } from "../actions/sheet";
import { focusPage } from "../focus/page";
import { STAGES } from "../stages/stage";
import { OTHERS } from "../state/doubts";

/** Keys that a caption's text box keeps for itself. */
const TEXT_KEYS = [
  { keys: "Enter", name: "Split the caption at the caret" },
  { keys: "Shift Enter", name: "End the line at the caret, or take that back" },
  { keys: "Ctrl Enter", name: "Take what was typed, go on to the next caption" },
  { keys: "Backspace", name: "At the start: join to the caption before" },
  { keys: "Delete", name: "At the end: join with the next caption" },
  { keys: "Shift ↓", name: "Select on into the next caption" },
  { keys: "Ctrl A", name: "Select the caption; again: all that are shown" },
  { keys: "Ctrl Z", name: "Take back typing, then edits of the piece" },
  { keys: "Esc", name: "Leave; what was typed waits, Esc again drops it" },
];

/** Numbered actions are one line on the sheet. */
function gathered(actions: readonly Action[]): { keys: string; name: string }[] {
  const rows = actions.filter(
    ({ id, keys }) => keys && !/^(mark-\d|doubt-other-\d|stage-.*)$/.test(id),
  );
  const lines = rows.map(({ keys, name }) => ({ keys, name }));
  if (actions.some(({ id }) => id === "mark-1")) {
    lines.unshift({ keys: "1 … 8", name: "Mark the word with an accent of the finish" });
  }
  if (actions.some(({ id }) => id === "doubt-other-1")) {
    lines.push({ keys: `1 … ${OTHERS.length}`, name: "Take what else it may be" });
  }
  if (actions.some(({ id }) => id.startsWith("stage-"))) {
    lines.push({ keys: `Shift 1 … ${STAGES.length}`, name: `${STAGES[0]} to ${STAGES.at(-1)}` });
  }
  return lines;
}

const COLUMNS: [string, Group[]][][] = [
  [
    ["Playing", ["Playing"]],
    ["The page", ["Page"]],
  ],
  [["Captions and words", ["Captions", "Words"]]],
  [
    ["Doubts, in Proof", ["Doubts"]],
    ["In Pace", ["Pace"]],
    ["In Dress", ["Dress"]],
  ],
];

export function KeySheet() {
  const open = useSheet((state) => state.open);
  return (
    <Dialog.Root open={open} onOpenChange={(next) => useSheet.setState({ open: next })}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[94vh] w-[min(1120px,96vw)] overflow-y-auto -translate-x-1/2 -translate-y-1/2 rounded-lg border border-line bg-page p-6 shadow-xl"
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            focusPage();
          }}
        >
          <div className="mb-4 flex items-center justify-between">
            <Dialog.Title className="text-[16px] font-bold">Keys</Dialog.Title>
            <Dialog.Close aria-label="Close" className="text-dim hover:text-ink">
              <X size={18} />
            </Dialog.Close>
          </div>
          <div className="grid grid-cols-[repeat(auto-fit,minmax(300px,1fr))] gap-x-8 gap-y-6">
            {COLUMNS.map((lists, index) => (
              <div key={lists[0]?.[0]} className="space-y-6">
                {lists.map(([title, groups]) => (
                  <List
                    key={title}
                    title={title}
                    keys={gathered(ACTIONS.filter((one) => groups.includes(one.group)))}
                  />
                ))}
                {index === 2 && <List title="In a caption's text" keys={TEXT_KEYS} />}
              </div>
            ))}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function List({ title, keys }: { title: string; keys: { keys: string; name: string }[] }) {
  return (
    <div>
      <h3 className="mb-2 text-dim">{title}</h3>
      <dl className="space-y-1">
        {keys.map((key) => (
          <div key={`${key.keys}${key.name}`} className="flex items-baseline gap-3">
            <dt className="w-[104px] shrink-0 whitespace-nowrap">
              <kbd className="tabular rounded border border-line bg-card px-1.5 py-px">
                {key.keys}
              </kbd>
            </dt>
            <dd className="leading-5">{key.name}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
