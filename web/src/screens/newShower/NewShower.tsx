import type { ShowerModel } from '@careful-seam/core/geometry/showerModel';
import { requirementsOf } from '@careful-seam/core/proof/requirements';
import type { SeamLine } from '@careful-seam/core/proof/seamLine';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate } from 'react-router';
import { ShowerMap } from '../../map/ShowerMap';
import { usePreferences } from '../../state/preferences';
import { newId, useStore } from '../../state/store';
import { type Drawn, drawShower, LENGTHS, type LengthName, type PartIds, type Typed } from './drawing';

const INCHES: Typed = {
  shape: 'alcove',
  width: '60',
  depth: '36',
  wallHeight: '96',
  curbHeight: '6',
  curbWidth: '4 1/2',
  drainLeft: '30',
  drainFront: '18',
  boardJoint: '48',
  sheetLap: '39',
  valveFront: '18',
  valveHeight: '44',
  armHeight: '78',
};
const METRIC: Typed = {
  shape: 'alcove',
  width: '1500',
  depth: '900',
  wallHeight: '2400',
  curbHeight: '150',
  curbWidth: '110',
  drainLeft: '750',
  drainFront: '450',
  boardJoint: '1200',
  sheetLap: '1000',
  valveFront: '450',
  valveHeight: '1100',
  armHeight: '2000',
};

const GROUPS: { key: string; names: LengthName[] }[] = [
  { key: 'floor', names: ['width', 'depth', 'drainLeft', 'drainFront'] },
  { key: 'walls', names: ['wallHeight', 'curbHeight', 'curbWidth'] },
  { key: 'joints', names: ['boardJoint', 'sheetLap'] },
  { key: 'pipes', names: ['valveFront', 'valveHeight', 'armHeight'] },
];

const PARTS = [
  'front',
  'right',
  'back',
  'left',
  'drain',
  'valve',
  'arm',
  'rightJoint',
  'backJoint',
  'leftJoint',
  'rightLap',
  'backLap',
  'leftLap',
] as const;
const makeIds = (): PartIds => Object.fromEntries(PARTS.map((part) => [part, newId()])) as PartIds;

/** Before anything was looked at every seam is open: drawn dotted. */
function unseenLines(model: ShowerModel): SeamLine[] {
  return model.seams.map((s) => ({
    seam: s.id,
    pieces: [{ fromMm: 0, toMm: s.lengthMm, state: 'unseen', water: false }],
    ticksMm: [],
  }));
}

