import { useTranslation } from 'react-i18next';

/** A value that one tap keeps. */
export interface ValueKey {
  /** In its unit. */
  value: number;
  /** As it stands on its key. */
  text: string;
  /** The same with its unit. */
  name: string;
  /** It is outside the limit. */
  fails: boolean;
}

/** Keys that keep a value with one tap each. */
interface Props {
  /** What they are, for a screen reader. */
  label: string;
  /** The values, in the order in which they stand. */
  keys: readonly ValueKey[];
  /** A tap was taken just now: the keys rest. */
  resting: boolean;
  /** Told of the value that was tapped. */
  onValue: (key: ValueKey) => void;
}

/** A row of values: each is kept with one tap; those outside the limit are outlined as what holds. */
export function ValueKeys({ label, keys, resting, onValue }: Props) {
  const { t } = useTranslation();
  if (keys.length === 0) return null;
  return (
    <fieldset className="flex gap-1" aria-label={label} data-testid="value-keys">
      {keys.map((key) => (
        <button
          type="button"
          key={key.text}
          className={`key min-w-0 flex-1 px-0 text-lg ${key.fails ? 'key-hold border-dashed' : ''}`}
          aria-disabled={resting}
          aria-label={key.fails ? t('pad.fails', { value: key.name }) : key.name}
          onClick={() => onValue(key)}
        >
          {key.text}
        </button>
      ))}
    </fieldset>
  );
}
