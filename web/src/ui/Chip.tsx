/** A small button in a row of choices, with its key where it has one. */
export function Chip(props: {
  onClick: () => void;
  children: string;
  hint?: string | undefined;
  /** Its key does nothing just now; its place is kept, so that nothing moves. */
  idle?: boolean;
  quiet?: boolean;
}) {
  return (
    <button
      type="button"
      className={`inline-flex items-center gap-1.5 rounded px-2 py-0.5 ${
        props.quiet
          ? "border border-line hover:border-dim"
          : "bg-tint hover:bg-chalk hover:text-white"
      }`}
      onClick={props.onClick}
    >
      {props.children}
      {props.hint && (
        <kbd className={`tabular text-[11px] opacity-70 ${props.idle ? "invisible" : ""}`}>
          {props.hint}
        </kbd>
      )}
    </button>
  );
}
