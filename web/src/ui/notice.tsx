/** Short messages at the foot of the page: what went wrong, or what was done. */
import { CircleAlert, X } from "lucide-react";
import { Toast } from "radix-ui";
import { create } from "zustand";

interface Notice {
  id: number;
  text: string;
  tone: "wrong" | "done";
}

const useNotices = create<{ shown: Notice | null }>(() => ({ shown: null }));
let next = 1;

export function say(text: string, tone: Notice["tone"] = "done"): void {
  useNotices.setState({ shown: { id: next++, text, tone } });
}

/** Say why something did not work. */
export function sayWrong(error: unknown): void {
  say(error instanceof Error ? error.message : String(error), "wrong");
}

/** Whether some work succeeded; a failure is said. */
export async function attempt(work: Promise<unknown>): Promise<boolean> {
  try {
    await work;
    return true;
  } catch (error) {
    sayWrong(error);
    return false;
  }
}

const BRIEFLY_MS = 5_000;
const UNTIL_CLOSED_MS = 2 ** 31 - 1;

export function Notices() {
  const shown = useNotices((state) => state.shown);
  const wrong = shown?.tone === "wrong";
  return (
    <Toast.Provider swipeDirection="left" label="Message">
      {shown && (
        <Toast.Root
          key={shown.id}
          data-testid="notice"
          role={wrong ? "alert" : undefined}
          type={wrong ? "foreground" : "background"}
          duration={wrong ? UNTIL_CLOSED_MS : BRIEFLY_MS}
          onOpenChange={(open) => {
            if (!open) useNotices.setState((now) => (now.shown === shown ? { shown: null } : now));
          }}
          className="flex max-w-xl items-start gap-3 rounded-md border border-line bg-card px-4 py-3 shadow-lg"
        >
          {wrong && <CircleAlert size={18} className="mt-0.5 shrink-0 text-clay" />}
          <Toast.Description>{shown.text}</Toast.Description>
          <Toast.Close aria-label="Close message" className="ml-2 text-dim hover:text-ink">
            <X size={16} />
          </Toast.Close>
        </Toast.Root>
      )}
      <Toast.Viewport
        hotkey={[]}
        label="Messages"
        className="fixed top-16 left-1/2 z-50 w-max max-w-[92vw] -translate-x-1/2"
      />
    </Toast.Provider>
  );
}
