import type { Body } from '@careful-seam/core/log/bodies';
import { changesFor } from '@careful-seam/core/proof/shown/compareBooks';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNewestBook } from '../tablet/newestBook';
import { type LocalShower, useStore } from '../tablet/store';
import { Sheet } from '../ui/Sheet';
import { DifferenceList } from './DifferenceList';

/** What is written when a shower takes a later version: the same method, parts and beginning. */
export function pinnedTo(shower: LocalShower, book: RuleBook): Body<'rules-pinned'> {
  const { method, parts, variants, beginsAt, lines } = shower.state.rules!.pinned;
  return {
    ruleBook: book.id,
    version: book.version,
    method,
    ...(parts ? { parts } : {}),
    ...(variants ? { variants: [...variants] } : {}),
    ...(beginsAt ? { beginsAt } : {}),
    ...(lines ? { lines: [...lines] } : {}),
  };
}

/** A later rule book that asks something else of what is not released yet: taken by choice, never by itself. */
export function OfferedBook({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const newest = useNewestBook();
  const write = useStore((s) => s.write);
  const [open, setOpen] = useState(false);
  const changes = newest ? changesFor(shower.state, newest) : [];
  if (!newest || changes.length === 0) return null;
  const take = () => {
    void write(shower.id, 'rules-pinned', pinnedTo(shower, newest));
    setOpen(false);
  };
  return (
    <>
      <button type="button" className="key px-2 text-sm" onClick={() => setOpen(true)}>
        {t('rules.offered', { version: newest.version, count: changes.length })}
      </button>
      {open && (
        <Sheet title={t('rules.offeredTitle', { version: newest.version })} onClose={() => setOpen(false)}>
          <p>{t('rules.offeredMeans', { version: shower.state.rules!.book.version })}</p>
          <DifferenceList differences={changes} />
          <div className="flex gap-2">
            <button type="button" className="key key-main" onClick={take}>
              {t('rules.take', { version: newest.version })}
            </button>
            <button type="button" className="key" onClick={() => setOpen(false)}>
              {t('rules.keep', { version: shower.state.rules!.book.version })}
            </button>
          </div>
        </Sheet>
      )}
    </>
  );
}
