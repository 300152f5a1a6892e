import { filmFromVolume, filmPlausible } from '@careful-seam/core/membrane/film/filmArithmetic';
import type { CoatRecord } from '@careful-seam/core/membrane/film/filmRecords';
import { FILM_ZONES, type FilmZone } from '@careful-seam/core/membrane/film/filmZones';
import type { FilmLimits, ZoneFilm } from '@careful-seam/core/membrane/film/judgeFilm';
import { areaWords, bucketWords, filmWords } from '@careful-seam/words/sentences/filmWords';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { DraftLine } from '../../shared/DraftLine';
import { useDraft } from '../../shared/useDraft';
import { readVolume } from '../../shared/volumes';
import type { DraftAbout } from '../../tablet/drafts';
import { usePreferences } from '../../ui/preferences';
import { TimeField } from '../../ui/TimeField';
import { problemWords } from '../../ui/words';

/** The zones that a coat can go on. */
interface Props {
  /** The zones that are coated, as they stand. */
  zones: readonly ZoneFilm[];
  /** The limits of the label, or of the book where the label says nothing. */
  limits: FilmLimits;
  /** The zone that was tapped: the coat is asked for it first. */
  first: FilmZone;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** The shower and the stage that it is written to: what is typed stays theirs until it is kept. */
  of: { showerId: string; stage: string };
  /** Told of a coat that is whole. */
  onKeep: (record: CoatRecord, typedAs: DraftAbout) => Promise<unknown>;
}

/** Zones that take a coat of their own; corners are coated with their walls. */
const coated = (zones: readonly ZoneFilm[]) => zones.filter((z) => z.zone !== 'corners');

/** What is left of the form when it is not kept. */
const Left = z.object({
  chosen: z.array(z.enum(FILM_ZONES)),
  coat: z.number().nullable(),
  bucket: z.enum(['used', 'left']),
  typed: z.object({ used: z.string(), before: z.string(), after: z.string(), water: z.string() }),
  doneAtMs: z.number().nullable(),
});
/** Nothing was typed of a bucket yet. */
const UNTYPED = { used: '', before: '', after: '', water: '' };

/** A coat as it is told: where, which one, out of which bucket, and the film that it makes. */
function useCoat({ zones, limits, first, of, onKeep }: Omit<Props, 'zone'>) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const tapped = first === 'corners' ? 'walls' : first;
  const anew = { chosen: [tapped], coat: null, bucket: 'used' as const, typed: UNTYPED, doneAtMs: null };
  const draft = useDraft({ kind: 'coat', ...of }, Left, anew);
  // Another zone that is tapped on the map is where the coat went; what was typed of the bucket stays.
  const [told, setTold] = useState<z.infer<typeof Left>>(() =>
    draft.start.chosen.includes(tapped) ? draft.start : { ...draft.start, chosen: [tapped] },
  );
  const tell = (next: Partial<z.infer<typeof Left>>) => {
    setTold({ ...told, ...next });
    // Only a bucket is worth holding: a zone is a tap away.
    if (Object.values({ ...told, ...next }.typed).some((v) => v.trim() !== '')) draft.hold({ ...told, ...next });
    else draft.clear();
  };
  const { chosen, coat: coatTyped, bucket, typed, doneAtMs } = told;
  const here = coated(zones).filter((z) => chosen.includes(z.zone));
  const nextCoat = Math.max(0, ...here.map((z) => z.coats.at(-1) ?? 0)) + 1;
  const coat = coatTyped ?? nextCoat;
  const [problem, setProblem] = useState<string | null>(null);
  /** The volume that was asked about: kept when it is said again. */
  const [asked, setAsked] = useState<number | null>(null);
  const areaM2 = here.reduce((sum, z) => sum + z.areaM2, 0);
  const [used, before, after] = [typed.used, typed.before, typed.after].map((v) => readVolume(v, unit));
  const volumeL = bucket === 'used' ? (used ?? null) : before != null && after != null ? before - after : null;
  const waterL = typed.water.trim() === '' ? 0 : readVolume(typed.water, unit);
  const makes =
    volumeL !== null && volumeL > 0 && waterL !== null && areaM2 > 0
      ? filmFromVolume({
          areaM2,
          volumeL,
          solids: limits.solids ?? 1,
          thinning: waterL / volumeL,
          lossShare: limits.lossShare,
        })
      : null;
  const films = makes?.ok ? makes.value : null;
  const odd = films ? filmPlausible(films.wetUm, 'used') : null;
  const ready = Math.max(0, ...here.map((z) => ((z.coats.at(-1) ?? 0) < coat ? (z.nextCoatAtMs ?? 0) : 0)));
  const atMs = doneAtMs ?? Date.now();
  const keep = () => {
    if (here.length === 0) return setProblem(t('film.coat.noZone'));
    if (volumeL === null) return setProblem(t('film.coat.unreadable'));
    if (volumeL <= 0) return setProblem(t('film.coat.nothing'));
    if (waterL === null) return setProblem(t('film.coat.waterUnreadable'));
    if (waterL > volumeL) return setProblem(t('film.coat.tooThin'));
    if (atMs > Date.now() + 60_000) return setProblem(t('flood.inFuture'));
    if (odd && !odd.ok && asked !== volumeL) {
      setAsked(volumeL);
      return setProblem(t('film.askedAgain'));
    }
    const doneAt = new Date(atMs).toISOString();
    void onKeep({ of: 'coat', zones: here.map((z) => z.zone), coat, volumeL, waterL, doneAt }, draft.about).then(() => {
      draft.clear();
      setTold({ ...told, coat: null, typed: UNTYPED });
    });
    setProblem(null);
  };
  return {
    draft,
    told,
    tell,
    /** The form as it begins, with nothing left in it. */
    begin: () => {
      draft.clear();
      setTold(anew);
    },
    here,
    coat,
    atMs,
    areaM2,
    films,
    odd,
    ready,
    problem,
    keep,
  };
}

