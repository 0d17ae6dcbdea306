/** Sends a file with progress; XMLHttpRequest, because fetch tells no upload progress. */
import { asProblem, Problem } from "../api/client";
import type { HearingBody } from "./HearingFields";

export interface Upload {
  done: Promise<number>;
  cancel: () => void;
}

/** Start sending; `done` gives the new project's id, or a Problem. */
export function upload(
  file: File,
  choices: HearingBody & { transcribe: boolean },
  onProgress: (part: number) => void,
): Upload {
  const request = new XMLHttpRequest();
  const done = new Promise<number>((resolve, reject) => {
    request.upload.onprogress = (event) => onProgress(event.loaded / Math.max(1, event.total));
    request.onload = () => {
      if (request.status === 201) resolve(request.response.project_id as number);
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
    request.open("POST", `/api/projects?${query}`);
    request.responseType = "json";
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.send(file);
  });
  return { done, cancel: () => request.abort() };
}
