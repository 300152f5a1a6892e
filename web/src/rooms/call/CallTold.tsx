import type { Call } from '@careful-seam/core/log/state';
import type { TraceView } from '@careful-seam/core/trace/traceCase';
import {
  foundWords,
  percentWords,
  placeWords,
  resultWords,
  testName,
} from '@careful-seam/words/sentences/callSentences';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { type LocalShower, useParts } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { TakeBack } from './TakeBack';

/** What was told and what was tried, each with a key that takes it back where it was mistyped. */
export function Told({ shower, call, view }: { shower: LocalShower; call: Call; view: TraceView }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const model = shower.state.geometry!.model;
  const zone = shower.state.created!.body.timeZone;
  return (
    <section aria-label={t('call.told')} className="flex flex-col gap-1">
      <h2 className="font-semibold text-soft">{t('call.told')}</h2>
      <p>{call.opened.body.words}</p>
      <ol className="text-sm">
        {call.opened.body.symptoms.map((s, k) => (
          <li key={k}>
            {k + 1}. {placeWords(t, model, s.place, unit)}, {t(`call.whens.${s.when}`)}, {t(`call.amounts.${s.amount}`)}
            {s.signs.map((sign) => `, ${t(`call.sign.${sign}`)}`)}
            {view.farFrom.includes(k) && <span className="block font-semibold text-hold">{t('call.farFrom')}</span>}
          </li>
        ))}
      </ol>
      {call.tests.length > 0 && (
        <ul data-testid="tested">
          {call.tests.map((e) => (
            <li key={e.id} className="flex items-center gap-2 border-hair border-t py-1">
              <span className="flex-1 leading-tight">
                {testName(t, model, e.body.test, unit)}:{' '}
                <span className="font-bold">{resultWords(t, model, e.body, unit)}</span>
                <span className="block text-soft text-sm">
                  {momentWords(Date.parse(e.observedAt), zone)}, {e.author.name}
                </span>
                {view.doesNotFit.includes(e.id) && (
                  <span className="block font-semibold text-hold text-sm">{t('call.doesNotFit')}</span>
                )}
              </span>
              {!call.closed && <TakeBack showerId={shower.id} entry={e} />}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** What a call came to, held against what tracing had said of it; it can be opened again. */
export function Ended({ shower, call, onAnew }: { shower: LocalShower; call: Call; onAnew: () => void }) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  const model = shower.state.geometry!.model;
  const closed = call.closed!;
  const { foretold } = closed.body;
  const mayTake = person?.role === 'manager' || person?.id === closed.author.id;
  return (
    <section aria-label={t('call.ended')} className="flex flex-col gap-2 border-ink border-l-4 pl-3">
      <h2 className="font-bold text-xl" data-testid="found">
        {foundWords(t, model, closed.body.found)}
      </h2>
      {foretold && (
        <p>
          {t('call.foretold', {
            place: foretold.place,
            of: foretold.of,
            share: percentWords(t, foretold.probability),
          })}
        </p>
      )}
      {closed.body.words && <p>{closed.body.words}</p>}
      <p className="text-soft text-sm">{t('call.learned')}</p>
      <p className="flex flex-wrap gap-2">
        {mayTake && (
          <button
            type="button"
            className="key"
            onClick={() =>
              void write(shower.id, 'correction', { target: closed.id, action: 'withdraw', reason: t('call.again') })
            }
          >
            {t('call.again')}
          </button>
        )}
        <button type="button" className="key" onClick={onAnew}>
          {t('call.another')}
        </button>
      </p>
    </section>
  );
}
