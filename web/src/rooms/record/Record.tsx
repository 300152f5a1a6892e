import { mayWrite } from '@careful-seam/core/log/roles';
import { buildLedger } from '@careful-seam/core/proof/shown/seamLine';
import { useParams } from 'react-router';
import { Legend } from '../../drawing/Legend';
import { type MarkState, ShowerMap } from '../../drawing/ShowerMap';
import { Missing } from '../../shared/Missing';
import { useStore } from '../../tablet/store';
import { RecordHead } from './RecordHead';
import { RecordPictures } from './RecordPictures';
import { RecordDefects, RecordFigures, RecordFlood, RecordStages } from './RecordSays';
import { SignForm } from './SignForm';

/** The record as it would be handed over: map, figures, stages, defects, and the signature. */
export function RecordScreen() {
  const { id = '' } = useParams();
  const shower = useStore((s) => s.showers.get(id));
  const person = useStore((s) => s.person);
  if (!shower?.state.geometry || !shower.state.rules || !person) return <Missing />;
  const { state } = shower;
  const model = shower.state.geometry.model;
  const begun = shower.state.rules.method.stages.filter((s) => state.stages.get(s.key)?.begun);
  const ledger = buildLedger(
    state,
    begun.map((s) => s.key),
  );
  const marks = new Map<string, MarkState>();
  for (const j of ledger.judgements) {
    if (j.requirement.hasLength) continue;
    const mark: MarkState = j.satisfied ? 'pass' : j.verdict === 'fail' ? 'fail' : 'unseen';
    const before = marks.get(j.requirement.element);
    if (before !== 'fail' && !(before === 'unseen' && mark === 'pass')) marks.set(j.requirement.element, mark);
  }
  return (
    <div className="grid h-full grid-rows-[auto_1fr] max-lg:h-auto">
      <RecordHead shower={shower} />
      <main className="grid min-h-0 grid-cols-[1fr_440px] max-lg:grid-cols-1">
        <div className="flex min-h-0 flex-col p-3">
          <div className="min-h-0 flex-1 max-lg:h-80 max-lg:flex-none">
            <ShowerMap model={model} lines={ledger.lines} marks={marks} chosen={null} />
          </div>
          <Legend />
        </div>
        <aside className="flex min-h-0 flex-col gap-3 overflow-y-auto border-edge border-l p-3">
          <RecordFigures figures={ledger.figures} state={state} />
          <RecordStages state={state} />
          {state.flood && <RecordFlood id={id} flood={state.flood} state={state} />}
          <RecordDefects state={state} />
          <RecordPictures state={state} />
          {mayWrite(person.role, 'record-signed') && <SignForm shower={shower} />}
        </aside>
      </main>
    </div>
  );
}
