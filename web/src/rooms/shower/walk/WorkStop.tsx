import { laidIn } from '@careful-seam/core/checks/cureOfShower';
import type { Stop } from '@careful-seam/core/checks/walk';
import type { ShowerState } from '@careful-seam/core/log/state';
import { type Check, isOf } from '@careful-seam/core/rules/checks/check';
import { linesOf } from '@careful-seam/core/rules/combineMethods';
import { labelOf } from '@careful-seam/core/rules/labelLimits';
import { verdictSentence } from '@careful-seam/words/sentences/sentences';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { screenOf } from '../../../shared/answering';
import { WorkDoneSheet } from '../../../shared/WorkDoneSheet';
import type { LocalShower } from '../../../tablet/store';
import { usePreferences } from '../../../ui/preferences';
import { KitSheet } from '../KitSheet';

/** Work that a stop waits for. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is walked. */
  stage: string;
  /** The stop. */
  stop: Stop;
}

/** The stages of which a wait would have to know when they were laid, and does not. */
function untold(state: ShowerState, check: Check): string[] {
  if (!isOf(check, 'wait')) return [];
  const asked = state.rules!.method.stages.filter((s) => check.after.includes(s.key) && s.checks.length > 0);
  return asked.filter((s) => laidIn(state, s.key, check.cures === 'drying').length === 0).map((s) => s.key);
}

/** Work that has a screen of its own, and a wait that must first be told when its work was done. */
export function WorkStop({ shower, stage, stop }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { pathname, search } = useLocation();
  const [telling, setTelling] = useState<string | null>(null);
  const [ticking, setTicking] = useState(false);
  const { id, state } = shower;
  const { book, pinned } = state.rules!;
  const now = stop.judgements[0]!;
  const { check } = now.requirement;
  const screen = screenOf(check);
  const wantsLabel = isOf(check, 'film') && labelOf(check, pinned.method, linesOf(book, pinned)) === null;
  const stageLabel = (key: string) => state.rules!.method.stages.find((s) => s.key === key)?.label ?? key;
  return (
    <div className="flex flex-1 flex-col gap-2">
      <p>{verdictSentence(t, state.geometry!.model, now, unit)}</p>
      {untold(state, check).map((key) => (
        <button key={key} type="button" className="key key-main text-lg" onClick={() => setTelling(key)}>
          {t('walk.tellWork', { stage: stageLabel(key) })}
        </button>
      ))}
      {wantsLabel && (
        <button type="button" className="key key-main text-lg" onClick={() => setTicking(true)}>
          {t('walk.kit')}
        </button>
      )}
      {screen && (
        <Link
          to={`/showers/${id}/${screen}${screen === 'survey' ? `?stage=${stage}` : ''}`}
          state={{ from: `${pathname}${search}` }}
          className="key key-main flex items-center justify-center text-lg"
        >
          {t(`walk.screen.${screen}`)}
        </Link>
      )}
      {ticking && <KitSheet shower={shower} onClose={() => setTicking(false)} />}
      {telling !== null && (
        <WorkDoneSheet showerId={id} state={state} stage={telling} onClose={() => setTelling(null)} />
      )}
    </div>
  );
}
