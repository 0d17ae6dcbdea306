/** Asking how a caption file is to be read before it is taken in. */
import { create } from "zustand";
import { asProblem, type Schemas, sendFile } from "../api/client";

export type FilePreview = Schemas["CaptionFileView"];

interface Asked {
  file: File;
  preview: FilePreview;
  answer: (encoding: string | null) => void;
}

export const useCaptionFile = create<{ asked: Asked | null }>(() => ({ asked: null }));

/** What a caption file would bring, read in an encoding (guessed where none is given). */
export async function previewOf(file: File, encoding?: string): Promise<FilePreview> {
  const query = encoding ? `?encoding=${encodeURIComponent(encoding)}` : "";
  const answer = await fetch(`/api/projects/captions/preview${query}`, {
    method: "POST",
    body: file,
    headers: { "Content-Type": "application/octet-stream" },
  });
  const body: unknown = await answer.json().catch(() => null);
  if (!answer.ok) throw asProblem(body);
  return body as FilePreview;
}

/**
 * Send a caption file with the encoding it is read in: asked for always, or only where the file
 * does not say it. Resolves to whether it was sent.
 */
export async function sendCaptions(
  projectId: number,
  file: File,
  when: "always" | "guessed",
  /** The piece that gets them; the only one of a new project. */
  pieceId?: number,
): Promise<boolean> {
  const preview = await previewOf(file);
  const ask = when === "always" || preview.guessed;
  const encoding = ask ? await askAbout(file, preview) : preview.encoding;
  if (encoding === null) return false;
  const asked = new URLSearchParams({ encoding });
  if (pieceId) asked.set("piece_id", String(pieceId));
  await sendFile(`/api/projects/${projectId}/captions?${asked}`, file);
  return true;
}

/** Show what is in a file; resolves to the encoding to read it in, or null to leave it. */
function askAbout(file: File, preview: FilePreview): Promise<string | null> {
  return new Promise((resolve) => {
    useCaptionFile.setState({
      asked: {
        file,
        preview,
        answer: (encoding) => {
          useCaptionFile.setState({ asked: null });
          resolve(encoding);
        },
      },
    });
  });
}
