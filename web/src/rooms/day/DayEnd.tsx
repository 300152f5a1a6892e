import { type DayEnd as DayEndOf, dayEnd } from '@careful-seam/core/plan/dayEnd';
import { defectStep, dueAtMs } from '@careful-seam/core/proof/holds/defectLife';
import { dayWords } from '@careful-seam/words/sentences/moments';
import { defectKindLabel } from '@careful-seam/words/sentences/sentences';
import { placesName } from '@careful-seam/words/texts/names';
import { TZDate } from '@date-fns/tz';
import { addDays, startOfDay } from 'date-fns';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { type LocalShower, useParts } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';

/** A shower at the end of the day. */
interface Row {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** What was done on it today and what is left. */
  end: DayEndOf;
}

/** What was done on a shower today, in a few lines. */
function ShowerEnd({ shower, end }: Row) {
  const { t } = useTranslation();
  const { state } = shower;
  const label = (key: string) => state.rules?.method.stages.find((s) => s.key === key)?.label ?? key;
  const names = (keys: readonly string[]) => [...new Set(keys)].map(label).join(', ');
  return (
    <li className="border-hair border-b py-1.5">
      <Link className="inline-flex min-h-12 items-center gap-2 text-ink" to={`/showers/${shower.id}`}>
        <span className="font-bold">{state.created?.body.name}</span>
        <span className="text-soft text-sm">{state.created?.body.job}</span>
      </Link>
      {end.work.length > 0 && <p>{t('dayEnd.built', { list: names(end.work.map((w) => w.body.stage)) })}</p>}
      {end.unseenStages.length > 0 && (
        <p className="font-semibold text-cure">{t('dayEnd.unseen', { list: names(end.unseenStages) })}</p>
      )}
      {end.asked.length > 0 && (
        <p className="text-cure">{t('dayEnd.asked', { list: names(end.asked.map((a) => a.body.stage)) })}</p>
      )}
      {end.open.map((d) => (
        <p key={d.id} className="text-hold">
          {placesName(t, state.geometry!.model, d.places, 2)}: {defectKindLabel(state.rules!.book, d.kind, d.check)}.{' '}
          {t(`step.${defectStep(d)}`)}
          {dueAtMs(d) !== null && ` (${dayWords(dueAtMs(d)!, state.created?.body.timeZone)})`}
        </p>
      ))}
    </li>
  );
}

/** The end of the day, crew by crew: what was built, what of it nobody has signed off, who must redo what and by when. */
export function DayEnd() {
  const { t } = useTranslation();
  const { showers, crews } = useParts('showers', 'crews');
  const [open, setOpen] = useState(false);
  const rows = (): Map<string, Row[]> => {
    const byCrew = new Map<string, Row[]>();
    for (const shower of showers.values()) {
      const created = shower.state.created?.body;
      if (!created || !shower.state.geometry) continue;
      const day = startOfDay(new TZDate(Date.now(), created.timeZone));
      const end = dayEnd(shower.state, day.getTime(), addDays(day, 1).getTime());
      if (end.work.length + end.released.length + end.asked.length + end.open.length === 0) continue;
      byCrew.set(created.crewId, [...(byCrew.get(created.crewId) ?? []), { shower, end }]);
    }
    return byCrew;
  };
  const crewName = (id: string) => crews.find((c) => c.id === id)?.name ?? id;
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {t('dayEnd.open')}
      </button>
      {open && (
        <Sheet title={t('dayEnd.title')} onClose={() => setOpen(false)}>
          {rows().size === 0 && <p className="text-soft">{t('dayEnd.nothing')}</p>}
          {[...rows()].map(([crew, mine]) => (
            <section key={crew}>
              <h3 className="font-bold text-lg">{crewName(crew)}</h3>
              <ul>
                {mine.map((row) => (
                  <ShowerEnd key={row.shower.id} {...row} />
                ))}
              </ul>
            </section>
          ))}
        </Sheet>
      )}
    </>
  );
}
