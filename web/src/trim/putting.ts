/** Words put behind what is selected, or behind the word at the playhead, and selected there. */
import type { Edit, Schemas } from "../api/client";
import type { Player } from "../playback/player";
import { edit } from "../state/commands";
import { playing, select } from "./commands";
import { rangeOf } from "./selection";
import { useTrim } from "./store";

/** Make an edit that puts words (from one to another, by id) somewhere; they are selected as soon as the
 * talk has been read anew. */
export async function put(
  player: Player | null,
  words: readonly [number, number],
  made: (behind: Schemas["WordPlace"] | null) => Edit,
): Promise<void> {
  const { items, selection } = useTrim.getState();
  const range = rangeOf(items, selection);
  const word = range
    ? items.slice(0, range[1] + 1).findLast((item) => item.id)
    : playing(items, player);
  const known = new Set(items.filter((item) => item.at_us !== null).map((item) => item.key));
  const behind = word?.id ? { strand_id: word.strand, word_id: word.id } : null;
  if (!(await edit(made(behind)))) return;
  const stop = useTrim.subscribe(({ items: now }) => {
    const fresh = now.filter((item) => item.at_us !== null && !known.has(item.key));
    const at = fresh.findIndex((item) => item.id === words[0]);
    const begins = fresh[at];
    const ends = fresh.slice(at).find((item) => item.id === words[1]);
    if (!begins || !ends) return;
    stop();
    select({ anchor: begins.key, focus: ends.key });
    if (begins.at_us !== null) player?.seek(begins.at_us);
  });
  window.setTimeout(stop, 5_000);
}
