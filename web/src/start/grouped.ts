/** Which of the files that are dropped together belong together: the server tells by their names. */
import { api, take } from "../api/client";

export interface Together {
  file: File;
  words: File | undefined;
  /** Sounds that may be this one's, recorded apart. */
  sounds: File[];
  /** The picture that a sound is shown beside. */
  cover: File | undefined;
}

export async function grouped(files: File[]): Promise<{ recordings: Together[]; lonely: File[] }> {
  const body = { names: files.map((file) => file.name) };
  const found = await take(api.POST("/api/projects/file-groups", { body }));
  const at = (index: number) => files[index] as File;
  const perhaps = (index: number | null) => (index === null ? undefined : files[index]);
  return {
    recordings: found.recordings.map((one) => ({
      file: at(one.file),
      words: perhaps(one.words),
      sounds: one.sounds.map(at),
      cover: perhaps(one.cover),
    })),
    lonely: found.lonely.map(at),
  };
}
