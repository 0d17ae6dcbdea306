/** A value that is changed by asking the server. */
import { useRef, useState } from "react";

/**
 * What was asked for last, until the answer is there, and the way to ask for something else. So two
 * quick changes build upon one another, not both upon what was known before the first.
 */
export function useAsked<Value>(
  known: Value,
  ask: (value: Value) => Promise<unknown>,
): [Value, (value: Value) => void] {
  const [asked, setAsked] = useState<{ value: Value } | null>(null);
  const newest = useRef(0);
  const change = (value: Value) => {
    newest.current += 1;
    const mine = newest.current;
    setAsked({ value });
    void ask(value).finally(() => mine === newest.current && setAsked(null));
  };
  return [asked ? asked.value : known, change];
}
