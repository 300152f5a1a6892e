import { lapRequirements } from '@careful-seam/core/checks/randomDraws';
import { toolsOf } from '@careful-seam/core/rules/tools';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { screenOf } from '../../shared/answering';
import type { LocalShower } from '../../tablet/store';
import { openedLater } from '../../ui/openedLater';
import { KeepKey } from './KeepKey';

const MixTimer = openedLater(() => import('./MixTimer').then((m) => m.MixTimer), 'sums');
const RandomSheet = openedLater(() => import('./RandomSheet').then((m) => m.RandomSheet), 'sums');

/** The stage whose tools are offered. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is looked at. */
  stage: string;
  /** The person may read, look and release. */
  mayInspect: boolean;
}

/** What a stage has beside its looks and readings: a survey, a film, the cure clock, materials, places at random, a timer. */
export function StageTools({ shower, stage, mayInspect }: Props) {
  const { t } = useTranslation();
  const [sheet, setSheet] = useState<'random' | 'mix' | null>(null);
  const { state } = shower;
  const spec = state.rules!.method.stages.find((s) => s.key === stage)!;
  const screens = new Set(spec.checks.map(screenOf));
  const offers = new Set(toolsOf(spec));
  const link = (to: string, label: string) => (
    <Link key={to} to={`/showers/${shower.id}/${to}`} className="key flex grow items-center justify-center px-2">
      {label}
    </Link>
  );
  const random = mayInspect && offers.has('random-places') && lapRequirements(state, stage).length > 0;
  const tools = [
    ...(mayInspect
      ? [
          <KeepKey
            key="keep"
            showerId={shower.id}
            state={state}
            stage={stage}
            element={null}
            className="key grow px-2"
          />,
        ]
      : []),
    ...(screens.has('survey') ? [link(`survey?stage=${stage}`, t('survey.open'))] : []),
    ...(screens.has('film') ? [link('film', t('film.open'))] : []),
    ...(screens.has('cure') ? [link('cure', t('cure.open'))] : []),
    ...(offers.has('materials') ? [link('materials', t('materials.open'))] : []),
    ...(random
      ? [
          <button key="random" type="button" className="key grow px-2" onClick={() => setSheet('random')}>
            {t('random.open')}
          </button>,
        ]
      : []),
    ...(offers.has('mix-timer')
      ? [
          <button key="mix" type="button" className="key grow px-2" onClick={() => setSheet('mix')}>
            {t('mix.open')}
          </button>,
        ]
      : []),
  ];
  if (tools.length === 0) return null;
  return (
    <div className="flex flex-wrap gap-1.5">
      {tools}
      {sheet === 'random' && (
        <RandomSheet showerId={shower.id} state={state} stage={stage} onClose={() => setSheet(null)} />
      )}
      {sheet === 'mix' && <MixTimer showerId={shower.id} onClose={() => setSheet(null)} />}
    </div>
  );
}
