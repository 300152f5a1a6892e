import type { Person } from '@careful-seam/contract/api/messages';
import type { Defect } from '@careful-seam/core/log/defect';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import { buildLedger, currentStage } from '@careful-seam/core/proof/shown/seamLine';
import { elementName } from '@careful-seam/words/texts/names';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParams } from 'react-router';
import { Ladder, StagePicker } from '../drawing/Ladder';
import { Legend } from '../drawing/Legend';
import { ShowerMap } from '../drawing/ShowerMap';
import { ElementCard } from '../rooms/shower/ElementCard';
import { StageCard } from '../rooms/shower/StageCard';
import { useWalk, type Walk } from '../rooms/shower/walk/useWalk';
import { elementOfStop, WalkCard } from '../rooms/shower/walk/WalkCard';
import { DropLock } from '../shared/DropLock';
import { Missing } from '../shared/Missing';
import type { DraftKind } from '../tablet/drafts';
import { type LocalShower, useStore } from '../tablet/store';
import { useKeepAwake } from '../tablet/tabletCare';
import { useHotkeys } from '../ui/hotkeys';
import { usePreferences } from '../ui/preferences';
import { GoOn } from './GoOn';
import { marksOf } from './marksOf';
import { Figures, ShowerHead } from './ShowerHead';
import { type OpenSheet, ShowerSheets } from './ShowerSheets';
import { Undo } from './Undo';
import { useShowerAddress } from './useShowerAddress';

/** The stage's own lines; a stage that asks nothing of the seams shows what stands under it. */
function stagesShown(state: ShowerState, stage: string): string[] {
  if (state.requirements.some((r) => r.stage.key === stage && r.hasLength)) return [stage];
  const order = state.rules?.method.stages.find((s) => s.key === stage)?.order ?? 0;
  return (state.rules?.method.stages ?? [])
    .filter((s) => s.order <= order && state.stages.get(s.key)?.begun)
    .map((s) => s.key);
}

/** The next stage on the ladder that asks something and is not released; null behind the last. */
function nextStage(state: ShowerState, stage: string): string | null {
  const stages = [...state.rules!.method.stages].filter((s) => s.checks.length > 0).sort((a, b) => a.order - b.order);
  const order = stages.find((s) => s.key === stage)?.order ?? 0;
  return stages.find((s) => s.order > order && state.stages.get(s.key)?.word !== 'released')?.key ?? null;
}

/** The sheet in which what was left of a form goes on. */
const SHEET_OF: Partial<Record<DraftKind, OpenSheet['kind']>> = {
  defect: 'defect',
  redo: 'redo',
  sound: 'keep',
  close: 'life',
};

/** A sheet over the screen, with the element that it is about. */
type SheetAt = OpenSheet & { element: string | null };

/** What stands beside the map. */
interface AsideProps extends OpenProps {
  /** Key of the stage that is looked at. */
  stage: string;
  /** Where one is, as the address says. */
  address: ReturnType<typeof useShowerAddress>;
  /** The walk, where there is one. */
  walk: Walk | null;
  /** Lays a sheet over the screen. */
  onSheet: (sheet: SheetAt) => void;
}

/** The card beside the map: of an element, of the walk, or of the stage. */
function Aside({ shower, person, stage, address, walk, onSheet }: AsideProps) {
  const { t } = useTranslation();
  const { id, state } = shower;
  const { element } = address;
  const mayInspect = mayWrite(person.role, 'reading');
  const next = nextStage(state, stage);
  const open = (
    kind: OpenSheet['kind'],
    at: string | null,
    defect: Defect | null,
    stretch: OpenSheet['stretch'] = null,
  ) => onSheet({ kind, element: at, defect: defect?.id ?? null, stretch });
  return (
    <aside
      aria-label={element ? elementName(t, state.geometry!.model, element) : t(walk ? 'walk.label' : 'stage.label')}
      className="flex min-h-0 flex-col gap-2 border-edge border-l bg-paper p-3 max-lg:border-l-0"
    >
      {element ? (
        <ElementCard
          key={`${element} ${stage}`}
          showerId={id}
          state={state}
          stage={stage}
          element={element}
          mayInspect={mayInspect}
          mayAsk={mayWrite(person.role, 'deviation-asked')}
          onDefect={(defect, stretch) => open('defect', element, defect, stretch)}
          onLife={(defect) => open('life', element, defect)}
          onClose={address.closeElement}
          backTo={t(walk ? 'walk.backTo' : 'card.back')}
        />
      ) : walk ? (
        <WalkCard
          shower={shower}
          stage={stage}
          walk={walk}
          onElement={address.chooseElement}
          onDefect={(at) => open('defect', at, null)}
          onNext={next ? () => address.nextWalk(next) : null}
          onStop={address.stopWalk}
        />
      ) : (
        <StageCard
          shower={shower}
          stage={stage}
          mayInspect={mayInspect}
          mayBuild={mayWrite(person.role, 'work-done')}
          onChoose={address.chooseElement}
          onWalk={() => address.startWalk(stage)}
          onNext={next ? () => address.chooseStage(next) : null}
        />
      )}
    </aside>
  );
}

