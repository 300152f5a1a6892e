import { type AgreementLine, type BlindLookRow, EYES_BY, EyesAnswer } from '@careful-seam/contract/api/blind';
import { agreementWords, eyesSentences } from '@careful-seam/words/sentences/crewSentences';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useChange, useList } from '../../tablet/useList';
import { type Column, DataTable } from '../../ui/DataTable';
import { SelectField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';
import { AskBlindLook } from './AskBlindLook';
import { useAsked } from './asked';
import { DifferMap } from './DifferMap';
import { Page } from './Page';

/** The columns of agreement. */
function useColumns(by: (typeof EYES_BY)[number]): Column<AgreementLine>[] {
  const { t, i18n } = useTranslation();
  const { language } = i18n;
  return useMemo((): Column<AgreementLine>[] => {
    return [
      { key: 'name', label: t(`across.eyes.by.${by}`), by: (l) => l.name, cell: (l) => l.name },
      { key: 'places', label: t('across.eyes.places'), by: (l) => l.places, cell: (l) => l.places },
      { key: 'same', label: t('across.eyes.same'), by: (l) => l.same, cell: (l) => l.same },
      {
        key: 'differ',
        label: t('across.eyes.differ'),
        by: (l) => l.places - l.same,
        cell: (l) => l.places - l.same,
      },
      {
        key: 'kappa',
        label: t('across.eyes.kappa'),
        by: (l) => l.kappa ?? -2,
        cell: (l) => agreementWords(t, language, l),
      },
    ];
  }, [t, language, by]);
}

/** What was asked so far: a row opens where the two differed, or is taken back while it waits. */
function useLookColumns(onShow: (id: string) => void, onEnd: (id: string) => void): Column<BlindLookRow>[] {
  const { t, i18n } = useTranslation();
  const { language } = i18n;
  return useMemo(
    (): Column<BlindLookRow>[] => [
      {
        key: 'shower',
        label: t('across.eyes.shower'),
        by: (l) => l.shower,
        cell: (l) => `${l.shower}, ${l.job}`,
      },
      {
        key: 'label',
        label: t('across.eyes.question'),
        by: (l) => l.label,
        cell: (l) => `${l.stageLabel}: ${l.label}`,
      },
      {
        key: 'who',
        label: t('across.eyes.who'),
        by: (l) => l.first,
        cell: (l) => t('across.eyes.two', { first: l.first, second: l.second }),
      },
      {
        key: 'at',
        label: t('across.eyes.at'),
        by: (l) => l.askedAt,
        cell: (l) => new Date(l.askedAt).toLocaleDateString(language),
      },
      {
        key: 'stands',
        label: t('across.eyes.stands'),
        by: (l) => l.waitsFor.length,
        cell: (l) =>
          l.places === null ? (
            <span className="flex flex-wrap items-center gap-2">
              {t('across.eyes.waitsFor', { names: l.waitsFor.join(', ') })}
              <button type="button" className="key whitespace-nowrap" onClick={() => onEnd(l.id)}>
                {t('across.eyes.end')}
              </button>
            </span>
          ) : (
            <button type="button" className="key whitespace-nowrap" onClick={() => onShow(l.id)}>
              {t('across.eyes.show', { count: l.places.filter((p) => p.first !== p.second).length })}
            </button>
          ),
      },
    ],
    [t, language, onShow, onEnd],
  );
}

/** Do inspectors see the same? Two answer the same places blind; what one said is told to nobody until the other has too. */
export function EyesPage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const { language } = i18n;
  const by = EYES_BY.find((b) => b === asked.get('by')) ?? 'group';
  const path = `/api/across/eyes?${asked.query(['by', 'from', 'to'])}`;
  const answer = useList(EyesAnswer, path);
  const { change, problem } = useChange([path]);
  const columns = useColumns(by);
  const lookColumns = useLookColumns(
    (id) => asked.set({ look: id }),
    (id) => void change(z.object({}), 'DELETE', `/api/blind-looks/${id}`),
  );
  return (
    <Loaded answer={answer}>
      {(data) => {
        const shown = data.looks.find((l) => l.id === asked.get('look') && l.places !== null);
        return (
          <Page
            says={eyesSentences(t, language, data.all)}
            behind={0}
            asked={asked}
            fields={['from', 'to']}
            more={
              <>
                <SelectField
                  label={t('across.eyes.apart')}
                  options={EYES_BY.map((id) => ({ id, label: t(`across.eyes.by.${id}`) }))}
                  value={by}
                  onChange={(e) => asked.set({ by: e.target.value })}
                />
                <AskBlindLook paths={[path]} language={language.startsWith('es') ? 'es' : 'en'} />
              </>
            }
            note={t('across.eyes.note')}
          >
            <Problem text={problem} />
            <div
              className={`grid h-full min-h-0 gap-3 max-lg:grid-cols-1 ${shown ? 'grid-cols-[1fr_1fr]' : 'grid-cols-1'}`}
            >
              <div className="flex min-h-0 flex-col gap-3 overflow-y-auto max-lg:overflow-visible">
                <DataTable
                  label={t('across.eyes.table')}
                  rows={data.lines}
                  columns={columns}
                  rowId={(l) => l.id}
                  empty={t('across.eyes.noLines')}
                />
                <DataTable
                  label={t('across.eyes.looks')}
                  rows={data.looks}
                  columns={lookColumns}
                  rowId={(l) => l.id}
                  empty={t('across.eyes.noLooks')}
                />
              </div>
              {shown && <DifferMap key={shown.id} look={shown} />}
            </div>
          </Page>
        );
      }}
    </Loaded>
  );
}
