/** The text beside the video: proposed from what is said, written over, copied. */
import { WandSparkles } from "lucide-react";
import { useEffect, useState } from "react";
import { ActionButton } from "../actions/ActionButton";
import { api, type Piece, take } from "../api/client";
import { LONGEST_TAG, LONGEST_TEXT, LONGEST_TITLE, MOST_TAGS } from "../api/values";
import { edit } from "../state/commands";
import { Button } from "../ui/Button";
import { FIELD } from "../ui/fields";
import { attempt } from "../ui/notice";
import { TraySection } from "../ui/TraySection";
import { type Post, tagsOf } from "./post";

export function PostSection({ piece }: { piece: Piece }) {
  const { post } = piece;
  const [reasons, setReasons] = useState<string[]>([]);
  const keep = (changes: Partial<Post>) =>
    void edit({ kind: "set_post", piece_id: piece.id, post: { ...post, ...changes } });
  const propose = async () => {
    const path = { piece_id: piece.id };
    const found = await take(api.GET("/api/pieces/{piece_id}/post", { params: { path } }));
    setReasons(found.reasons);
    keep(found.post);
  };
  return (
    <TraySection title="Text for the post" about="Kept with the piece; nothing is sent anywhere.">
      <Typed
        label="Title"
        value={post.title}
        most={LONGEST_TITLE}
        rows={2}
        onKeep={(title) => keep({ title })}
      />
      <Typed
        label="Description"
        value={post.text}
        most={LONGEST_TEXT}
        rows={4}
        onKeep={(text) => keep({ text })}
      />
      <Typed
        label="Tags"
        value={post.tags.map((tag) => `#${tag}`).join(" ")}
        most={MOST_TAGS * LONGEST_TAG}
        said={`${post.tags.length} of ${MOST_TAGS}`}
        rows={2}
        onKeep={(text) => keep({ tags: tagsOf(text) })}
      />
      <div className="flex gap-2">
        <Button className="gap-1.5 px-2" onClick={() => void attempt(propose())}>
          <WandSparkles size={14} /> Propose
        </Button>
        <ActionButton
          id="copy-post"
          player={null}
          text="Copy"
          className="inline-flex h-8 items-center gap-1.5 rounded border border-line bg-card px-2.5 hover:border-dim"
        />
      </div>
      {reasons.length > 0 && (
        <ul aria-label="Why" className="space-y-0.5 text-small text-dim">
          {reasons.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
      )}
    </TraySection>
  );
}

/** A field that is kept when it is left. */
function Typed(props: {
  label: string;
  value: string;
  most: number;
  rows?: number;
  said?: string;
  onKeep: (text: string) => void;
}) {
  const { label, value, most, rows = 1, said, onKeep } = props;
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);
  return (
    <label className="block">
      <span className="flex justify-between text-small text-dim">
        {label}
        <span className="tabular">{said ?? `${typed.length} of ${most}`}</span>
      </span>
      <textarea
        aria-label={label}
        dir="auto"
        rows={rows}
        maxLength={most}
        className={`${FIELD} h-auto resize-y py-1`}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => typed !== value && onKeep(typed)}
      />
    </label>
  );
}
