/** A few choices in a row, one of them chosen. */
import { RadioGroup } from "radix-ui";

export function Segments<T extends string | number>(props: {
  label: string;
  choices: readonly { value: T; text: string; label?: string }[];
  chosen: T;
  onChoose: (value: T) => void;
}) {
  const { label, choices, chosen, onChoose } = props;
  return (
    <RadioGroup.Root
      aria-label={label}
      orientation="horizontal"
      value={String(chosen)}
      onValueChange={(text) => {
        const found = choices.find((one) => String(one.value) === text);
        if (found) onChoose(found.value);
      }}
      className="flex w-fit overflow-hidden rounded border border-line"
    >
      {choices.map(({ value, text, label: name }) => (
        <RadioGroup.Item
          key={value}
          value={String(value)}
          aria-label={name}
          className={`h-7 border-l border-line px-2.5 first:border-l-0 focus-visible:-outline-offset-2 ${
            value === chosen ? "bg-chalk text-white" : "bg-card hover:bg-tint"
          }`}
        >
          {text}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
