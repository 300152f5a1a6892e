import type { LabelFigure, ProductLine } from '@careful-seam/core/rules/productLine';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { LineForm } from './LineForm';
import { showLabel } from './labelFigures';

/** The products that the firm uses: what their labels say, and what goes with them. Part of the rule book's draft. */
export function ProductLines({ draft, onChange }: { draft: RuleBook; onChange: (draft: RuleBook) => void }) {
  const { t } = useTranslation();
  const [open, setOpen] = useState<{ line: ProductLine | null } | null>(null);
  const { productLines: lines } = draft;
  const keep = (line: ProductLine) =>
    onChange({
      ...draft,
      productLines: lines.some((l) => l.id === line.id)
        ? lines.map((l) => (l.id === line.id ? line : l))
        : [...lines, line],
    });
  const remove = (id: string) =>
    onChange({
      ...draft,
      productLines: lines
        .filter((l) => l.id !== id)
        .map((l) => ({ ...l, goesWith: l.goesWith.filter((g) => g.line !== id) })),
    });
  const told = (line: ProductLine) =>
    Object.entries(line.figures)
      .map(([figure, range]) => {
        const [least, most] = [range?.least, range?.most].map((v) => showLabel(figure as LabelFigure, v));
        return `${t(`lines.figure.${figure}`).replace(/ \(.*\)$/, '')} ${[least, most].filter(Boolean).join(' – ')}`;
      })
      .join('; ');
  return (
    <section className="flex flex-col gap-2" data-testid="product-lines">
      <p className="text-soft">{t('lines.means')}</p>
      {lines.length === 0 && <p>{t('lines.none')}</p>}
      <ul>
        {lines.map((line) => (
          <li key={line.id} className="flex items-start gap-2 border-hair border-b py-1.5">
            <p className="flex-1 leading-tight">
              <span className="font-semibold">{line.name}</span> <span className="text-soft">{line.maker}</span>
              <span className="block text-sm">
                {t(`lineKind.${line.kind}`)}
                {line.mortarKind ? `, ${t(`lines.mortar.${line.mortarKind}`)}` : ''}. {told(line)}
              </span>
              <span className="block text-soft text-sm">{line.readFrom}</span>
            </p>
            <button type="button" className="key px-2 text-sm" onClick={() => setOpen({ line })}>
              {t('lines.change', { name: line.name })}
            </button>
            <button
              type="button"
              className="key px-2 text-sm"
              aria-label={t('lines.remove', { name: line.name })}
              onClick={() => remove(line.id)}
            >
              {t('rules.out')}
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="key self-start" onClick={() => setOpen({ line: null })}>
        {t('lines.new')}
      </button>
      {open && <LineForm draft={draft} line={open.line} onKeep={keep} onClose={() => setOpen(null)} />}
    </section>
  );
}
