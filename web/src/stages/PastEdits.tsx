/** The edits made so far, newest first: going back to one takes back what came after it. */
import { useQuery } from "@tanstack/react-query";
import { History } from "lucide-react";
import { DropdownMenu, Toolbar } from "radix-ui";
import { useState } from "react";
import { api, type Project, take } from "../api/client";
import { byMouse, focusPage } from "../focus/page";
import { step } from "../state/commands";

export function PastEdits({ project }: { project: Project }) {
  const [open, setOpen] = useState(false);
  const past = useQuery({
    queryKey: ["history", project.id, project.revision],
    enabled: open,
    queryFn: () =>
      take(
        api.GET("/api/projects/{project_id}/history", {
          params: { path: { project_id: project.id } },
        }),
      ),
  });
  const go = async (steps: number) => {
    for (let left = Math.abs(steps); left > 0; left -= 1) {
      if (!(await step(steps < 0 ? "undo" : "redo"))) return;
    }
  };
  const { undone = [], done = [] } = past.data ?? {};
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <Toolbar.Button asChild>
        <DropdownMenu.Trigger
          aria-label="Past edits"
          disabled={!project.history.undo && !project.history.redo}
          className="rounded p-1.5 text-dim hover:bg-tint hover:text-ink disabled:opacity-45"
        >
          <History size={15} />
        </DropdownMenu.Trigger>
      </Toolbar.Button>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          collisionPadding={8}
          className="z-50 max-h-[70vh] w-72 overflow-y-auto rounded border border-line bg-card p-1 text-ink shadow-lg"
          onCloseAutoFocus={(event) => {
            if (!byMouse()) return;
            event.preventDefault();
            focusPage();
          }}
        >
          {undone.map((label, index) => (
            <Item
              // biome-ignore lint/suspicious/noArrayIndexKey: edits are known by their order
              key={`undone-${index}`}
              text={label}
              about="taken back"
              onSelect={() => void go(undone.length - index)}
            />
          ))}
          {done.map((label, index) => (
            <Item
              // biome-ignore lint/suspicious/noArrayIndexKey: edits are known by their order
              key={`done-${index}`}
              text={label}
              about={index ? "" : "now"}
              onSelect={() => void go(-index)}
            />
          ))}
          <Item text="as it was at first" about="" onSelect={() => void go(-done.length)} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Item(props: { text: string; about: string; onSelect: () => void }) {
  return (
    <DropdownMenu.Item
      className="flex cursor-default items-baseline gap-2 rounded px-2 py-1 outline-none data-[highlighted]:bg-chalk data-[highlighted]:text-white"
      onSelect={props.onSelect}
    >
      <span
        className={`min-w-0 flex-1 truncate ${props.about === "taken back" ? "line-through" : ""}`}
      >
        {props.text}
      </span>
      <span className="text-small opacity-80">{props.about}</span>
    </DropdownMenu.Item>
  );
}
