import { useTranslation } from 'react-i18next';

/** Cells along one side of the lifted piece. */
export const GRID_SIDE = 8;

/** A lifted piece as a grid of cells. */
interface Props {
  /** Cells without contact, counted from the top left. */
  bare: readonly number[];
  /** Told of the cells that had no contact. */
  onBare: (bare: number[]) => void;
}

/** A lifted panel or tile as a grid: what is tapped had no mortar on it. The person looks; the grid counts. */
export function ContactGrid({ bare, onBare }: Props) {
  const { t } = useTranslation();
  return (
    <fieldset>
      <legend className="text-soft text-sm">{t('floorSum.contact.field.bare')}</legend>
      <div className="grid gap-px" style={{ gridTemplateColumns: `repeat(${GRID_SIDE}, minmax(0, 1fr))` }}>
        {Array.from({ length: GRID_SIDE * GRID_SIDE }, (_, cell) => cell).map((cell) => (
          <button
            type="button"
            key={cell}
            className={`min-h-12 border border-hair ${bare.includes(cell) ? 'bg-ink' : 'bg-leaf'}`}
            aria-label={t('floorSum.contact.cell', {
              row: Math.floor(cell / GRID_SIDE) + 1,
              column: (cell % GRID_SIDE) + 1,
            })}
            aria-pressed={bare.includes(cell)}
            onClick={() => onBare(bare.includes(cell) ? bare.filter((c) => c !== cell) : [...bare, cell])}
          />
        ))}
      </div>
    </fieldset>
  );
}
