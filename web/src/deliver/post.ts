/** The text beside a video: its tags read, all of it copied. */
import type { Schemas } from "../api/client";
import { LONGEST_TAG, MOST_TAGS } from "../api/values";
import { openPiece, useProject } from "../state/store";
import { say } from "../ui/notice";

export type Post = Schemas["Post"];

/** Tags of a line, with or without their signs, each once. */
export function tagsOf(text: string): string[] {
  const found = text.split(/[\s,#]+/).filter(Boolean);
  return [...new Set(found.map((tag) => tag.slice(0, LONGEST_TAG)))].slice(0, MOST_TAGS);
}

/** The post as it is pasted elsewhere. */
export function pasteText({ title, text, tags }: Post): string {
  return [title, text, tags.map((tag) => `#${tag}`).join(" ")].filter(Boolean).join("\n\n");
}

/** Copy the text that goes with the piece on screen. */
export function copyPost(): void {
  const post = openPiece(useProject.getState())?.post;
  const text = post && pasteText(post);
  if (!text) {
    say("There is no text for the post yet. Propose one, or write it.");
    return;
  }
  navigator.clipboard
    .writeText(text)
    .then(() => say("The text for the post is copied."))
    .catch(() => say("The browser did not let the text be copied. Select it by hand.", "wrong"));
}
