import { RadioGroup } from 'radix-ui';
import { useId } from 'react';

/** What can be chosen, and what is. */
interface Props<T extends string | number> {
  /** What it asks for, in words. */
  label: string;
  /** The one that is chosen; null while nobody has chosen. */
  value: T | null;
  /** What can be chosen, in its order. */
  options: readonly { key: T; label: string; disabled?: boolean }[];
  /** Told of another one. */
  onChoose: (key: T) => void;
  /** One below the other, where each is a sentence. */
  isList?: boolean;
}

/** One of a few, as keys side by side: a tap or an arrow key chooses, and Tab goes past all of them at once. */
export function Choice<T extends string | number>({ label, value, options, onChoose, isList }: Props<T>) {
  const id = useId();
  // Radix knows words alone; a figure comes back as what it was.
  const chosen = (text: string) => options.find((o) => String(o.key) === text);
  return (
    <div className="flex flex-col gap-1">
      <span id={id} className="text-soft text-sm">
        {label}
      </span>
      <RadioGroup.Root
        aria-labelledby={id}
        // Within a form each key has a hidden field beside it, which must not lie somewhere else on the page.
        className={`relative flex ${isList ? 'flex-col gap-1' : 'flex-wrap gap-1.5'}`}
        value={value === null ? '' : String(value)}
        onValueChange={(text) => {
          const option = chosen(text);
          if (option) onChoose(option.key);
        }}
      >
        {options.map((o) => (
          <RadioGroup.Item
            key={o.key}
            value={String(o.key)}
            disabled={o.disabled ?? false}
            className={`key grow px-2 ${isList ? 'py-1 text-left' : ''}`}
          >
            {o.label}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </div>
  );
}
