import { placeOf } from '@careful-seam/core/checks/place';
import { WHOLE_SHOWER } from '@careful-seam/core/checks/requirements';
import { mayWrite } from '@careful-seam/core/log/roles';
import { shoppingList, type TakeOffLine, usedVerdict } from '@careful-seam/core/materials/takeOff';
import { showerTakeOff, usedOf } from '@careful-seam/core/proof/shown/takeOffOfShower';
import { answeredWithOf } from '@careful-seam/core/rules/tools';
import { writeTakeOffCsv } from '@careful-seam/files/takeOffCsv';
import { elementName } from '@careful-seam/words/texts/names';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { Missing } from '../../shared/Missing';
import { ToolHeader } from '../../shared/ToolHeader';
import { type LocalShower, useParts } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { saveFile } from '../../ui/saveFile';
import { amountWords, readAmount } from './amounts';
import { CutPlan } from './CutPlan';

/** The stage and check where what was used is told; null where the method has none. */
function usedCheck({ state }: LocalShower) {
  return state.requirements.find((r) => answeredWithOf(r.check) === 'materials') ?? null;
}

/** What was used of each item: told before, typed now, and kept as the answer of its check. */
function useUsed(shower: LocalShower, own: readonly TakeOffLine[]) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { write, person } = useParts('write', 'person');
  const told = usedOf(shower.state);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const asked = usedCheck(shower);
  const mayTell = asked !== null && mayWrite(person!.role, 'look');
  const usedIn = (line: TakeOffLine): number | null => {
    const text = typed[line.id];
    if (text !== undefined && text.trim() !== '') return readAmount(text, line.unit, unit);
    return told?.[line.id] ?? null;
  };
  const keep = () => {
    const bad = own.find((l) => (typed[l.id] ?? '').trim() !== '' && readAmount(typed[l.id]!, l.unit, unit) === null);
    if (bad) return setProblem(t('materials.unreadable', { label: bad.label }));
    const used = Object.fromEntries(own.flatMap((l) => (usedIn(l) === null ? [] : [[l.id, usedIn(l)!]])));
    const short = own.filter((l) => usedIn(l) !== null && usedVerdict(l.net, usedIn(l)!) === 'far-less');
    setProblem(null);
    setTyped({});
    void write(shower.id, 'look', {
      stage: asked!.stage.key,
      checks: [asked!.check.id],
      places: [placeOf(shower.state, WHOLE_SHOWER)],
      answer: short.length > 0 ? 'defect' : 'ok',
      ...(short.length > 0 ? { reason: t('materials.finding', { list: short.map((l) => l.label).join(', ') }) } : {}),
      used,
    });
  };
  return { told, typed, setTyped, problem, mayTell, usedIn, keep };
}

/** One item of the take-off. */
interface LineProps {
  /** The item: how much the drawing asks for, with waste and in packs. */
  line: TakeOffLine;
  /** What is typed or was told to have been used, in the line's unit. */
  used: number | null;
  /** What was told to have been used, in its unit; nothing before that. */
  told: number | undefined;
  /** A line of this shower alone, not of the whole job. */
  isOwn: boolean;
  /** What is typed; null where nothing may be told. */
  typed: string | null;
  /** Told of every key. */
  onType: (text: string) => void;
  /** The plan of cuts is asked for. */
  onCut: () => void;
}

/** One item: what is needed, what is bought, what was used. */
function LineRow({ line: l, used, told, isOwn, typed, onType, onCut }: LineProps) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const less = used !== null && usedVerdict(l.net, used) === 'far-less';
  return (
    <tr className="border-hair border-b align-top">
      <td className="py-1 pr-3">
        {l.cut ? (
          <button
            type="button"
            className="min-h-12 cursor-pointer text-left font-semibold underline decoration-dotted underline-offset-4"
            onClick={onCut}
          >
            {l.label}
          </button>
        ) : (
          <span className="flex min-h-12 items-center font-semibold">{l.label}</span>
        )}
      </td>
      <td className="py-3 pr-3 whitespace-nowrap">{amountWords(l.net, l.unit, unit)}</td>
      <td className="py-3 pr-3">
        <span className="font-bold">{l.packs}</span> {l.packLabel}
        <span className="block text-soft text-sm">
          {t('materials.withWaste', { amount: amountWords(l.withWaste, l.unit, unit) })}
        </span>
      </td>
      <td className="py-1">
        {typed !== null && (
          <input
            className="field w-28"
            aria-label={t('materials.usedOf', { label: l.label })}
            placeholder={told === undefined ? '' : amountWords(told, l.unit, unit)}
            value={typed}
            onChange={(e) => onType(e.target.value)}
          />
        )}
        {isOwn && less && (
          <span className="block text-hold text-sm leading-tight">
            {t('materials.farLess', { share: Math.round((100 * used!) / l.net) })}
          </span>
        )}
      </td>
    </tr>
  );
}

