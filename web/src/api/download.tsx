/** Small files the server makes when asked: saved by the browser, or a message why not. */
import type { ButtonHTMLAttributes } from "react";
import { attempt } from "../ui/notice";
import { asProblem, Problem } from "./client";

/** The file name that a Content-Disposition header gives (RFC 6266); empty where none can be read. */
export function nameOf(header: string | null): string {
  const whole = /filename\*=UTF-8''([^;]+)/i.exec(header ?? "")?.[1];
  if (whole === undefined) return /filename="([^"]*)"/.exec(header ?? "")?.[1] ?? "";
  try {
    return decodeURIComponent(whole);
  } catch {
    return "";
  }
}

/** Fetch a file and save it. Throws the Problem the server answers with. */
export async function download(url: string): Promise<void> {
  const answer = await fetch(url).catch(() => {
    throw new Problem("offline", "Mortiser does not answer. Is it still running?");
  });
  if (!answer.ok) throw asProblem(await answer.json().catch(() => null));
  const link = document.createElement("a");
  link.href = URL.createObjectURL(await answer.blob());
  link.download = nameOf(answer.headers.get("content-disposition"));
  link.click();
  // Saving begins after the click: the address must not be gone by then.
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** A button that saves a file; where the server has none, it says why and stays on the page. */
export function FileButton({
  url,
  ...props
}: ButtonHTMLAttributes<HTMLButtonElement> & { url: string }) {
  return <button type="button" {...props} onClick={() => void attempt(download(url))} />;
}
