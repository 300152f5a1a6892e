import type { LocalShower } from '../tablet/store';
import { openedLater } from '../ui/openedLater';

const DefectLifeSheet = openedLater(() => import('../rooms/defect/DefectLifeSheet').then((m) => m.DefectLifeSheet));
const DefectSheet = openedLater(() => import('../rooms/defect/DefectSheet').then((m) => m.DefectSheet));
const RedoSheet = openedLater(() => import('../rooms/defect/RedoSheet').then((m) => m.RedoSheet));
const KeepSheet = openedLater(() => import('../rooms/shower/KeepSheet').then((m) => m.KeepSheet));

/** What lies over the shower's screen. */
export interface OpenSheet {
  /** Which one is laid over the screen. */
  kind: 'defect' | 'redo' | 'life' | 'keep';
  /** Id of the defect it is about, or null for a new one. */
  defect: string | null;
  /** Key of the stage that it is of, where that is not the one that is looked at. */
  stage?: string;
  /** The part of the seam that it begins with; null: the whole of it. */
  stretch: { fromMm: number; toMm: number } | null;
}

/** The sheet that lies over a shower, if any. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is looked at. */
  stage: string;
  /** What is chosen on the map; null for the whole stage. */
  element: string | null;
  /** The one that is open. */
  sheet: OpenSheet;
  /** Leads to an element at a stage, with the sheet closed. */
  onPlace: (stage: string, element: string) => void;
  /** Opens another one, or none. */
  onSheet: (sheet: OpenSheet | null) => void;
}

/** A defect as it is found, done again, or lives on; a picture or note that goes on. */
export function ShowerSheets({ shower: { id, state }, stage, element, sheet, onPlace, onSheet }: Props) {
  const about = sheet.defect ? (state.defects.get(sheet.defect) ?? null) : null;
  const onClose = () => onSheet(null);
  if (sheet.kind === 'keep')
    return <KeepSheet showerId={id} state={state} stage={sheet.stage ?? stage} element={element} onClose={onClose} />;
  if (sheet.kind === 'defect' && element)
    return (
      <DefectSheet
        showerId={id}
        state={state}
        stage={sheet.stage ?? stage}
        element={element}
        defect={about}
        stretch={sheet.stretch}
        onClose={onClose}
      />
    );
  if (about && sheet.kind === 'redo') return <RedoSheet showerId={id} state={state} defect={about} onClose={onClose} />;
  if (about && sheet.kind === 'life')
    return (
      <DefectLifeSheet
        showerId={id}
        state={state}
        defect={about}
        onRedo={() => onSheet({ ...sheet, kind: 'redo' })}
        onPicture={() => onSheet({ ...sheet, kind: 'defect' })}
        onPlace={(to, at) => {
          onClose();
          onPlace(to, at);
        }}
        onClose={onClose}
      />
    );
  return null;
}