/** What a shower needs, what was used of it, and the shopping list of the job. */
function MaterialsOf({ shower, job }: { shower: LocalShower; job: readonly LocalShower[] }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [scope, setScope] = useState<'shower' | 'job'>('shower');
  const own = useMemo(() => showerTakeOff(shower.state), [shower.state]);
  const all = useMemo(() => shoppingList(job.map((s) => showerTakeOff(s.state))), [job]);
  const lines = scope === 'shower' ? own : all;
  const [chosen, setChosen] = useState<string | null>(null);
  const shownCut = lines.find((l) => l.id === chosen && l.cut) ?? lines.find((l) => l.cut) ?? null;
  const nameOf = (line: TakeOffLine) => (piece: number) => {
    const { shower: place, seam } = line.goesOn[piece]!;
    const { state } = scope === 'shower' ? shower : job[place]!;
    const name = elementName(t, state.geometry!.model, seam);
    return scope === 'shower' ? name : `${state.created?.body.name}: ${name}`;
  };
  const { told, typed, setTyped, problem, mayTell: mayTellHere, usedIn, keep } = useUsed(shower, own);
  const mayTell = mayTellHere && scope === 'shower';
  const csv = () =>
    saveFile(
      writeTakeOffCsv(
        lines.map((l) => ({
          item: l.label,
          needed: amountWords(l.net, l.unit, unit),
          withWaste: amountWords(l.withWaste, l.unit, unit),
          packs: l.packs,
          pack: l.packLabel,
          pieces: l.pieces.map((mm, k) => ({ mm, goesOn: nameOf(l)(k) })),
        })),
      ),
      'text/csv',
      'materials.csv',
    );
  if (own.length === 0) return <p className="p-4 text-soft">{t('materials.none')}</p>;
  return (
    <main className="grid min-h-0 grid-cols-[1fr_420px] gap-4 overflow-y-auto p-3 max-lg:grid-cols-1">
      <section className="flex min-w-0 flex-col gap-2">
        <div className="flex flex-wrap gap-1.5">
          {(['shower', 'job'] as const).map((s) => (
            <button key={s} type="button" className="key" aria-pressed={scope === s} onClick={() => setScope(s)}>
              {t(`materials.scope.${s}`, { count: job.length, job: shower.state.created?.body.job })}
            </button>
          ))}
          <button type="button" className="key" onClick={csv}>
            {t('materials.csv')}
          </button>
        </div>
        <table className="w-full text-left" data-testid="take-off">
          <thead>
            <tr className="border-edge border-b text-soft text-sm">
              {(['item', 'net', 'buy', 'used'] as const).map((key) => (
                <th key={key} className="py-1 pr-3 font-normal">
                  {key === 'used' && !mayTell ? '' : t(`materials.column.${key}`)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((l) => (
              <LineRow
                key={`${l.id} ${l.label}`}
                line={l}
                used={usedIn(l)}
                told={told?.[l.id]}
                isOwn={scope === 'shower'}
                typed={mayTell ? (typed[l.id] ?? '') : null}
                onType={(text) => setTyped({ ...typed, [l.id]: text })}
                onCut={() => setChosen(l.id)}
              />
            ))}
          </tbody>
        </table>
        {problem && (
          <p role="alert" className="text-hold">
            {problem}
          </p>
        )}
        {mayTell && (
          <button
            type="button"
            className="key key-main self-start"
            disabled={Object.values(typed).every((v) => v.trim() === '')}
            onClick={keep}
          >
            {t('materials.keep')}
          </button>
        )}
        <p className="text-soft text-sm">{t('materials.source')}</p>
      </section>
      <aside className="flex flex-col gap-2">{shownCut && <CutPlan line={shownCut} nameOf={nameOf(shownCut)} />}</aside>
    </main>
  );
}

/** What a shower, or a whole job, uses by its drawing, how bands are cut from rolls, and what was used of it. */
export function MaterialsScreen() {
  const { t } = useTranslation();
  const { id = '' } = useParams();
  const { showers, asleep, fetchShower } = useParts('showers', 'asleep', 'fetchShower');
  const shower = showers.get(id);
  const name = shower?.state.created?.body.job;
  const job = useMemo(() => [...showers.values()].filter((s) => s.state.created?.body.job === name), [showers, name]);
  // What a whole job uses is summed over all of its showers: those that sleep are worked out for it.
  useEffect(() => {
    for (const one of asleep) if (name !== undefined && one.row?.job === name) void fetchShower(one.id);
  }, [asleep, name, fetchShower]);
  if (!shower?.state.geometry || !shower.state.rules) return <Missing />;
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ToolHeader
        back={`/showers/${id}?stage=membrane`}
        title={t('materials.title', { name: shower.state.created?.body.name })}
      />
      <MaterialsOf key={id} shower={shower} job={job} />
    </div>
  );
}
