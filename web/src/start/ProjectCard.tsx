/** A project on the start page, with its menu: rename, duplicate, delete. */

import { useQueryClient } from "@tanstack/react-query";
import { AudioLines, Copy, Ellipsis, Pencil, Trash2 } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Link } from "wouter";
import { api, type ProjectCard as Card, take } from "../api/client";
import { AskFirst } from "../ui/AskFirst";
import { Check } from "../ui/Check";
import { ago, length } from "../ui/format";
import { say } from "../ui/notice";
import { Tip } from "../ui/Tip";

export function ProjectCard(props: {
  card: Card;
  chosen: boolean;
  onChoose: (chosen: boolean) => void;
}) {
  const { card, chosen, onChoose } = props;
  const client = useQueryClient();
  const [naming, setNaming] = useState(false);
  const [asking, setAsking] = useState(false);
  const path = { params: { path: { project_id: card.id } } };

  const act = async (work: Promise<unknown>) => {
    await work.catch((error: Error) => say(error.message, "wrong"));
    await client.invalidateQueries({ queryKey: ["projects"] });
  };
  const rename = (name: string) => {
    setNaming(false);
    if (!name.trim() || name.trim() === card.name) return;
    const edit = { kind: "rename_project", name } as const;
    const body = { base_revision: card.revision, edit, goes_on: false };
    void act(take(api.POST("/api/projects/{project_id}/edits", { ...path, body })));
  };

  return (
    <li className="group relative overflow-hidden rounded border border-line bg-card hover:border-dim">
      <Link href={`/projects/${card.id}`} aria-label={`Open ${card.name}`} className="block">
        <div className="grid h-40 place-items-center overflow-hidden bg-easel">
          {card.kind === "video" ? (
            <img
              src={`/api/sources/${card.source_id}/poster`}
              alt=""
              className="h-40 w-full object-contain"
            />
          ) : (
            <AudioLines size={44} className="text-white/80" />
          )}
        </div>
      </Link>
      <div
        className={`absolute top-2 left-2 w-[27px] overflow-hidden rounded bg-card px-1.5 py-1 ${
          chosen ? "" : "opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
        }`}
      >
        <Check
          label={<span className="sr-only">Choose {card.name}</span>}
          checked={chosen}
          onChange={onChoose}
        />
      </div>
      <div className="p-3 pr-10">
        {naming ? (
          <input
            // biome-ignore lint/a11y/noAutofocus: the field appears because it was asked for
            autoFocus
            aria-label="Project name"
            defaultValue={card.name}
            maxLength={120}
            className="w-full rounded border border-chalk bg-page px-1"
            onFocus={(event) => event.target.select()}
            onBlur={(event) => rename(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter") event.currentTarget.blur();
              if (event.key === "Escape") setNaming(false);
            }}
          />
        ) : (
          <Tip text={card.name}>
            <p className="truncate font-bold">{card.name}</p>
          </Tip>
        )}
        <p className="truncate text-small text-dim">
          {length(card.duration_us)} · {status(card)}
        </p>
        <p className="text-small text-dim">{ago(card.changed_us)}</p>
      </div>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={`More for ${card.name}`}
          className="absolute right-2 bottom-12 rounded p-1.5 text-dim hover:bg-tint hover:text-ink"
        >
          <Ellipsis size={16} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-40 w-40 rounded-md border border-line bg-card p-1 shadow-lg"
            onCloseAutoFocus={(event) => naming && event.preventDefault()}
          >
            <Entry icon={<Pencil size={15} />} onSelect={() => setNaming(true)}>
              Rename
            </Entry>
            <Entry
              icon={<Copy size={15} />}
              onSelect={() =>
                void act(take(api.POST("/api/projects/{project_id}/duplicate", path)))
              }
            >
              Duplicate
            </Entry>
            <Entry icon={<Trash2 size={15} />} onSelect={() => setAsking(true)}>
              Delete …
            </Entry>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <AskFirst
        open={asking}
        onClose={() => setAsking(false)}
        title={`Delete “${card.name}”?`}
        action="Delete project"
        onAction={() => void act(take(api.DELETE("/api/projects/{project_id}", path)))}
      >
        <p>
          Its recording, {card.cue_count} captions and all deliveries are removed from this machine.
          This cannot be undone.
        </p>
      </AskFirst>
    </li>
  );
}

function Entry({
  icon,
  onSelect,
  children,
}: {
  icon: ReactNode;
  onSelect: () => void;
  children: ReactNode;
}) {
  return (
    <DropdownMenu.Item
      className="flex cursor-pointer items-center gap-2 rounded px-2 py-1.5 outline-none data-highlighted:bg-tint"
      onSelect={onSelect}
    >
      {icon} {children}
    </DropdownMenu.Item>
  );
}

function status(card: Card): string {
  if (card.hearing === "running" || card.hearing === "queued") return "listening …";
  if (card.hearing === "failed") return "not transcribed";
  return `${card.cue_count} captions`;
}
