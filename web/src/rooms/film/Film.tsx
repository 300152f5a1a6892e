import { filmLimits, type ShowerFilm, showerFilms } from '@careful-seam/core/checks/film';
import { placeOf } from '@careful-seam/core/checks/place';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { FilmRecord } from '@careful-seam/core/membrane/film/filmRecords';
import type { FilmZone } from '@careful-seam/core/membrane/film/filmZones';
import { areaWords, filmRecordWords, filmSentence, zoneSentence } from '@careful-seam/words/sentences/filmWords';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { Tabs } from 'radix-ui';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useParams } from 'react-router';
import { Missing } from '../../shared/Missing';
import { ToolHeader } from '../../shared/ToolHeader';
import type { DraftAbout } from '../../tablet/drafts';
import { type LocalShower, useParts, useStore } from '../../tablet/store';
import { useKeepAwake } from '../../tablet/tabletCare';
import { usePreferences } from '../../ui/preferences';
import { CoatForm } from './CoatForm';
import { FilmMap } from './FilmMap';
import { DryForm, WetForm } from './GaugeForms';

/** Ways to know a film: out of the bucket, by a wet gauge, by dry spots. */
const WAYS = ['coat', 'wet', 'dry'] as const;
/** One of them. */
type Way = (typeof WAYS)[number];

/** Middle of what a record says, mm: the figure that the entry carries beside it. */
function filmMm(record: FilmRecord, areaM2: number): number {
  if (record.of === 'wet') return record.wettedUm / 1000;
  if (record.of === 'dry') return (record.spotUm[0] + record.spotUm[1] + record.spotUm[2]) / 3000;
  return areaM2 > 0 ? (record.volumeL + record.waterL) / areaM2 : 0;
}

/** The line beside a verdict. */
const MARK = { pass: 'border-ink', fail: 'border-hold text-hold', undecided: 'border-cure', unseen: 'border-edge' };

/** The zones as keys. */
interface ZoneProps {
  /** How each zone stands. */
  zones: ShowerFilm['judged']['zones'];
  /** The zone that is looked at. */
  chosen: FilmZone;
  /** Told of another zone. */
  onChoose: (zone: FilmZone) => void;
}

