/** Which piece is open: the others to go to, and what can be done with it. */
import { Check, ChevronDown, Copy, Pencil, Trash2 } from "lucide-react";
import { DropdownMenu, Toolbar } from "radix-ui";
import { type ReactNode, useRef, useState } from "react";
import type { Piece, Project } from "../api/client";
import { byMouse, focusPage } from "../focus/page";
import { edit } from "../state/commands";
import { showPiece } from "../state/server";
import { useProject } from "../state/store";
import { length } from "../ui/format";
import { say } from "../ui/notice";

/** A copy of a piece is opened at once: it is what is worked on next. */
async function copy(piece: Piece, project: Project): Promise<void> {
  const known = new Set(project.pieces.map((one) => one.id));
  if (!(await edit({ kind: "new_piece", piece_id: piece.id, passages: [], name: "" }))) return;
  await openNew(known);
}

/** Open the piece that came to those that were known. */
export async function openNew(known: ReadonlySet<number>): Promise<void> {
  const made = useProject.getState().project?.pieces.find((one) => !known.has(one.id));
  if (made) await showPiece(made.id);
}

export function PieceMenu({ project, piece }: { project: Project; piece: Piece }) {
  const [naming, setNaming] = useState(false);
  const asked = useRef(false);
  // One piece alone is the project.
  const alone = project.pieces.length < 2;
  const called = alone ? project.name : piece.name;
  const rename = (name: string) => {
    setNaming(false);
    if (!name.trim() || name === called) return;
    void edit(
      alone ? { kind: "rename_project", name } : { kind: "name_piece", piece_id: piece.id, name },
    );
  };
  if (naming) {
    return (
      <input
        // biome-ignore lint/a11y/noAutofocus: it was asked for
        autoFocus
        aria-label="Name of the piece"
        className="h-7 w-44 rounded border border-line bg-card px-2"
        defaultValue={called}
        onFocus={(event) => event.target.select()}
        onBlur={(event) => rename(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") setNaming(false);
        }}
      />
    );
  }
  return (
    <DropdownMenu.Root>
      <Toolbar.Button asChild>
        <DropdownMenu.Trigger
          id="piece-menu"
          aria-label={`Piece: ${called}`}
          className="flex min-w-0 items-center gap-1 rounded px-1.5 py-1 hover:bg-birch max-[760px]:hidden"
        >
          <span className="truncate">{called}</span>
          <ChevronDown size={13} className="shrink-0 text-dim" />
        </DropdownMenu.Trigger>
      </Toolbar.Button>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-50 max-h-[70vh] w-72 overflow-y-auto rounded border border-line bg-card p-1 text-ink shadow-lg"
          onCloseAutoFocus={(event) => {
            if (asked.current) {
              // The field comes once the menu has let go of the focus.
              asked.current = false;
              event.preventDefault();
              setNaming(true);
            } else if (byMouse()) {
              event.preventDefault();
              focusPage();
            }
          }}
        >
          {!alone && (
            <DropdownMenu.Label className="truncate px-2 pt-1 pb-0.5 text-small text-dim">
              Pieces of {project.name}
            </DropdownMenu.Label>
          )}
          {project.pieces.map((one) => (
            <Entry
              key={one.id}
              icon={one.id === piece.id ? <Check size={15} className="text-link" /> : null}
              onSelect={() => void showPiece(one.id)}
            >
              <span className="min-w-0 flex-1 truncate">{alone ? called : one.name}</span>
              <span className="tabular text-dim">{length(one.duration_us)}</span>
            </Entry>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <Entry icon={<Copy size={15} />} onSelect={() => void copy(piece, project)}>
            Make a copy of it
          </Entry>
          <Entry
            icon={<Pencil size={15} />}
            onSelect={() => {
              asked.current = true;
            }}
          >
            Rename
          </Entry>
          <Entry
            icon={<Trash2 size={15} />}
            disabled={alone}
            onSelect={() => {
              void edit({ kind: "delete_piece", piece_id: piece.id }).then(
                (taken) => taken && say(`Deleted “${piece.name}”. Undo brings it back.`),
              );
            }}
          >
            Delete
          </Entry>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Entry(props: {
  icon: ReactNode;
  disabled?: boolean;
  onSelect: () => void;
  children: ReactNode;
}) {
  const { icon, disabled = false, onSelect, children } = props;
  return (
    <DropdownMenu.Item
      disabled={disabled}
      className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 outline-none data-disabled:opacity-45 data-highlighted:bg-tint"
      onSelect={onSelect}
    >
      <span className="grid w-4 shrink-0 place-items-center">{icon}</span>
      {children}
    </DropdownMenu.Item>
  );
}