function FallNote({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { fall } = drawn;
  if (!fall) return null;
  const perFoot = (ratio: number) =>
    unit === 'in' ? `${(ratio * 12).toFixed(2)} ${t('new.perFoot')}` : `${(ratio * 100).toFixed(1)} %`;
  if (fall.verdict === 'fail') {
    return (
      <p data-testid="fall" className="border-hold border-l-4 pl-2 font-semibold text-hold">
        {t('new.fallConflict', {
          rise: showLength(fall.riseMm, unit),
          longest: showLength(fall.longestMm, unit),
          shortest: showLength(fall.shortestMm, unit),
          steepest: perFoot(fall.steepestFall),
          most: perFoot(0.5 / 12),
        })}
      </p>
    );
  }
  return (
    <p data-testid="fall">
      {t('new.fall', {
        rise: showLength(fall.riseMm, unit, 32),
        reserve: showLength(fall.reserveThatFitsMm, unit, 32),
        longest: showLength(fall.longestMm, unit),
        steepest: perFoot(fall.steepestFall),
      })}
      <span className="block text-soft text-sm">{t('new.fallSource')}</span>
    </p>
  );
}

/** A shower from a few lengths, with its map, its seams and its fall drawn while typing. */
export function NewShower() {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const { unit } = usePreferences();
  const { crews, books, writeAll } = useStore();
  const [ids] = useState(makeIds);
  const [problem, setProblem] = useState<string | null>(null);
  const book = [...books.values()].sort((a, b) => b.version - a.version)[0] ?? null;
  const [methodKey, setMethod] = useState<string | null>(null);
  const method = book?.methods.find((m) => m.key === methodKey) ?? book?.methods[0] ?? null;
  const form = useForm<Typed & { name: string; job: string; crewId: string }>({
    defaultValues: { ...(unit === 'in' ? INCHES : METRIC), name: '', job: '', crewId: crews[0]?.id ?? '' },
  });
  const typed = form.watch();
  const names = Object.fromEntries(LENGTHS.map((n) => [n, t(`new.${n}`)])) as Record<LengthName, string>;
  const key = JSON.stringify(typed);
  const drawn = useMemo(
    () =>
      drawShower(typed, ids, unit, {
        names,
        small: (least) => t('new.small', { least: showLength(least, unit) }),
        large: (most) => t('new.large', { most: showLength(most, unit) }),
      }),
    [key, unit, ids],
  );
  const lines = useMemo(() => (drawn.model ? unseenLines(drawn.model) : []), [drawn.model]);
  const asked = useMemo(
    () => (drawn.model && method ? requirementsOf(drawn.model, method).length : 0),
    [drawn.model, method],
  );

  const centre = () => {
    const half = (name: LengthName) => {
      const read = parseLength(typed[name], unit);
      return read.ok ? showLength(read.value.mm / 2, unit).replace(/ (in|mm)$/, '') : '';
    };
    form.setValue('drainLeft', half('width'));
    form.setValue('drainFront', half('depth'));
  };
  const submit = form.handleSubmit(async ({ name, job, crewId }) => {
    if (!drawn.geometry || !book || !method) return setProblem(book ? t('new.fix') : t('new.noBook'));
    const id = newId();
    await writeAll(id, [
      {
        kind: 'shower-created',
        body: {
          name: name.trim(),
          job: job.trim(),
          crewId,
          timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        },
      },
      { kind: 'geometry-set', body: { version: 1, geometry: drawn.geometry } },
      { kind: 'rules-pinned', body: { ruleBook: book.id, version: book.version, method: method.key } },
    ]);
    await navigate(`/showers/${id}`);
  });

  return (
    <form className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto" onSubmit={(e) => void submit(e)}>
      <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-md:flex-wrap max-md:gap-2">
        <Link to="/" className="key flex items-center">
          {t('shower.day')}
        </Link>
        <h1 className="flex-1 font-bold text-xl">{t('new.title')}</h1>
        {book && (
          <label className="flex items-center gap-2 text-sm">
            <span className="text-soft">{t('new.method', { book: book.title })}</span>
            <select
              className="field w-auto text-base"
              value={method?.key ?? ''}
              onChange={(e) => setMethod(e.target.value)}
            >
              {book.methods.map((m) => (
                <option key={m.key} value={m.key}>
                  {m.label}
                </option>
              ))}
            </select>
          </label>
        )}
        <button type="submit" className="key key-main text-lg" disabled={!drawn.geometry}>
          {t('new.make')}
        </button>
      </header>
      <div className="grid min-h-0 grid-cols-[440px_1fr] max-lg:grid-cols-1">
        <div className="flex flex-col gap-2 overflow-y-auto border-edge border-r p-3">
          <div className="grid grid-cols-2 gap-2">
            {(['name', 'job'] as const).map((field) => (
              <label key={field} className="text-sm">
                <span className="text-soft">{t(`new.${field}`)}</span>
                <input
                  className="field text-base"
                  aria-invalid={Boolean(form.formState.errors[field])}
                  {...form.register(field, {
                    validate: (v) => v.trim() !== '' || t('new.needed', { field: t(`new.${field}`) }),
                  })}
                />
                {form.formState.errors[field] && (
                  <span role="alert" className="text-hold">
                    {form.formState.errors[field].message}
                  </span>
                )}
              </label>
            ))}
            <label className="text-sm">
              <span className="text-soft">{t('new.crew')}</span>
              <select className="field text-base" {...form.register('crewId', { required: true })}>
                {crews.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
              </select>
            </label>
            <fieldset className="text-sm">
              <legend className="text-soft">{t('new.shape')}</legend>
              <div className="grid grid-cols-2 gap-1">
                {(['alcove', 'corner'] as const).map((shape) => (
                  <button
                    type="button"
                    key={shape}
                    className="key px-1"
                    aria-pressed={typed.shape === shape}
                    onClick={() => form.setValue('shape', shape)}
                  >
                    {t(`new.${shape}`)}
                  </button>
                ))}
              </div>
            </fieldset>
          </div>
          {GROUPS.map((group) => (
            <fieldset key={group.key} className="border-hair border-t pt-1">
              <legend className="sr-only">{t(`new.group.${group.key}`)}</legend>
              <div className="grid grid-cols-4 gap-2 max-sm:grid-cols-2">
                {group.names.map((name) => (
                  <label key={name} className="flex flex-col justify-end text-sm">
                    <span className="text-soft leading-tight">{names[name]}</span>
                    <input
                      className="field px-2 font-bold text-lg"
                      aria-invalid={Boolean(drawn.problems[name])}
                      {...form.register(name)}
                    />
                  </label>
                ))}
                {group.key === 'joints' && (
                  <button type="button" className="key col-span-2 self-end" onClick={centre}>
                    {t('new.centre')}
                  </button>
                )}
              </div>
              {group.names.map((name) =>
                drawn.problems[name] ? (
                  <p key={name} role="alert" className="text-hold text-sm">
                    {names[name]}: {drawn.problems[name]}
                  </p>
                ) : null,
              )}
            </fieldset>
          ))}
          {(drawn.problems.form || problem) && (
            <p role="alert" className="text-hold">
              {drawn.problems.form ?? problem}
            </p>
          )}
          <FallNote drawn={drawn} />
        </div>
        <div className="flex min-h-0 flex-col p-3">
          {drawn.model ? (
            <>
              <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
                <ShowerMap model={drawn.model} lines={lines} marks={new Map()} chosen={null} />
              </div>
              <p className="text-center" data-testid="seam-total">
                {t('new.total', {
                  seam: showLength(drawn.model.totals.seamMm, unit),
                  seams: drawn.model.seams.length,
                  corners: drawn.model.corners.length,
                  asked,
                })}
              </p>
            </>
          ) : (
            <p className="m-auto text-soft">{t('new.noDrawing')}</p>
          )}
        </div>
      </div>
    </form>
  );
}
