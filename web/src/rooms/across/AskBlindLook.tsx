import { BlindChoices } from '@careful-seam/contract/api/blind';
import { FoundShowers } from '@careful-seam/contract/api/office';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useChange, useList } from '../../tablet/useList';
import { Choice } from '../../ui/Choice';
import { SelectField, TextField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';
import { Sheet } from '../../ui/Sheet';

/** Showers shown for what is typed. */
const SHOWN = 8;
/** A shower that was found. */
type Found = z.infer<typeof FoundShowers>['showers'][number];

/** Which shower: found by its name or job. */
function ShowerChoice({ onChoose }: { onChoose: (shower: Found) => void }) {
  const { t } = useTranslation();
  const [typed, setTyped] = useState('');
  const answer = useList(FoundShowers, `/api/showers/search?q=${encodeURIComponent(typed.trim())}`);
  return (
    <>
      <TextField label={t('jobs.search')} type="search" value={typed} onChange={(e) => setTyped(e.target.value)} />
      {typed.trim() !== '' &&
        (answer.data?.showers ?? []).slice(0, SHOWN).map((shower) => (
          <button key={shower.id} type="button" className="key text-left" onClick={() => onChoose(shower)}>
            <span className="font-bold">{shower.name}</span> {shower.job}
          </button>
        ))}
      {typed.trim() !== '' && answer.data?.showers.length === 0 && <p className="text-soft">{t('jobs.notFound')}</p>}
      {answer.isError && <p className="text-cure">{t('find.offline')}</p>}
    </>
  );
}

/** Which question of a shower, and which two are asked. */
function Question({ shower, asked, language, onAsked }: QuestionProps) {
  const { t } = useTranslation();
  const answer = useList(BlindChoices, `/api/showers/${shower.id}/blind-looks?lang=${language}`);
  const { change, problem, busy } = useChange(asked);
  const [question, setQuestion] = useState<string | null>(null);
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  return (
    <Loaded answer={answer}>
      {({ questions, inspectors }) => {
        const people = inspectors.map(({ id, name }) => ({ id, label: name }));
        const chosen = questions.find((q) => `${q.stage} ${q.check}` === question);
        const ask = async () => {
          const body = { shower: shower.id, stage: chosen?.stage, check: chosen?.check, first, second };
          if (await change(z.object({ id: z.uuid() }), 'POST', '/api/blind-looks', body)) onAsked();
        };
        if (questions.length === 0) return <p>{t('across.eyes.nothingToAsk')}</p>;
        return (
          <>
            <Choice
              isList
              label={t('across.eyes.question')}
              value={question}
              options={questions.map((q) => ({
                key: `${q.stage} ${q.check}`,
                label: t('across.eyes.choice', { stage: q.stageLabel, label: q.label, count: q.places }),
              }))}
              onChoose={setQuestion}
            />
            <div className="grid grid-cols-2 gap-2">
              <SelectField
                label={t('across.eyes.first')}
                none=""
                options={people}
                value={first}
                onChange={(e) => setFirst(e.target.value)}
              />
              <SelectField
                label={t('across.eyes.second')}
                none=""
                options={people}
                value={second}
                onChange={(e) => setSecond(e.target.value)}
              />
            </div>
            <p className="text-soft">{t('across.eyes.hint')}</p>
            <Problem text={problem} />
            <button
              type="button"
              className="key key-main"
              disabled={busy || !chosen || first === '' || second === ''}
              onClick={() => void ask()}
            >
              {t('across.eyes.askNow')}
            </button>
          </>
        );
      }}
    </Loaded>
  );
}
/** What is asked of which shower. */
interface QuestionProps {
  /** The shower. */
  shower: Found;
  /** Paths that are read anew when it was asked. */
  asked: readonly string[];
  /** Language of the labels. */
  language: 'en' | 'es';
  /** Told when it was asked. */
  onAsked: () => void;
}

/** Asks two inspectors the same of one shower, each without the other. */
export function AskBlindLook({ paths, language }: { paths: readonly string[]; language: 'en' | 'es' }) {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  const [shower, setShower] = useState<Found | null>(null);
  const close = () => {
    setOpen(false);
    setShower(null);
  };
  return (
    <>
      <button type="button" className="key key-main" onClick={() => setOpen(true)}>
        {t('across.eyes.ask')}
      </button>
      {open && (
        <Sheet title={shower ? `${shower.name}, ${shower.job}` : t('across.eyes.ask')} onClose={close}>
          {shower ? (
            <Question shower={shower} asked={paths} language={language} onAsked={close} />
          ) : (
            <ShowerChoice onChoose={setShower} />
          )}
        </Sheet>
      )}
    </>
  );
}