/** What a shower's screen is of. */
interface OpenProps {
  /** The shower as this tablet has worked it out, drawn and with its rules. */
  shower: LocalShower;
  /** Who looks at it. */
  person: Person;
}

/** The shower: ladder, unfolded map and card side by side. */
function OpenShower({ shower, person }: OpenProps) {
  const { keys } = usePreferences();
  const { state } = shower;
  const address = useShowerAddress();
  const { element, closeElement } = address;
  const [sheet, setSheet] = useState<SheetAt | null>(null);
  const stage = address.stage ?? currentStage(state)!;
  const mayWalk = mayWrite(person.role, 'reading');
  const walk = useWalk(state, stage, mayWalk ? address.walk : null, address.comeTo);
  const ledger = useMemo(() => buildLedger(state, stagesShown(state, stage)), [state, stage]);
  const marks = useMemo(() => marksOf(state, stage), [state, stage]);
  useEffect(() => {
    const back = (e: KeyboardEvent) => e.key === 'Escape' && !e.defaultPrevented && sheet === null && closeElement();
    window.addEventListener('keydown', back);
    return () => window.removeEventListener('keydown', back);
  }, [sheet, closeElement]);

  useHotkeys(keys && sheet === null);

  const model = state.geometry!.model;
  const stop = element === null ? (walk?.stop ?? null) : null;
  const together = useMemo(() => new Set(stop?.groups.flatMap((g) => g.places.map((p) => p.element)) ?? []), [stop]);
  const chosen = element ?? (stop && elementOfStop(stop));
  const isAsking = element !== null || walk !== null;
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <ShowerHead shower={shower} isAsking={isAsking} />
      <main className="bench grid min-h-0 grid-cols-[176px_1fr_412px] max-lg:grid-cols-1">
        <div className="min-h-0 overflow-y-auto border-edge border-r p-2 max-lg:hidden">
          <Ladder state={state} chosen={stage} onChoose={address.chooseStage} />
        </div>
        <div className={`px-3 pt-2 lg:hidden ${isAsking ? 'max-md:hidden' : ''}`}>
          <StagePicker state={state} chosen={stage} onChoose={address.chooseStage} />
        </div>
        <div className="flex min-h-0 flex-col p-3 pt-1.5 max-lg:pb-0">
          <div className={isAsking ? 'max-md:hidden' : ''}>
            <Figures figures={ledger.figures} />
          </div>
          <div className={`min-h-0 flex-1 max-lg:flex-none ${isAsking ? 'max-lg:h-80 max-md:h-36' : 'max-lg:h-80'}`}>
            <ShowerMap
              model={model}
              lines={ledger.lines}
              marks={marks}
              chosen={chosen}
              together={together}
              onChoose={address.chooseElement}
              keys={keys}
              waterMm={state.flood?.running ? state.flood.waterLineMm : null}
            />
          </div>
          {/* Of one height, whatever stands in it: the map must not jump. */}
          <div className="flex items-center gap-3 md:h-18">
            <div className="flex-1 max-md:hidden">
              <Legend />
            </div>
            <div className={isAsking ? 'max-md:hidden' : ''}>
              <DropLock />
            </div>
            <GoOn
              shower={shower}
              onSheet={({ about }) =>
                setSheet({
                  kind: SHEET_OF[about.kind] ?? 'life',
                  element: about.element,
                  defect: about.defect,
                  stretch: null,
                  ...(about.stage ? { stage: about.stage } : {}),
                })
              }
            />
            <Undo shower={shower} />
          </div>
        </div>
        <Aside shower={shower} person={person} stage={stage} address={address} walk={walk} onSheet={setSheet} />
      </main>
      {sheet && (
        <ShowerSheets
          shower={shower}
          stage={stage}
          element={sheet.element}
          sheet={sheet}
          onPlace={address.goTo}
          onSheet={(to) => setSheet(to && { ...to, element: sheet.element })}
        />
      )}
    </div>
  );
}

/** The screen of one shower, once it is on the tablet. */
export function Shower() {
  const { id = '' } = useParams();
  const shower = useStore((s) => s.showers.get(id));
  const person = useStore((s) => s.person);
  useKeepAwake();
  if (!shower?.state.geometry || !shower.state.rules || !person || currentStage(shower.state) === null)
    return <Missing />;
  return <OpenShower key={id} shower={shower} person={person} />;
}
