import { FLOOR_LOOKS } from '@careful-seam/core/log/callBodies';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { Call } from '@careful-seam/core/log/state';
import { watchedDarkHours } from '@careful-seam/core/trace/floorWatch';
import { DARK_HOURS } from '@careful-seam/core/trace/symptoms';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { usePicture } from '../../drawing/usePicture';
import { PictureKey } from '../../shared/PictureKey';
import { useHeld } from '../../shared/useDraft';
import { type LocalShower, useParts } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { TextField } from '../../ui/fields';
import { TakeBack } from './TakeBack';

/** Nobody watches a floor longer than this without a shower, hours. */
const LONGEST_HOURS = 2000;

/** What is said of a picture before it is taken. */
const Watched = z.object({ hours: z.string(), look: z.enum(FLOOR_LOOKS).nullable() });
const NOTHING: z.infer<typeof Watched> = { hours: '', look: null };

/** One picture of the floor with its hours; one that was mistyped is taken back. */
function Seen({ showerId, entry }: { showerId: string; entry: Call['watched'][number] }) {
  const { t } = useTranslation();
  const { hours, look, photos } = entry.body;
  const url = usePicture(photos[0]!.hash);
  const words = t('call.watch.at', { hours, look: t(`call.strip.look.${look}`) });
  return (
    <li className="flex w-28 flex-none flex-col gap-0.5">
      {url ? (
        <img src={url} alt={words} className="h-24 w-28 object-cover" />
      ) : (
        <span className="grid h-24 w-28 place-items-center border border-hair text-soft text-xs">
          {t('picture.pendingShort')}
        </span>
      )}
      <span className="text-sm leading-tight">{words}</span>
      <TakeBack showerId={showerId} entry={entry} />
    </li>
  );
}

/** The floor over days, its pictures side by side: for how long it stays dark after a shower tells whether water stays under the tile. */
export function FloorWatch({ shower, call }: { shower: LocalShower; call: Call }) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  const about = { kind: 'call' as const, showerId: shower.id, element: `${call.opened.id} floor` };
  const { told, tell, begin } = useHeld(about, Watched, NOTHING);
  const { hours, look } = told;
  const [problem, setProblem] = useState<string | null>(null);
  const since = Number(hours.replace(',', '.'));
  const isWhole = hours.trim() !== '' && since >= 0 && since <= LONGEST_HOURS && look !== null;
  const watched = [...call.watched].sort((a, b) => a.body.hours - b.body.hours);
  const dark = watchedDarkHours(call);
  return (
    <section aria-label={t('call.watch.title')} className="flex flex-col gap-2" data-testid="floor-watch">
      <h2 className="font-semibold text-soft">{t('call.watch.title')}</h2>
      {watched.length > 0 && (
        <ul className="flex gap-2 overflow-x-auto">
          {watched.map((e) => (
            <Seen key={e.id} showerId={shower.id} entry={e} />
          ))}
        </ul>
      )}
      {dark !== null && (
        <p role="status">{t(dark >= DARK_HOURS ? 'call.watch.says' : 'call.watch.dries', { hours: dark })}</p>
      )}
      {!call.closed && person && mayWrite(person.role, 'floor-watched') && (
        <>
          <TextField
            label={t('call.watch.hours')}
            inputMode="decimal"
            value={hours}
            onChange={(e) => {
              tell({ hours: e.target.value });
              setProblem(null);
            }}
          />
          <Choice
            label={t('call.watch.look')}
            value={look}
            options={FLOOR_LOOKS.map((key) => ({ key, label: t(`call.strip.look.${key}`) }))}
            onChoose={(key) => {
              tell({ look: key });
              setProblem(null);
            }}
          />
          {isWhole ? (
            <PictureKey
              label={t('call.watch.picture')}
              from="camera"
              onPictures={(photos) => {
                void write(shower.id, 'floor-watched', { call: call.opened.id, hours: since, look: look!, photos });
                begin();
              }}
            />
          ) : (
            <button type="button" className="key" onClick={() => setProblem(t('call.watch.notWhole'))}>
              {t('call.watch.picture')}
            </button>
          )}
          {problem && (
            <p role="alert" className="text-hold">
              {problem}
            </p>
          )}
        </>
      )}
    </section>
  );
}