/** A key for each zone: its coats of how many, its area, how it stands. */
function ZoneKeys({ zones, chosen, onChoose }: ZoneProps) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <ul className="grid grid-cols-2 gap-1.5">
      {zones.map((z) => (
        <li key={z.zone}>
          <button
            type="button"
            className={`flex min-h-12 w-full cursor-pointer flex-col justify-center border-l-4 px-2 text-left leading-tight ${MARK[z.verdict]} ${chosen === z.zone ? 'bg-leaf outline outline-2 outline-ink' : ''}`}
            aria-pressed={chosen === z.zone}
            onClick={() => onChoose(z.zone)}
            data-testid={`zone-${z.zone}`}
          >
            <span className="font-semibold first-letter:uppercase">{t(`zone.${z.zone}`)}</span>
            <span className="text-sm text-soft">
              {z.zone === 'corners'
                ? t('film.gaugeOnly')
                : t('film.coats', { count: z.coats.length, of: z.coatsNeeded })}{' '}
              · {areaWords(z.areaM2, unit)}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What was kept so far. */
interface LogProps {
  /** The shower that it is written to. */
  showerId: string;
  /** What was kept, oldest first. */
  readings: ShowerFilm['readings'];
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** The person may take a reading back out. */
  mayTakeOut: boolean;
}

/** What was read of the film, newest first. */
function FilmLog({ showerId, readings, zone, mayTakeOut }: LogProps) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  return (
    <ol className="border-hair border-t" data-testid="film-log">
      {[...readings].reverse().map((r) => (
        <li key={r.entry} className="flex items-center gap-2 border-hair border-b py-1 text-sm">
          <span className="flex-1 leading-tight">
            {filmRecordWords(t, r.film!, unit)}{' '}
            <span className="text-soft">
              {r.author}, {momentWords(Date.parse(r.film!.of === 'coat' ? r.film!.doneAt : r.observedAt), zone)}
            </span>
          </span>
          {mayTakeOut && (
            <button
              type="button"
              className="key px-2 text-sm"
              onClick={() => void write(showerId, 'correction', { target: r.entry, action: 'withdraw' })}
            >
              {t('film.takeOut')}
            </button>
          )}
        </li>
      ))}
    </ol>
  );
}

/** The next zone whose coat no wet gauge has read, after the one that was read just now; that one where none is left. */
function nextToGauge({ judged: { zones }, readings }: ShowerFilm, coat: number, read: FilmZone): FilmZone {
  const gauged = new Set(readings.flatMap(({ film }) => (film?.of === 'wet' && film.coat === coat ? [film.zone] : [])));
  const at = zones.findIndex((z) => z.zone === read);
  const inTurn = [...zones.slice(at + 1), ...zones.slice(0, at)];
  return inTurn.find((z) => z.coats.includes(coat) && !gauged.has(z.zone))?.zone ?? read;
}

/** One film of a shower: its map, its zones, and the forms to read it. */
function FilmOf({ shower, film }: { shower: LocalShower; film: ShowerFilm }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { write, person } = useParts('write', 'person');
  const { check, stage, element } = film.requirement;
  const { judged, readings } = film;
  const limits = filmLimits(check);
  const [chosen, setChosen] = useState<FilmZone>(
    judged.zones.find((z) => z.verdict !== 'pass')?.zone ?? judged.zones[0]!.zone,
  );
  const [way, setWay] = useState<Way>('coat');
  const zone = judged.zones.find((z) => z.zone === chosen) ?? judged.zones[0]!;
  const siteZone = shower.state.created?.body.timeZone ?? 'UTC';
  const mayRead = mayWrite(person!.role, 'reading');
  const keep = (record: FilmRecord, typedAs?: DraftAbout): Promise<unknown> => {
    const names = record.of === 'coat' ? record.zones : [record.zone];
    const area = judged.zones.filter((z) => names.includes(z.zone)).reduce((sum, z) => sum + z.areaM2, 0);
    const body = {
      stage: stage.key,
      check: check.id,
      place: placeOf(shower.state, element),
      atMm: 0,
      valueMm: filmMm(record, area),
      typed: filmRecordWords(t, record, unit).slice(0, 40),
      instrument: record.of === 'coat' ? 'bucket' : record.of === 'wet' ? 'notch gauge' : record.by,
      film: record,
    };
    if (record.of === 'wet') setChosen(nextToGauge(film, record.coat, record.zone));
    return write(shower.id, 'reading', body, typedAs);
  };
  return (
    <main className="bench grid min-h-0 grid-cols-[1fr_432px] max-lg:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-2 p-3">
        <p
          className={`border-l-4 pl-2 font-bold text-lg leading-tight ${MARK[judged.verdict]}`}
          aria-live="polite"
          data-testid="film-verdict"
        >
          {filmSentence(t, judged, limits, unit)}
        </p>
        <div className="min-h-0 flex-1 max-lg:h-72 max-lg:flex-none">
          <FilmMap
            model={shower.state.geometry!.model}
            zones={judged.zones}
            limits={limits}
            lowerMm={check.lowerMm}
            chosen={chosen}
            onChoose={setChosen}
          />
        </div>
        <p className="text-soft text-sm">
          {t('film.from', { source: check.source })} {t('film.colour')}
        </p>
      </div>
      <aside
        className="flex min-h-0 flex-col gap-2 overflow-y-auto border-edge border-l p-3 max-lg:border-l-0"
        aria-label={t('film.read')}
      >
        <ZoneKeys zones={judged.zones} chosen={chosen} onChoose={setChosen} />
        <p className={`border-l-4 pl-2 leading-tight ${MARK[zone.verdict]}`} data-testid="zone-words">
          <span className="inline-block font-semibold first-letter:uppercase">{t(`zone.${zone.zone}`)}</span>:{' '}
          {zoneSentence(t, zone, limits, unit)}
        </p>
        {mayRead && (
          <Tabs.Root value={way} onValueChange={(w) => setWay(w as typeof way)} className="flex flex-col gap-2">
            <Tabs.List className="flex gap-1.5" aria-label={t('film.read')}>
              {WAYS.map((w) => (
                <Tabs.Trigger key={w} value={w} className="key grow px-2">
                  {t(`film.way.${w}`)}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value="coat">
              <CoatForm
                key={chosen}
                zones={judged.zones}
                limits={limits}
                first={chosen}
                zone={siteZone}
                of={{ showerId: shower.id, stage: stage.key }}
                onKeep={keep}
              />
            </Tabs.Content>
            <Tabs.Content value="wet">
              <WetForm key={chosen} zone={zone} limits={limits} onKeep={keep} />
            </Tabs.Content>
            <Tabs.Content value="dry">
              <DryForm key={chosen} zone={zone} limits={limits} onKeep={keep} />
            </Tabs.Content>
          </Tabs.Root>
        )}
        {readings.length > 0 && (
          <FilmLog showerId={shower.id} readings={readings} zone={siteZone} mayTakeOut={mayRead} />
        )}
      </aside>
    </main>
  );
}

/** A liquid film by zone: coats out of the bucket, gauges, spots, and what is thin or missing. */
export function FilmScreen() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const shower = useStore((s) => s.showers.get(id));
  const films = useMemo(() => (shower?.state.geometry ? showerFilms(shower.state) : []), [shower?.state]);
  const [which, setWhich] = useState(0);
  useKeepAwake();
  if (!shower?.state.geometry || films.length === 0) return <Missing />;
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ToolHeader
        back={`/showers/${id}?stage=${films[0]!.requirement.stage.key}`}
        title={t('film.title', { name: shower.state.created?.body.name })}
      >
        {films.length > 1 &&
          films.map((f, i) => (
            <button
              key={f.requirement.check.id}
              type="button"
              className="key px-2 text-sm"
              aria-pressed={which === i}
              onClick={() => setWhich(i)}
            >
              {f.requirement.check.parts?.map((p) => t(`new.partNames.${p}`)).join(', ') ?? f.requirement.check.label}
            </button>
          ))}
        <Link to={`/showers/${id}/cure`} className="key flex items-center">
          {t('cure.open')}
        </Link>
      </ToolHeader>
      <FilmOf key={`${id} ${which}`} shower={shower} film={films[which] ?? films[0]!} />
    </div>
  );
}
