import { USUAL_MIX_MINUTES } from '@careful-seam/core/materials/mixTimes';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';

/** What a mix goes through, in its order. */
const PARTS = ['mix', 'rest', 'remix'] as const;

/** Three short tones, so that it is heard with gloves on and the tablet leaning at the wall. */
function ring(): void {
  const audio = new AudioContext();
  for (const k of [0, 0.35, 0.7]) {
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = 880;
    loud.gain.value = 0.25;
    tone.connect(loud).connect(audio.destination);
    tone.start(audio.currentTime + k);
    tone.stop(audio.currentTime + k + 0.2);
  }
  setTimeout(() => void audio.close(), 1500);
}

/** Minutes and seconds. */
const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;

/** Mixing, resting, mixing again, by the clock; the batch is written into the record when it is done. */
export function MixTimer({ showerId, onClose }: { showerId: string; onClose: () => void }) {
  const { t } = useTranslation();
  const write = useStore((s) => s.write);
  const [minutes, setMinutes] = useState<string[]>(PARTS.map((part) => String(USUAL_MIX_MINUTES[part])));
  const [startMs, setStart] = useState<number | null>(null);
  const [nowMs, setNow] = useState(Date.now());
  const [batch, setBatch] = useState('');
  const rung = useRef(0);
  useEffect(() => {
    if (startMs === null) return;
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [startMs]);
  const lengths = minutes.map((m) => Math.max(0, Number(m.replace(',', '.')) || 0) * 60);
  const ends = lengths.map((_, i) => lengths.slice(0, i + 1).reduce((a, b) => a + b, 0));
  const gone = startMs === null ? 0 : (nowMs - startMs) / 1000;
  const part = ends.findIndex((end) => gone < end);
  const passed = startMs === null ? 0 : part < 0 ? PARTS.length : part;
  useEffect(() => {
    if (passed <= rung.current) return;
    rung.current = passed;
    ring();
  }, [passed]);
  const bad = minutes.findIndex((m) => !(Number(m.replace(',', '.')) > 0));
  const keep = async () => {
    await write(showerId, 'note', {
      words: t('mix.note', { batch: batch.trim() || '–', minutes: minutes.join(' / ') }),
    });
    onClose();
  };
  return (
    <Sheet title={t('mix.title')} onClose={onClose}>
      <p className="text-soft text-sm">{t('mix.what')}</p>
      <div className="grid grid-cols-3 gap-2">
        {PARTS.map((key, i) => (
          <label key={key} className="text-sm">
            <span className="text-soft">{t(`mix.minutes.${key}`)}</span>
            <input
              className="field font-bold text-lg"
              inputMode="decimal"
              disabled={startMs !== null}
              value={minutes[i]}
              onChange={(e) => setMinutes(minutes.map((m, k) => (k === i ? e.target.value : m)))}
            />
          </label>
        ))}
      </div>
      {startMs !== null && (
        <div className="flex flex-col items-center gap-1 border-ink border-y-2 py-3" data-testid="mix-now">
          <p className="font-bold text-lg" aria-live="assertive">
            {t(part < 0 ? 'mix.ready' : `mix.now.${PARTS[part]}`)}
          </p>
          {part >= 0 && <p className="font-bold text-6xl">{clock(Math.ceil(ends[part]! - gone))}</p>}
        </div>
      )}
      {bad >= 0 && (
        <p role="alert" className="text-hold">
          {t('mix.wrong', { part: t(`mix.minutes.${PARTS[bad]}`) })}
        </p>
      )}
      {startMs === null ? (
        <button
          type="button"
          className="key key-main text-lg"
          disabled={bad >= 0}
          onClick={() => {
            rung.current = 0;
            setNow(Date.now());
            setStart(Date.now());
          }}
        >
          {t('mix.start')}
        </button>
      ) : (
        <>
          <label className="text-sm">
            <span className="text-soft">{t('work.batch')}</span>
            <input className="field" value={batch} onChange={(e) => setBatch(e.target.value)} />
          </label>
          <button type="button" className="key key-main text-lg" onClick={() => void keep()}>
            {t('mix.keep')}
          </button>
          <button type="button" className="key" onClick={() => setStart(null)}>
            {t('mix.again')}
          </button>
        </>
      )}
    </Sheet>
  );
}