/** Where a coat went on. */
interface ZoneProps extends Pick<Props, 'zones'> {
  /** The zones that it went on. */
  chosen: readonly FilmZone[];
  /** Told of other zones. */
  onChoose: (chosen: FilmZone[]) => void;
}

/** The zones that one coat goes on. */
function CoatedZones({ zones, chosen, onChoose }: ZoneProps) {
  const { t } = useTranslation();
  return (
    <fieldset>
      <legend className="text-soft text-sm">{t('film.coat.on')}</legend>
      <div className="flex flex-wrap gap-1.5">
        {coated(zones).map((z) => (
          <button
            key={z.zone}
            type="button"
            className="key grow px-2"
            aria-pressed={chosen.includes(z.zone)}
            onClick={() => onChoose(chosen.includes(z.zone) ? chosen.filter((c) => c !== z.zone) : [...chosen, z.zone])}
          >
            {t(`zone.${z.zone}`)}
          </button>
        ))}
        <button
          type="button"
          className="key grow px-2"
          disabled={chosen.length === coated(zones).length}
          onClick={() => onChoose(coated(zones).map((z) => z.zone))}
        >
          {t('film.coat.everywhere')}
        </button>
      </div>
    </fieldset>
  );
}

/** Which coat it is. */
function CoatNumber({ coat, onCoat }: { coat: number; onCoat: (coat: number) => void }) {
  const { t } = useTranslation();
  return (
    <div>
      <span className="text-soft text-sm">{t('film.coat.number')}</span>
      <div className="flex items-center gap-1">
        <button
          type="button"
          className="key"
          aria-label={t('film.coat.less')}
          onClick={() => onCoat(Math.max(1, coat - 1))}
        >
          −
        </button>
        <output className="min-w-8 text-center font-bold text-2xl">{coat}</output>
        <button
          type="button"
          className="key"
          aria-label={t('film.coat.more')}
          onClick={() => onCoat(Math.min(20, coat + 1))}
        >
          +
        </button>
      </div>
    </div>
  );
}

/** The film that it makes, and what speaks against it: too thick, too odd, too soon, too little. */
function CoatHints({ state, limits, zone }: { state: ReturnType<typeof useCoat> } & Pick<Props, 'limits' | 'zone'>) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { films, odd, ready, atMs, here, areaM2 } = state;
  return (
    <>
      {films && (
        <p className="border-ink border-l-4 pl-2 text-lg leading-tight" data-testid="coat-makes">
          {t(limits.solids === null ? 'film.coat.makesWet' : 'film.coat.makes', {
            wet: filmWords(films.wetUm, unit),
            dry: filmWords(films.dryUm, unit),
            area: areaWords(areaM2, unit),
            loss: Math.round(limits.lossShare * 100),
          })}
          {limits.wetMostUm !== null && films.wetUm > limits.wetMostUm && (
            <span className="block text-hold">
              {t('film.coat.tooThick', { most: filmWords(limits.wetMostUm, unit) })}
            </span>
          )}
        </p>
      )}
      {odd && !odd.ok && <p className="border-cure border-l-4 pl-2">{problemWords(odd.problem)}</p>}
      {ready > atMs && (
        <p className="border-hold border-l-4 pl-2 text-hold">
          {t('film.coat.tooSoon', { at: momentWords(ready, zone) })}
        </p>
      )}
      {here.some((z) => z.missingL > 0) && (
        <p className="text-soft text-sm">
          {t('film.coat.lacks', {
            volume: bucketWords(
              here.reduce((sum, z) => sum + z.missingL, 0),
              unit,
            ),
          })}
        </p>
      )}
    </>
  );
}

/** A coat out of its bucket: where it went, how much of it, thinned by how much, and when. What it comes to shows at once. */
export function CoatForm({ zone, ...props }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { zones, limits } = props;
  const state = useCoat(props);
  const { draft, told, tell, begin, coat, problem, keep } = state;
  const { chosen, bucket, typed, doneAtMs } = told;
  const field = (key: keyof typeof typed) => (
    <label key={key} className="text-sm">
      <span className="text-soft">{t(`film.coat.${key}`, { unit: unit === 'in' ? 'gal' : 'L' })}</span>
      <input
        className="field font-bold text-lg"
        value={typed[key]}
        onChange={(e) => tell({ typed: { ...typed, [key]: e.target.value } })}
      />
    </label>
  );
  return (
    <div className="flex flex-col gap-2">
      <DraftLine draft={draft} onAnew={begin} />
      <CoatedZones zones={zones} chosen={chosen} onChoose={(zonesNow) => tell({ chosen: zonesNow })} />
      <div className="flex items-end gap-2">
        <CoatNumber coat={coat} onCoat={(n) => tell({ coat: n })} />
        <button
          type="button"
          className="key flex-1 px-2 text-sm"
          aria-pressed={bucket === 'left'}
          onClick={() => tell({ bucket: bucket === 'used' ? 'left' : 'used' })}
        >
          {t('film.coat.byRest')}
        </button>
      </div>
      <div className="grid grid-cols-2 gap-2">
        {bucket === 'used' ? field('used') : [field('before'), field('after')]}
        {field('water')}
      </div>
      <TimeField label={t('film.coat.done')} zone={zone} atMs={doneAtMs} onAt={(at) => tell({ doneAtMs: at })} />
      <CoatHints state={state} limits={limits} zone={zone} />
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
      <button type="button" className="key key-main sticky bottom-0 text-lg" onClick={keep}>
        {t('film.coat.keep', { coat })}
      </button>
    </div>
  );
}
