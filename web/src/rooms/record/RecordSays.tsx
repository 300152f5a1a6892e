import { orphansByReason } from '@careful-seam/contract/record/notCounted';
import { finishedAtMs } from '@careful-seam/core/checks/cureOfShower';
import { allEvidence, type ShowerState } from '@careful-seam/core/log/state';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { rankedDefects } from '@careful-seam/core/proof/shown/rankedDefects';
import type { Ledger } from '@careful-seam/core/proof/shown/seamLine';
import { toldTogether } from '@careful-seam/core/proof/shown/toldTogether';
import { notInspected } from '@careful-seam/core/proof/shown/waysOf';
import { showLength, showTotal } from '@careful-seam/core/units/length';
import { callLines } from '@careful-seam/words/sentences/callSentences';
import { datedWords } from '@careful-seam/words/sentences/moments';
import { defectKindLabel } from '@careful-seam/words/sentences/sentences';
import { placesName } from '@careful-seam/words/texts/names';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { usePreferences } from '../../ui/preferences';

/** A moment in the shower's own time, in the language that is spoken. */
const whenOf = (state: ShowerState) => (iso: string) =>
  datedWords(Date.parse(iso), state.created?.body.timeZone ?? 'UTC');

/** How much seam there is and how each part of it stands. */
export function RecordFigures({ figures, state }: Pick<Ledger, 'figures'> & { state: ShowerState }) {
  const { t } = useTranslation();
  const { together, of } = useMemo(() => toldTogether(allEvidence(state)), [state]);
  const { unit } = usePreferences();
  const { byState, totalMm } = figures;
  return (
    <section>
      <h2 className="font-bold">{t('record.ofSeam', { total: showTotal(totalMm, unit) })}</h2>
      <ul>
        {(['measured', 'seen', 'unseen', 'defect', 'covered'] as const)
          .filter((s) => byState[s] > 0.5)
          .map((s) => (
            <li key={s} className={s === 'defect' ? 'text-hold' : ''}>
              {showLength(byState[s], unit)} {t(`line.${s}`)}
            </li>
          ))}
      </ul>
      {figures.waterMm > 0.5 && (
        <p className="font-semibold text-water">
          {showLength(figures.waterMm, unit)} {t('line.water')}
        </p>
      )}
      {together > 0 && <p className="text-soft text-sm">{t('record.together', { count: together, of })}</p>}
      <p className="text-soft text-sm">{t('record.proves')}</p>
    </section>
  );
}

/** The stages that were begun, and who released them. */
export function RecordStages({ state }: { state: ShowerState }) {
  const { t } = useTranslation();
  const when = whenOf(state);
  const below = notInspected(state);
  const begun = state.rules!.method.stages.filter((s) => state.stages.get(s.key)?.begun);
  return (
    <section>
      <h2 className="font-bold">{t('record.stages')}</h2>
      {below.length > 0 && (
        <p className="border-cure border-l-4 pl-2">{t('record.notInspected', { stages: below.join(', ') })}</p>
      )}
      <ul>
        {begun.map((s) => {
          const { word, release, work } = state.stages.get(s.key)!;
          const text =
            word === 'released' && release
              ? t('record.releasedBy', { name: release.by, at: when(release.observedAt) })
              : word === 'contested'
                ? t('record.contested')
                : blockersOf(state, s.key).length === 0
                  ? t('record.shown')
                  : t('ladder.left', { count: blockersOf(state, s.key).length });
          return (
            <li key={s.key} className={word === 'released' ? '' : 'text-hold'}>
              <span className="font-semibold">{s.label}</span>: {text}
              {work.map((e) => (
                <span key={e.id} className="block text-sm text-soft">
                  {t('record.work', {
                    who: e.body.who,
                    at: when(new Date(finishedAtMs(state, e)).toISOString()),
                    told: when(e.observedAt),
                    by: e.author.name,
                  })}
                </span>
              ))}
              {release?.imported && <span className="block text-hold">{t('record.imported')}</span>}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** What the flood test came to. */
export function RecordFlood({
  id,
  flood,
  state,
}: {
  id: string;
  flood: NonNullable<ShowerState['flood']>;
  state: ShowerState;
}) {
  const { t } = useTranslation();
  const when = whenOf(state);
  return (
    <section>
      <h2 className="font-bold">{t('record.flood')}</h2>
      <p>
        {flood.end
          ? t('record.floodEnd', {
              name: flood.end.by,
              at: when(flood.end.at),
              verdict: t(`flood.verdict.${flood.end.verdict}`),
            })
          : t(flood.voided ? `flood.voided.${flood.voided.cause}` : 'record.floodRunning')}
      </p>
      <Link to={`/showers/${id}/flood`} className="key flex items-center justify-center">
        {t('flood.openEnded')}
      </Link>
    </section>
  );
}

/** Defects, what is not counted and why, whose word comes first, and the signatures. */
export function RecordDefects({ state }: { state: ShowerState }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const when = whenOf(state);
  const model = state.geometry!.model;
  const { book } = state.rules!;
  return (
    <>
      <section>
        <h2 className="font-bold">{t('record.defects')}</h2>
        {state.defects.size === 0 && <p className="text-soft">{t('record.noDefects')}</p>}
        {rankedDefects(state.defects.values()).map(({ worth, defects }) => (
          <div key={worth}>
            <h3 className="font-semibold text-soft">{t(`record.ranked.${worth}`)}</h3>
            <ul>
              {defects.map((d) => (
                <li key={d.id} className={d.closedAt ? '' : 'text-hold'}>
                  {placesName(t, model, d.places)}: {defectKindLabel(book, d.kind, d.check)}
                  {d.valueMm === null ? '' : ` ${showLength(d.valueMm, unit)}`};{' '}
                  {d.closedAt ? t('record.closed', { at: when(d.closedAt) }) : t('record.stillOpen')}
                </li>
              ))}
            </ul>
          </div>
        ))}
      </section>
      {state.calls.size > 0 && (
        <section>
          <h2 className="font-bold">{t('call.heading')}</h2>
          {[...state.calls.values()].map((call) => (
            <ul key={call.opened.id}>
              <li className="text-soft">{when(call.opened.observedAt)}</li>
              {callLines(t, model, call, unit).map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          ))}
        </section>
      )}
      {state.orphans.length > 0 && (
        <section>
          <h2 className="font-bold">{t('record.notCounted')}</h2>
          <ul>
            {orphansByReason(state.orphans).map(([why, count]) => (
              <li key={why} className="text-hold">
                {count} × {t(`orphan.${why}`)}
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className="text-soft text-sm">
        <h2 className="font-bold text-base text-ink">{t('record.deference')}</h2>
        {book.deference.map((line) => (
          <p key={line}>{line}</p>
        ))}
      </section>
      {state.signed.map((s) => (
        <p key={s.id} className="font-semibold">
          {t('record.signed', { name: s.body.name, at: when(s.observedAt), hash: s.body.ledgerHash.slice(0, 16) })}
          {state.arrivals.get(s.id)?.imported && <span className="block text-hold">{t('record.imported')}</span>}
        </p>
      ))}
    </>
  );
}
