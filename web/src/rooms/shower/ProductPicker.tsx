import type { MixedParts } from '@careful-seam/core/rules/mixedParts';
import type { ProductLine } from '@careful-seam/core/rules/productLine';
import type { Method } from '@careful-seam/core/rules/ruleBook';
import { useTranslation } from 'react-i18next';

/** The part that a product is chosen for. */
interface Props {
  /** The part of the kit that it is for. */
  part: Method['kit'][number];
  /** Product lines of the book for the methods in use. */
  lines: readonly ProductLine[];
  /** Ids of the lines that are in use. */
  chosen: readonly string[];
  /** Told of other lines. */
  onChoose: (chosen: string[]) => void;
}

/** Which of the firm's products this part of the kit is. */
export function ProductPicker({ part, lines, chosen, onChoose }: Props) {
  const fitting = lines.filter((line) => line.kind === part.line);
  if (fitting.length === 0) return null;
  return (
    <div className="flex flex-wrap gap-1.5">
      {fitting.map((line) => (
        <button
          type="button"
          key={line.id}
          className="key px-2 text-sm"
          aria-pressed={chosen.includes(line.id)}
          onClick={() =>
            onChoose(chosen.includes(line.id) ? chosen.filter((c) => c !== line.id) : [...chosen, line.id])
          }
        >
          {line.name}
        </button>
      ))}
    </div>
  );
}

/** What can be said of the products together: each pair that a paper or a maker does not carry, in a sentence. */
export function MixedTold({ mixed }: { mixed: MixedParts }) {
  const { t } = useTranslation();
  return (
    <ul data-testid="mixed" className="flex flex-col gap-1">
      {mixed.pairs.map(({ a, b, together, paper }) => (
        <li
          key={`${a.id} ${b.id}`}
          className={`border-l-4 pl-2 text-sm ${
            together === 'warranty-lost' || together === 'wrong-mortar'
              ? 'border-hold text-hold'
              : together === 'unproved'
                ? 'border-cure'
                : 'border-hair'
          }`}
        >
          {t(`together.${together}`, { a: a.name, b: b.name, paper })}
        </li>
      ))}
      {mixed.forNoMethod.map((line) => (
        <li key={line.id} className="border-hold border-l-4 pl-2 text-hold text-sm">
          {t('together.noMethod', { name: line.name })}
        </li>
      ))}
    </ul>
  );
}
