/** The sheet of keys, opened with ?. */
import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import { PACE_KEYS, WORD_KEYS } from "../pace/paceKeys";
import { DRESS_KEYS, KEYS, TEXT_KEYS } from "./keys";

/** Accents 1 to 8 are one line on the sheet. */
const MARK_KEYS = [
  { keys: "1 … 8", about: "Mark the word with an accent of the finish" },
  ...DRESS_KEYS.slice(-1),
];

export function KeySheet({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[980px] overflow-y-auto -translate-x-1/2 -translate-y-1/2 rounded-lg border border-line bg-page p-6 shadow-xl"
        >
          <div className="mb-4 flex items-center justify-between">
            <Dialog.Title className="text-[16px] font-bold">Keys</Dialog.Title>
            <Dialog.Close aria-label="Close" className="text-dim hover:text-ink">
              <X size={18} />
            </Dialog.Close>
          </div>
          <div className="grid grid-cols-3 gap-8">
            <List title="Anywhere" keys={[...KEYS, ...WORD_KEYS]} />
            <List title="In Pace" keys={PACE_KEYS} />
            <div className="space-y-6">
              <List title="In a caption's text" keys={TEXT_KEYS} />
              <List title="In Dress" keys={MARK_KEYS} />
            </div>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function List({ title, keys }: { title: string; keys: { keys: string; about: string }[] }) {
  return (
    <div>
      <h3 className="mb-2 text-dim">{title}</h3>
      <dl className="space-y-1.5">
        {keys.map((key) => (
          <div key={key.keys} className="flex items-baseline gap-3">
            <dt className="w-[104px] shrink-0 whitespace-nowrap">
              <kbd className="tabular rounded border border-line bg-card px-1.5 py-0.5">
                {key.keys}
              </kbd>
            </dt>
            <dd>{key.about}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
