/** A few choices in a row, one of them chosen. */
export function Segments<T extends string | number>(props: {
  label: string;
  choices: readonly { value: T; text: string; label?: string }[];
  chosen: T;
  onChoose: (value: T) => void;
}) {
  const { label, choices, chosen, onChoose } = props;
  return (
    <div
      role="radiogroup"
      aria-label={label}
      className="flex overflow-hidden rounded border border-line"
    >
      {choices.map(({ value, text, label: name }) => (
        // biome-ignore lint/a11y/useSemanticElements: buttons in a row, one of them chosen
        <button
          key={value}
          type="button"
          role="radio"
          aria-checked={value === chosen}
          aria-label={name}
          className={`h-7 border-l border-line px-2.5 first:border-l-0 ${
            value === chosen ? "bg-chalk text-white" : "bg-card hover:bg-tint"
          }`}
          onClick={() => onChoose(value)}
        >
          {text}
        </button>
      ))}
    </div>
  );
}
