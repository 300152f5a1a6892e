import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { TZDate, tz } from '@date-fns/tz';
import { isValid, lightFormat, parseISO } from 'date-fns';
import type { TFunction } from 'i18next';
import { useId } from 'react';
import { useTranslation } from 'react-i18next';

/** How a browser's field writes a moment. */
const FORMAT = "yyyy-MM-dd'T'HH:mm";

/** The moment that is told; now without one. */
interface Props {
  /** What it asks for, in words. */
  label: string;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** null: now. */
  atMs: number | null;
  /** Told of a moment, ms since 1970; null for now. */
  onAt: (ms: number | null) => void;
}

/** When it was: now, or a time typed in the site's own time zone. */
export function TimeField({ label, zone, atMs, onAt }: Props) {
  const { t } = useTranslation();
  const id = useId();
  const shown = atMs === null ? '' : lightFormat(new TZDate(atMs, zone), FORMAT);
  return (
    <div>
      <label htmlFor={id} className="text-soft text-sm">
        {label}
      </label>
      <div className="flex gap-1">
        <button type="button" className="key flex-none" aria-pressed={atMs === null} onClick={() => onAt(null)}>
          {t('flood.now')}
        </button>
        <input
          id={id}
          type="datetime-local"
          className="field"
          value={shown}
          onChange={(e) => {
            const read = parseISO(e.target.value, { in: tz(zone) });
            onAt(isValid(read) ? read.getTime() : null);
          }}
        />
      </div>
    </div>
  );
}

/** Why a time can't belong to the test, or null. */
export function timeProblem(t: TFunction, test: FloodTest, atMs: number): string | null {
  if (atMs < test.startMs) return t('flood.beforeStart');
  return atMs > Date.now() + 60_000 ? t('flood.inFuture') : null;
}
