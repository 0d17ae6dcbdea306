/** The glossary: what it changed here, what corrections suggest, and its entries. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Pencil, Plus, Trash2 } from "lucide-react";
import { type FormEvent, useRef, useState } from "react";
import {
  api,
  type Cue,
  type Piece,
  type Project,
  type Schemas,
  sendFile,
  take,
  type Word,
} from "../api/client";
import { FileButton } from "../api/download";
import type { Player } from "../playback/player";
import { applyGlossary, edit } from "../state/commands";
import { select } from "../state/session";
import { useProject } from "../state/store";
import { Button } from "../ui/Button";
import { Chip } from "../ui/Chip";
import { FilePick } from "../ui/FilePick";
import { FIELD } from "../ui/fields";
import { clock } from "../ui/format";
import { attempt, say } from "../ui/notice";
import { Tip } from "../ui/Tip";
import { TraySection } from "../ui/TraySection";

type Entry = Schemas["EntryView"];
type Offer = Schemas["OfferView"];

interface Change {
  cue: Cue;
  word: Word;
  written: string;
}

/** Every place where the glossary wrote something that nobody has agreed to yet. */
export function allChanges(cues: Cue[]): Change[] {
  const changes: Change[] = [];
  let open: Change | null = null;
  for (const cue of cues) {
    for (const word of cue.words) {
      if (word.heard_as) {
        open = { cue, word, written: word.text };
        changes.push(open);
      } else if (word.heard_as === "" && open) open.written += ` ${word.text}`;
      else open = null;
    }
  }
  return changes;
}

interface Props {
  project: Project;
  piece: Piece;
  player: Player | null;
}

export function GlossarySection({ project, piece, player }: Props) {
  const client = useQueryClient();
  const revision = useProject((state) => state.project?.revision);
  const cues = useProject((state) => state.cues);
  const changes = allChanges(cues);
  const book = useQuery({
    queryKey: ["glossary", project.id, revision],
    placeholderData: (before) => before,
    queryFn: () =>
      take(api.GET("/api/glossary", { params: { query: { project_id: project.id } } })),
  });
  const act = async (work: Promise<unknown>, said?: string): Promise<boolean> => {
    const taken = await attempt(work);
    if (taken && said) say(said);
    await client.invalidateQueries({ queryKey: ["glossary"] });
    return taken;
  };
  const add = async (written: string, heard: string[]) => {
    const taken = await act(take(api.POST("/api/glossary", { body: { written, heard } })));
    if (taken) await applyGlossary();
    return taken;
  };
  return (
    <>
      {changes.length > 0 && (
        <TraySection title="Written by the glossary" about="Put back what was right as heard.">
          {changes.map((change) => (
            <ChangeCard key={change.word.id} change={change} player={player} />
          ))}
          <Button onClick={() => void edit({ kind: "keep_glossary", piece_id: piece.id })}>
            Keep all {changes.length}
          </Button>
        </TraySection>
      )}
      {book.data && book.data.offers.length > 0 && (
        <TraySection title="Corrected by hand">
          {book.data.offers.map((offer) => (
            <OfferCard
              key={`${offer.heard}>${offer.written}`}
              offer={offer}
              onTake={() => void add(offer.written, [offer.heard])}
              onDecline={() => void act(take(api.POST("/api/glossary/declined", { body: offer })))}
            />
          ))}
        </TraySection>
      )}
      <TraySection
        title="Names and trade words"
        about="Written this way in every project, wherever something like them is heard."
      >
        <EntryForm onSave={add} />
        <ul className="space-y-1">
          {book.data?.entries.map((entry) => (
            <EntryRow key={entry.id} entry={entry} act={act} />
          ))}
        </ul>
        <Files empty={!book.data?.entries.length} act={act} />
      </TraySection>
    </>
  );
}

function ChangeCard({ change, player }: { change: Change; player: Player | null }) {
  const { cue, word, written } = change;
  const ids = { cue_id: cue.id, word_id: word.id };
  return (
    <div className="rounded border border-line bg-card p-2.5">
      <Tip text="Play it">
        <button
          type="button"
          className="flex w-full items-baseline gap-3 text-left"
          onClick={() => {
            select(cue.id);
            player?.playStretch(cue.start_us - 1_000_000, cue.end_us, false);
          }}
        >
          <span className="flex-1">
            <s className="text-dim">{word.heard_as}</s> <b className="glossed">{written}</b>
          </span>
          <span className="tabular text-dim">{clock(word.start_us)}</span>
        </button>
      </Tip>
      <div className="mt-2 flex gap-1.5">
        <Chip quiet onClick={() => void edit({ kind: "accept_word", ...ids })}>
          keep
        </Chip>
        <Chip quiet onClick={() => void edit({ kind: "refuse_glossary", ...ids })}>
          put back
        </Chip>
      </div>
    </div>
  );
}

