import type { FloodTest } from '@careful-seam/core/log/floodTest';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import { showLength } from '@careful-seam/core/units/length';
import { smallLength } from '@careful-seam/words/sentences/floodSentences';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { firstMark } from './ReadSheet';

/** All that was kept of a test. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The flood test that is under way, or that ended last. */
  test: FloodTest;
  /** What the rule book asks, with its limits. */
  check: FloodCheck;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** The person may read, look and release. */
  mayInspect: boolean;
}

/** Everything that was read, seen and done during the test, in the order of time; each can be taken back while it runs. */
export function FloodLog({ showerId, test, check, zone, mayInspect }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const at = (hours: number) => test.startMs + hours * 3_600_000;
  const place = (where: string) => check.places.find((p) => p.id === where)?.label ?? where;
  const below = (of: 'water' | 'pan', mm: number) => {
    const fall = firstMark(test, of) - mm;
    return fall < 0
      ? t('flood.log.above', { value: showLength(-fall, unit) })
      : t('flood.log.below', { value: showLength(fall, unit) });
  };
  const lines = [
    ...test.levels.map((l) => ({
      id: l.entry,
      ms: at(l.atHours),
      words: `${t(`flood.of.${l.of}`)}: ${below(l.of, l.levelMm)}`,
      hold: false,
    })),
    ...test.series.map((s) => ({
      id: s.entry,
      ms: at(s.hours[0]!),
      words: t('flood.log.series', {
        of: t(`flood.of.${s.of}`),
        count: s.hours.length,
        fall: smallLength(s.levelMm[0]! - s.levelMm.at(-1)!, unit),
        file: s.file,
      }),
      hold: false,
    })),
    ...test.events.map((e) => ({
      id: e.entry,
      ms: at(e.atHours),
      words: `${t(`flood.of.${e.of}`)}: ${t(`flood.event.${e.kind}`)}${e.words ? ` (${e.words})` : ''}`,
      hold: false,
    })),
    ...test.looks.map((l) => ({
      id: l.entry,
      ms: Date.parse(l.at),
      words: `${place(l.where)}: ${t(`flood.answer.${l.answer}`)}${l.words ? ` (${l.words})` : ''}`,
      hold: l.answer === 'wet',
    })),
    ...test.climate.map((c) => ({
      id: c.entry,
      ms: at(c.atHours),
      words: t('flood.log.climate', {
        water: unit === 'in' ? `${Math.round((c.waterC * 9) / 5 + 32)} °F` : `${c.waterC.toFixed(1)} °C`,
        air: unit === 'in' ? `${Math.round((c.airC * 9) / 5 + 32)} °F` : `${c.airC.toFixed(1)} °C`,
        humidity: Math.round(c.relativeHumidity * 100),
      }),
      hold: false,
    })),
  ].sort((a, b) => b.ms - a.ms);
  return (
    <ul className="text-sm" aria-label={t('flood.logLabel')}>
      {lines.map((line) => (
        <li key={line.id} className="flex items-center gap-2 border-hair border-b">
          <span className={`min-w-0 flex-1 break-words py-0.5 ${line.hold ? 'font-semibold text-hold' : ''}`}>
            <span className="text-soft">{momentWords(line.ms, zone)}</span> {line.words}
          </span>
          {mayInspect && test.running && (
            <button
              type="button"
              className="key flex-none px-2 text-xs"
              aria-label={t('flood.log.takeBack', { what: line.words })}
              onClick={() => void write(showerId, 'correction', { target: line.id, action: 'withdraw' })}
            >
              {t('flood.log.back')}
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
