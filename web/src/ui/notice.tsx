/** Short messages at the foot of the page: what went wrong, or what was done. */
import { CircleAlert, X } from "lucide-react";
import { useEffect } from "react";
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

export function Notices() {
  const shown = useNotices((state) => state.shown);
  useEffect(() => {
    if (!shown || shown.tone === "wrong") return;
    const timer = window.setTimeout(() => useNotices.setState({ shown: null }), 4_000);
    return () => window.clearTimeout(timer);
  }, [shown]);
  return (
    <div aria-live="polite" className="fixed bottom-24 left-4 z-50">
      {shown && (
        <div
          role={shown.tone === "wrong" ? "alert" : "status"}
          className="flex max-w-xl items-start gap-3 rounded-md border border-line bg-card px-4 py-3 shadow-lg"
        >
          {shown.tone === "wrong" && (
            <CircleAlert size={18} className="mt-0.5 shrink-0 text-clay" />
          )}
          <p>{shown.text}</p>
          <button
            type="button"
            aria-label="Close message"
            className="ml-2 text-dim hover:text-ink"
            onClick={() => useNotices.setState({ shown: null })}
          >
            <X size={16} />
          </button>
        </div>
      )}
    </div>
  );
}
