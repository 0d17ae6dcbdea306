/** Sends a file with progress; XMLHttpRequest, because fetch tells no upload progress. */
import { asProblem, Problem } from "../api/client";
import type { HearingBody } from "./HearingFields";

export interface Upload<Made> {
  done: Promise<Made>;
  cancel: () => void;
}

/** Start sending to an address; `done` gives what was made of it, or a Problem. */
export function upload<Made>(
  address: string,
  file: File,
  choices: Partial<HearingBody> & { transcribe?: boolean },
  onProgress: (part: number) => void,
): Upload<Made> {
  const request = new XMLHttpRequest();
  const done = new Promise<Made>((resolve, reject) => {
    request.upload.onprogress = (event) => onProgress(event.loaded / Math.max(1, event.total));
    request.onload = () => {
      if (request.status < 300) resolve(request.response as Made);
      else reject(asProblem(request.response));
    };
    request.onerror = () =>
      reject(
        new Problem(
          "offline",
          "The upload broke off. Is Mortiser still running? Drop the file again.",
        ),
      );
    request.onabort = () => reject(new Problem("cancelled", "Stopped."));
    const query = new URLSearchParams({ name: file.name });
    for (const [key, value] of Object.entries(choices)) {
      if (value !== null && value !== undefined) query.set(key, String(value));
    }
    request.open("POST", `${address}?${query}`);
    request.responseType = "json";
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.send(file);
  });
  return { done, cancel: () => request.abort() };
}