function OfferCard(props: { offer: Offer; onTake: () => void; onDecline: () => void }) {
  const { offer, onTake, onDecline } = props;
  return (
    <div className="rounded border border-line bg-card p-2.5">
      <p>
        <s className="text-dim">{offer.heard}</s> <b>{offer.written}</b>{" "}
        <span className="text-dim">
          {offer.times === 1 ? "once" : `${offer.times} times`}
          {offer.elsewhere > 0 &&
            `, heard so in ${offer.elsewhere} other ${offer.elsewhere === 1 ? "place" : "places"}`}
        </span>
      </p>
      <div className="mt-2 flex gap-1.5">
        <Chip onClick={onTake}>
          {offer.elsewhere > 0 ? "write it so everywhere" : "add to the glossary"}
        </Chip>
        <Chip quiet onClick={onDecline}>
          not this
        </Chip>
      </div>
    </div>
  );
}

function EntryForm(props: {
  entry?: Entry;
  onSave: (written: string, heard: string[]) => Promise<boolean>;
  onCancel?: () => void;
}) {
  const { entry, onSave, onCancel } = props;
  const [written, setWritten] = useState(entry?.written ?? "");
  const [heard, setHeard] = useState(entry?.heard.join(", ") ?? "");
  const save = async (event: FormEvent) => {
    event.preventDefault();
    if (!written.trim()) return;
    const saved = onSave(written, heard.split(","));
    if (entry) return;
    // The next entry can be typed meanwhile; a refused one comes back unless it was.
    setWritten("");
    setHeard("");
    if (await saved) return;
    setWritten((now) => now || written);
    setHeard((now) => now || heard);
  };
  return (
    <form className="space-y-1.5" onSubmit={(event) => void save(event)}>
      <input
        dir="auto"
        className={FIELD}
        aria-label="Written"
        placeholder="Written, such as Marlo"
        value={written}
        onChange={(event) => setWritten(event.target.value)}
      />
      {(written.trim() !== "" || entry) && (
        <>
          <input
            dir="auto"
            className={FIELD}
            aria-label="Heard as"
            placeholder="Heard as (if known), with commas"
            value={heard}
            onChange={(event) => setHeard(event.target.value)}
          />
          <div className="flex gap-2">
            <Button kind="main" type="submit">
              {entry ? "Save" : "Add and apply"}
            </Button>
            {onCancel && <Button onClick={onCancel}>Cancel</Button>}
          </div>
        </>
      )}
    </form>
  );
}

type Act = (work: Promise<unknown>, said?: string) => Promise<boolean>;

function EntryRow({ entry, act }: { entry: Entry; act: Act }) {
  const [open, setOpen] = useState(false);
  const path = { params: { path: { entry_id: entry.id } } };
  if (open) {
    return (
      <li className="rounded border border-chalk bg-card p-2">
        <EntryForm
          entry={entry}
          onCancel={() => setOpen(false)}
          onSave={async (written, heard) => {
            const body = { written, heard };
            const taken = await act(take(api.PUT("/api/glossary/{entry_id}", { ...path, body })));
            if (taken) setOpen(false);
            if (taken) await applyGlossary();
            return taken;
          }}
        />
      </li>
    );
  }
  const button = "rounded p-1 text-dim hover:bg-tint hover:text-ink";
  return (
    <li className="flex items-start gap-1 rounded px-1 hover:bg-birch">
      <span className="min-w-0 flex-1 py-0.5">
        <b>{entry.written}</b>
        {entry.heard.length > 0 && (
          <span className="text-dim"> heard as {entry.heard.join(", ")}</span>
        )}
      </span>
      <Tip text="Change">
        <button
          type="button"
          className={button}
          aria-label={`Change ${entry.written}`}
          onClick={() => setOpen(true)}
        >
          <Pencil size={14} />
        </button>
      </Tip>
      <Tip text="Remove from the glossary">
        <button
          type="button"
          className={button}
          aria-label={`Remove ${entry.written}`}
          onClick={() => void act(take(api.DELETE("/api/glossary/{entry_id}", path)))}
        >
          <Trash2 size={14} />
        </button>
      </Tip>
    </li>
  );
}

function Files({ empty, act }: { empty: boolean; act: Act }) {
  const picker = useRef<HTMLInputElement>(null);
  const takeIn = async (file: File | undefined) => {
    if (!file) return;
    await act(
      sendFile<Schemas["GlossaryRead"]>("/api/glossary.csv", file).then(({ taken, refused }) => {
        const lines = refused.length ? ` Not taken: ${refused.join(" ")}` : "";
        say(`${taken} ${taken === 1 ? "entry" : "entries"} taken in.${lines}`);
      }),
    );
    await applyGlossary();
  };
  return (
    <p className="flex gap-4 text-small">
      <button
        type="button"
        className="inline-flex items-center gap-1 text-link hover:underline"
        onClick={() => picker.current?.click()}
      >
        <Plus size={13} /> Take in a CSV file
      </button>
      {!empty && (
        <FileButton className="text-link hover:underline" url="/api/glossary.csv">
          Save as CSV
        </FileButton>
      )}
      <FilePick
        ref={picker}
        label="Glossary file"
        accept=".csv,text/csv,text/plain"
        onFiles={([chosen]) => void takeIn(chosen)}
      />
    </p>
  );
}
