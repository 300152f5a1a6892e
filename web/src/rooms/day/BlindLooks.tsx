import { BlindKept, type BlindTask, BlindTasks } from '@careful-seam/contract/api/blind';
import { BLIND_ANSWERS, type BlindAnswer } from '@careful-seam/core/crews/codes';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ShowerMap } from '../../drawing/ShowerMap';
import { toldLines } from '../../drawing/toldLines';
import { useParts } from '../../tablet/store';
import { useChange, useList } from '../../tablet/useList';
import { Choice } from '../../ui/Choice';
import { Problem } from '../../ui/Loaded';
import { Sheet } from '../../ui/Sheet';
import { useBlindTapped } from './blindAnswers';

/** Where one's own blind looks are read. */
const usePath = () => `/api/blind-looks/mine?lang=${useTranslation().i18n.language.startsWith('es') ? 'es' : 'en'}`;

/** What the map of a blind look shows. */
interface MapProps {
  /** The blind look. */
  task: BlindTask;
  /** One's own answers so far. */
  answers: Partial<Readonly<Record<string, BlindAnswer>>>;
  /** Told of a place that was tapped. */
  onPlace: (element: string) => void;
}

/** What was kept: where something was not sound, it is to be recorded now. */
function Kept({ task, wrong, onDone }: { task: BlindTask; wrong: readonly string[]; onDone: () => void }) {
  const { t } = useTranslation();
  const nameOf = (element: string) => task.places.find((p) => p.element === element)?.name ?? element;
  return (
    <div className="flex flex-col gap-2" role="status">
      <p className="font-semibold">{t('blind.kept')}</p>
      {wrong.length > 0 && <p className="text-hold">{t('blind.recordNow', { count: wrong.length })}</p>}
      <ul>
        {wrong.map((element) => (
          <li key={element}>
            <Link
              className="flex min-h-12 items-center text-ink"
              to={`/showers/${task.showerId}?${new URLSearchParams({ stage: task.stage, element })}`}
            >
              {nameOf(element)}
            </Link>
          </li>
        ))}
      </ul>
      <button type="button" className="key" onClick={onDone}>
        {t('blind.back')}
      </button>
    </div>
  );
}

/** A seam is dotted until it is answered, then thin or saw-toothed; of what could not be seen it stays broken. */
const DRAWN = { ok: 'seen', defect: 'defect', 'could-not-see': 'covered' } as const;
/** The sign of what is no seam. */
const MARKED = { ok: 'pass', defect: 'fail', 'could-not-see': 'unseen' } as const;

/** Where the places are: the drawing with one's own answers, and nothing of what the record says. */
function BlindMap({ task, answers, onPlace }: MapProps) {
  const { showers, fetchShower, connection } = useParts('showers', 'fetchShower', 'connection');
  const model = showers.get(task.showerId)?.state.geometry?.model;
  const missing = !model && connection !== 'starting';
  useEffect(() => {
    if (missing) void fetchShower(task.showerId);
  }, [missing, fetchShower, task.showerId]);
  if (!model) return null;
  const asked = new Set(task.places.map((p) => p.element));
  const lines = toldLines(model, (seam) => (asked.has(seam) ? [answers[seam] ? DRAWN[answers[seam]] : 'unseen'] : []));
  const marks = new Map(
    [...asked].map((place) => [place, answers[place] ? MARKED[answers[place]] : ('unseen' as const)] as const),
  );
  return (
    <div className="h-64 flex-none">
      <ShowerMap
        model={model}
        lines={lines}
        marks={marks}
        chosen={null}
        onChoose={(place) => asked.has(place) && onPlace(place)}
        keys={false}
      />
    </div>
  );
}

/** One blind look: each place is answered with a tap, and all are kept at once. */
function Asked({ task, onKept }: { task: BlindTask; onKept: (wrong: readonly string[]) => void }) {
  const { t } = useTranslation();
  const path = usePath();
  const { tapped, tap, forget } = useBlindTapped();
  const { change, problem, busy } = useChange([path]);
  const answers: MapProps['answers'] = tapped[task.id] ?? {};
  const rows = useRef(new Map<string, HTMLLIElement>());
  const left = task.places.filter((p) => !answers[p.element]).length;
  const keep = async () => {
    const asked = Object.fromEntries(task.places.map((p) => [p.element, answers[p.element]]));
    const kept = await change(BlindKept, 'POST', `/api/blind-looks/${task.id}/answers`, { answers: asked });
    if (!kept) return;
    forget(task.id);
    onKept(kept.wrong);
  };
  return (
    <>
      <p className="text-soft">{task.why}</p>
      <p className="font-semibold">{t('blind.howTo')}</p>
      {task.leftOut > 0 && <p className="text-soft text-sm">{t('blind.leftOut', { count: task.leftOut })}</p>}
      <BlindMap
        task={task}
        answers={answers}
        onPlace={(element) => rows.current.get(element)?.querySelector<HTMLElement>('[role=radio]')?.focus()}
      />
      <ol className="flex flex-col gap-2">
        {task.places.map((place) => (
          <li
            key={place.element}
            ref={(row) => {
              if (row) rows.current.set(place.element, row);
            }}
          >
            <Choice
              label={place.name}
              value={answers[place.element] ?? null}
              options={BLIND_ANSWERS.map((key) => ({ key, label: t(`blind.answer.${key}`) }))}
              onChoose={(answer) => tap(task.id, place.element, answer)}
            />
          </li>
        ))}
      </ol>
      <Problem text={problem} />
      <button type="button" className="key key-main" disabled={busy || left > 0} onClick={() => void keep()}>
        {left > 0 ? t('blind.left', { count: left }) : t('blind.keep')}
      </button>
    </>
  );
}

/** A key for the blind looks that wait for whoever is signed in; nothing while none does, or while nobody can ask. */
export function BlindLooks() {
  const { t } = useTranslation();
  const path = usePath();
  const { data } = useList(BlindTasks, path);
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<BlindTask | null>(null);
  const [wrong, setWrong] = useState<readonly string[] | null>(null);
  const tasks = data?.tasks ?? [];
  const choose = (task: BlindTask | null) => {
    setChosen(task);
    setWrong(null);
  };
  const close = () => {
    setOpen(false);
    choose(null);
  };
  if (tasks.length === 0 && !open) return null;
  return (
    <>
      <button type="button" className="key my-1" onClick={() => setOpen(true)}>
        {t('blind.open', { count: tasks.length })}
      </button>
      {open && (
        <Sheet title={chosen ? `${chosen.label}: ${chosen.shower}` : t('blind.title')} onClose={close}>
          {chosen === null && (
            <>
              <p>{t('blind.what')}</p>
              {tasks.length === 0 && <p className="text-soft">{t('blind.none')}</p>}
              {tasks.map((task) => (
                <button
                  key={task.id}
                  type="button"
                  className="key flex flex-col items-start py-1 text-left"
                  onClick={() => choose(task)}
                >
                  <span className="font-bold">{task.label}</span>
                  <span>{t('blind.task', { ...task, count: task.places.length })}</span>
                </button>
              ))}
            </>
          )}
          {chosen && wrong === null && <Asked key={chosen.id} task={chosen} onKept={setWrong} />}
          {chosen && wrong && <Kept task={chosen} wrong={wrong} onDone={() => choose(null)} />}
        </Sheet>
      )}
    </>
  );
}
