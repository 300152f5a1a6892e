import { showLength } from '@careful-seam/core/units/length';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type LocalShower, useParts } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';

/** A shower that follows a type, while nothing was built or looked at: a change of the type is offered, never taken by itself. */
export function ChangedType({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { showers, write } = useParts('showers', 'write');
  const [open, setOpen] = useState(false);
  const own = shower.state.geometry;
  const type = own?.from && showers.get(own.from.shower);
  const theirs = type?.state.geometry;
  const begun = [...shower.state.stages.values()].some((s) => s.begun);
  if (!own?.from || !type || !theirs || begun || theirs.version <= own.from.version) return null;
  const name = type.state.created?.body.name ?? '';
  const take = () => {
    const from = { shower: own.from!.shower, version: theirs.version };
    void write(shower.id, 'geometry-set', {
      version: own.version + 1,
      geometry: theirs.model.geometry,
      ...(theirs.drawing ? { drawing: theirs.drawing } : {}),
      from,
    });
    setOpen(false);
  };
  const total = (g: typeof theirs) => showLength(g.model.totals.seamMm, unit);
  return (
    <>
      <button type="button" className="key px-2 text-sm" onClick={() => setOpen(true)}>
        {t('new.typeChanged')}
      </button>
      {open && (
        <Sheet title={t('new.typeTitle', { name })} onClose={() => setOpen(false)}>
          <p>{t('new.typeMeans', { name, from: total(own), to: total(theirs) })}</p>
          <div className="flex gap-2">
            <button type="button" className="key key-main" onClick={take}>
              {t('new.typeTake')}
            </button>
            <button type="button" className="key" onClick={() => setOpen(false)}>
              {t('new.typeKeep')}
            </button>
          </div>
        </Sheet>
      )}
    </>
  );
}
