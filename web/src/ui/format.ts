/** Times and sizes as people read them. */

/** m:ss.t, or m:ss.mmm with `fine`; hours only where there are any. */
export function clock(us: number, fine = false): string {
  const ms = Math.round(us / 1_000);
  const seconds = Math.floor(ms / 1_000);
  const rest = fine ? String(ms % 1_000).padStart(3, "0") : String(Math.floor((ms % 1_000) / 100));
  return `${minutes(seconds)}.${rest}`;
}

/** m:ss, or h:mm:ss. */
export function length(us: number): string {
  return minutes(Math.round(us / 1e6));
}

function minutes(total: number): string {
  const seconds = String(total % 60).padStart(2, "0");
  const hours = Math.floor(total / 3_600);
  const whole = Math.floor(total / 60) % 60;
  return hours ? `${hours}:${String(whole).padStart(2, "0")}:${seconds}` : `${whole}:${seconds}`;
}

export function bytes(size: number): string {
  if (size < 1e6) return `${Math.max(1, Math.round(size / 1e3))} kB`;
  return size < 1e9 ? `${(size / 1e6).toFixed(1)} MB` : `${(size / 1e9).toFixed(2)} GB`;
}

export function timeLeft(seconds: number | null): string {
  if (seconds === null) return "working out the time left";
  if (seconds < 60) return `about ${Math.max(1, Math.round(seconds))} s left`;
  return `about ${Math.round(seconds / 60)} min left`;
}

export function ago(us: number): string {
  const minutes = Math.round((Date.now() - us / 1_000) / 60_000);
  if (minutes < 1) return "just now";
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 24 * 60) return `${Math.round(minutes / 60)} h ago`;
  return new Date(us / 1_000).toLocaleDateString();
}

/** A time somebody typed to look at (1:02.5, 75, 1:00:03) in µs; null where it is none. */
export function timeTyped(text: string): number | null {
  const parts = text.trim().replace(",", ".").split(":");
  if (parts.length > 3 || parts.some((part) => !/^\d+(\.\d*)?$/.test(part))) return null;
  const seconds = parts.reduce((total, part) => total * 60 + Number(part), 0);
  return Math.round(seconds * 1e6);
}
