/** The tabs of a stage's Tray, each with how much is left in it. */
import { Tabs } from "radix-ui";

export function TrayTabs(props: {
  label: string;
  names: readonly string[];
  counts: Partial<Record<string, number>>;
}) {
  const { label, names, counts } = props;
  return (
    <Tabs.List
      aria-label={label}
      className="-mx-4 -mt-4 mb-4 flex border-b border-line max-[1119px]:pr-8"
    >
      {names.map((name) => (
        <Tabs.Trigger
          key={name}
          value={name}
          className="flex-auto border-b-2 px-1 border-transparent py-2 text-[13px] text-dim hover:text-ink data-[state=active]:border-chalk data-[state=active]:font-bold data-[state=active]:text-ink"
        >
          {name}
          {counts[name] ? <span className="tabular ml-1 text-clay">{counts[name]}</span> : null}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}
