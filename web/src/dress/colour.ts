/** Colours as four numbers, as hex, and those used last. */
export type Colour = [number, number, number, number];

export function hex(colour: readonly number[]): string {
  return `#${colour
    .slice(0, 3)
    .map((value) => value.toString(16).padStart(2, "0"))
    .join("")}`;
}

/** A hex text (three or six digits, with or without #) as numbers; null when it is none. */
export function fromHex(text: string): [number, number, number] | null {
  const digits = text.trim().replace(/^#/, "");
  const six = digits.length === 3 ? [...digits].map((one) => one + one).join("") : digits;
  if (!/^[0-9a-f]{6}$/i.test(six)) return null;
  const bits = Number.parseInt(six, 16);
  return [bits >> 16, (bits >> 8) & 255, bits & 255];
}

export function deeper([r, g, b, a]: Colour): Colour {
  return [Math.round(r * 0.7), Math.round(g * 0.7), Math.round(b * 0.7), a];
}

const RECENT = "mortiser.recent-colours";
const MOST_RECENT = 8;

export function recentColours(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(RECENT) ?? "[]");
    return Array.isArray(kept) ? kept.filter((one) => fromHex(String(one))).map(String) : [];
  } catch {
    return [];
  }
}

export function noteColour(colour: string): void {
  const next = [colour, ...recentColours().filter((one) => one !== colour)].slice(0, MOST_RECENT);
  localStorage.setItem(RECENT, JSON.stringify(next));
}
