/** A button for an action of the list: its picture, its name, its key in the tooltip. */
import type { ReactNode } from "react";
import type { Player } from "../playback/player";
import { Tip } from "../ui/Tip";
import { hintOf } from "./action";
import { action } from "./index";

export function ActionButton(props: {
  id: string;
  player: Player | null;
  /** The word beside the picture; the picture alone where there is none. */
  text?: string;
  /** What it is called here, where the list's name says too little. */
  name?: string | undefined;
  icon?: ReactNode;
  disabled?: boolean;
  tabIndex?: number;
  className?: string;
}) {
  const { id, player, text, name, icon, disabled = false, tabIndex, className } = props;
  const one = action(id);
  const Icon = one.icon;
  return (
    <Tip text={hintOf(name ? { ...one, name } : one)}>
      <button
        type="button"
        aria-label={text ? undefined : (name ?? one.name)}
        disabled={disabled}
        tabIndex={tabIndex}
        className={
          className ??
          "inline-flex items-center gap-1 whitespace-nowrap rounded px-1.5 py-1 text-small hover:bg-tint disabled:opacity-45 disabled:hover:bg-transparent"
        }
        onClick={() => one.run(player)}
      >
        {icon ?? (Icon && <Icon size={14} aria-hidden />)}
        {text}
      </button>
    </Tip>
  );
}
