import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { DraftLine } from '../../shared/DraftLine';
import { useHeld } from '../../shared/useDraft';
import { useStore } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { FractionPad } from '../../ui/FractionPad';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { TimeField, timeProblem } from '../../ui/TimeField';
import { problemWords } from '../../ui/words';

/** Two readings closer than this were taken at the same moment. */
const SAME_MOMENT_HOURS = 0.1 / 3600;

/** The test that is read by hand. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The flood test that is under way, or that ended last. */
  test: FloodTest;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** Level of the first mark of a water, mm: what a reading "below the mark" counts from. */
export function firstMark(test: FloodTest, of: 'water' | 'pan'): number {
  return of === 'water' ? test.filledToMm : (test.levels.find((l) => l.of === 'pan')?.levelMm ?? 0);
}

/** A level does not rise by itself: water was added, or the mark was misread. */
function Rose({ byMm, onAdded, onMisread }: { byMm: number; onAdded: () => void; onMisread: () => void }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <div role="alert" className="flex flex-col gap-2 border-hold border-l-4 pl-3">
      <p className="font-semibold text-hold">{t('flood.read.rose', { by: showLength(byMm, unit) })}</p>
      <button type="button" className="key" onClick={onAdded}>
        {t('flood.read.added')}
      </button>
      <button type="button" className="key" onClick={onMisread}>
        {t('flood.read.misread')}
      </button>
    </div>
  );
}

/** What is left of the form when it is not kept. */
const Left = z.object({
  of: z.enum(['water', 'pan']),
  above: z.boolean(),
  text: z.string(),
  at: z.number().nullable(),
});
/** Nothing was read yet. */
const NOT_READ: z.infer<typeof Left> = { of: 'water', above: false, text: '', at: null };

/** A level read by hand, as its distance from the first mark. A rise is asked about before it is kept. */
export function ReadSheet({ showerId, test, zone, onClose }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const writeAll = useStore((s) => s.writeAll);
  const { told, tell, draft, begin } = useHeld({ kind: 'mark', showerId, element: test.entry }, Left, NOT_READ);
  const { of, above, text, at } = told;
  const [problem, setProblem] = useState<string | null>(null);
  const [rise, setRise] = useState<{ byMm: number; levelMm: number } | null>(null);
  const withPan = test.panResolutionMm !== null || test.levels.some((l) => l.of === 'pan');

  const keep = (levelMm: number, refilled: boolean) => {
    const atMs = at ?? Date.now();
    const event = { event: 'refill' as const, of, at: new Date(atMs - 1000).toISOString(), levelMm };
    const typed = `${above ? '+' : '-'}${text}`.slice(0, 40);
    const body = { levelMm, instrument: 'mark', of, typed, readAt: new Date(atMs).toISOString() };
    const entries = [
      ...(refilled ? [{ kind: 'flood-event' as const, body: event }] : []),
      { kind: 'flood-reading' as const, body },
    ];
    const written = writeAll(showerId, entries, draft.about);
    if (of === 'pan' || !withPan) {
      const done = () => {
        draft.drop();
        onClose();
      };
      return void written.then(done);
    }
    // On to the pan at once: what is typed next must not be lost to this reading's writing. Where that fails, back to it.
    written.catch(() => tell({ of: 'water', text, above }));
    tell({ of: 'pan', text: '', above: false });
    setRise(null);
  };
  const check = () => {
    const read = parseLength(text, unit, t('flood.read.value'));
    if (!read.ok) return setProblem(problemWords(read.problem));
    if (read.value.mm > 600) return setProblem(t('flood.read.tooFar', { value: showLength(read.value.mm, unit) }));
    const wrongTime = at === null ? null : timeProblem(t, test, at);
    if (wrongTime) return setProblem(wrongTime);
    const atHours = ((at ?? Date.now()) - test.startMs) / 3_600_000;
    const mine = test.levels.filter((l) => l.of === of);
    if (mine.some((l) => Math.abs(l.atHours - atHours) < SAME_MOMENT_HOURS)) return setProblem(t('flood.read.doubled'));
    setProblem(null);
    const levelMm = firstMark(test, of) + (above ? read.value.mm : -read.value.mm);
    const before = mine
      .filter((l) => l.atHours < atHours)
      .sort((a, b) => a.atHours - b.atHours)
      .at(-1);
    const step = (of === 'pan' ? test.panResolutionMm : null) ?? test.resolutionMm;
    // Before the first reading the line itself is what the water stood at.
    const byMm = levelMm - (before?.levelMm ?? firstMark(test, of));
    if (byMm > step * 1.01) return setRise({ byMm, levelMm });
    keep(levelMm, false);
  };
  return (
    <Sheet title={t('flood.read.title')} onClose={onClose}>
      <DraftLine draft={draft} onAnew={begin} />
      {withPan && (
        <Choice
          label={t('flood.read.of')}
          value={of}
          options={(['water', 'pan'] as const).map((key) => ({ key, label: t(`flood.of.${key}`) }))}
          onChoose={(key) => tell({ of: key })}
        />
      )}
      <Choice
        label={t('flood.read.side')}
        value={above ? 'above' : 'below'}
        options={(['below', 'above'] as const).map((key) => ({ key, label: t(`flood.read.${key}`) }))}
        onChoose={(key) => tell({ above: key === 'above' })}
      />
      <label>
        <span className="text-soft text-sm">{t('flood.read.value')}</span>
        <span className="flex items-baseline gap-1">
          <input
            className="min-h-12 w-full min-w-0 border-edge border-b-2 bg-transparent font-bold text-4xl text-ink"
            value={text}
            onChange={(e) => tell({ text: e.target.value })}
            onKeyDown={(e) => e.key === 'Enter' && check()}
            placeholder="–"
          />
          <span className="text-lg">{unit}</span>
        </span>
      </label>
      <FractionPad unit={unit} aboutMm={5} text={text} onText={(typed) => tell({ text: typed })}>
        <button type="button" className="key key-main px-1 text-lg" disabled={text.trim() === ''} onClick={check}>
          {text.trim() === '' ? t('pad.none') : t('flood.read.keep', { value: text, of: t(`flood.of.${of}`) })}
        </button>
      </FractionPad>
      <TimeField label={t('flood.read.at')} zone={zone} atMs={at} onAt={(atMs) => tell({ at: atMs })} />
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      {rise && <Rose byMm={rise.byMm} onAdded={() => keep(rise.levelMm, true)} onMisread={() => setRise(null)} />}
    </Sheet>
  );
}
