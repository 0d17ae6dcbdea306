/** One finish to choose; one of the user's own can be renamed, taken along as a file, deleted. */

import { useQueryClient } from "@tanstack/react-query";
import { MoreHorizontal } from "lucide-react";
import { DropdownMenu, RadioGroup } from "radix-ui";
import { useState } from "react";
import { api, type FinishView, type Piece, take, takeAs } from "../api/client";
import { download } from "../api/download";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { attempt, sayWrong } from "../ui/notice";
import { Tip } from "../ui/Tip";
import { Sample } from "./Sample";

export function FinishCard(props: { piece: Piece; player: Player | null; view: FinishView }) {
  const { piece, player, view } = props;
  const [naming, setNaming] = useState(false);
  const { id, finish } = view;
  const chosen = piece.finish.name === finish.name;
  return (
    <div
      className={`relative overflow-hidden rounded border bg-card has-focus-visible:outline-2 has-focus-visible:outline-chalk ${
        chosen ? "border-chalk ring-1 ring-chalk" : "border-line hover:border-dim"
      }`}
    >
      <Tip text={finish.about}>
        <RadioGroup.Item
          value={finish.name}
          aria-label={finish.name}
          className="block w-full cursor-pointer text-left outline-none"
        >
          <Sample piece={piece} player={player} finish={finish} />
          <span className="flex items-center gap-1.5 px-2 py-1">
            <span
              className={`truncate ${chosen ? "font-bold text-link" : ""} ${naming ? "invisible" : ""}`}
            >
              {finish.name}
            </span>
            {view.default && (
              <Tip text="New pieces begin with it">
                <span className="ml-auto text-small text-dim">first</span>
              </Tip>
            )}
          </span>
        </RadioGroup.Item>
      </Tip>
      {id !== null && naming && (
        <Naming id={id} piece={piece} name={finish.name} onDone={() => setNaming(false)} />
      )}
      {id !== null && !naming && (
        <Menu id={id} name={finish.name} onRename={() => setNaming(true)} />
      )}
    </div>
  );
}

const ITEM =
  "block w-full cursor-pointer rounded px-2.5 py-1 text-left outline-none data-[highlighted]:bg-tint";

function Menu({ id, name, onRename }: { id: number; name: string; onRename: () => void }) {
  const client = useQueryClient();
  const file = `/api/finishes/file?name=${encodeURIComponent(name)}`;
  const forget = () =>
    void take(api.DELETE("/api/finishes/{finish_id}", { params: { path: { finish_id: id } } }))
      .then(() => client.invalidateQueries({ queryKey: ["finishes"] }))
      .catch(sayWrong);
  return (
    <DropdownMenu.Root>
      <Tip text="Rename, take along, delete">
        <DropdownMenu.Trigger
          className="absolute right-1 bottom-1 rounded p-1 text-dim hover:bg-tint hover:text-ink"
          aria-label={`What to do with ${name}`}
        >
          <MoreHorizontal size={15} />
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-20 min-w-36 rounded border border-line bg-card p-1 shadow-lg"
        >
          <DropdownMenu.Item className={ITEM} onSelect={onRename}>
            Rename…
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => void attempt(download(file))}>
            As a file
          </DropdownMenu.Item>
          <Tip text="Pieces that have it keep it">
            <DropdownMenu.Item className={`${ITEM} text-clay`} onSelect={forget}>
              Delete
            </DropdownMenu.Item>
          </Tip>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Its new name, in the place of the old one; the open piece goes along. */
function Naming(props: { id: number; piece: Piece; name: string; onDone: () => void }) {
  const { id, piece, name, onDone } = props;
  const client = useQueryClient();
  const [typed, setTyped] = useState(name);
  const rename = async () => {
    onDone();
    if (!typed.trim() || typed.trim() === name) return;
    try {
      const made = await takeAs<FinishView>(
        api.PUT("/api/finishes/{finish_id}", {
          params: { path: { finish_id: id } },
          body: { name: typed },
        }),
      );
      await client.invalidateQueries({ queryKey: ["finishes"] });
      if (piece.finish.name === name) {
        const renamed = { ...piece.finish, name: made.finish.name };
        await edit({ kind: "set_finish", piece_id: piece.id, finish: renamed });
      }
    } catch (error) {
      sayWrong(error);
    }
  };
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: it was just asked for
      autoFocus
      aria-label={`New name of ${name}`}
      className="absolute inset-x-1 bottom-1 h-7 rounded border border-chalk bg-card px-1.5"
      maxLength={40}
      value={typed}
      onFocus={(event) => event.target.select()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => void rename()}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") onDone();
      }}
    />
  );
}
