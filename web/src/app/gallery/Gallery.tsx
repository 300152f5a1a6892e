import { buildLedger } from '@careful-seam/core/proof/shown/seamLine';
import { type ReactNode, useMemo, useState } from 'react';
import { Ladder } from '../../drawing/Ladder';
import { Legend } from '../../drawing/Legend';
import { ShowerMap } from '../../drawing/ShowerMap';
import { ElementCard } from '../../rooms/shower/ElementCard';
import { StageCard } from '../../rooms/shower/StageCard';
import { useStore } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { DataTable } from '../../ui/DataTable';
import { FractionPad } from '../../ui/FractionPad';
import { SelectField, TextArea, TextField } from '../../ui/fields';
import { marksOf } from '../marksOf';
import { makeSamples, type Sample } from './samples';

// For whoever works on the interface: every card, pad and state of the map on invented data, side by side, without a server and
// without a tap. Reached at /gallery in `npm run dev`; a build does not have it, so its words are in one language.

const nothing = () => {};

/** One piece of the interface with what it shows. */
function Piece({ name, children, wide = false }: { name: string; children: ReactNode; wide?: boolean }) {
  return (
    <section aria-label={name} className={`flex flex-col gap-2 border-edge border p-3 ${wide ? 'col-span-2' : ''}`}>
      <h3 className="text-soft text-sm">{name}</h3>
      {children}
    </section>
  );
}

/** A shower in one of its states: its ladder, its map, the card of its stage and of one element. */
function ShowerPiece({ sample: { name, shower, stage, element } }: { sample: Sample }) {
  const { state } = shower;
  const ledger = useMemo(() => buildLedger(state, [stage]), [state, stage]);
  const marks = useMemo(() => marksOf(state, stage), [state, stage]);
  return (
    <Piece name={name} wide>
      <div className="grid h-[640px] grid-cols-[176px_1fr_412px_412px] gap-2">
        <div className="overflow-y-auto">
          <Ladder state={state} chosen={stage} onChoose={nothing} />
        </div>
        <ShowerMap
          model={state.geometry!.model}
          lines={ledger.lines}
          marks={marks}
          chosen={element}
          onChoose={nothing}
          keys={false}
          waterMm={state.flood?.running ? state.flood.waterLineMm : null}
        />
        <div className="flex min-h-0 flex-col overflow-y-auto">
          <StageCard
            shower={shower}
            stage={stage}
            mayInspect
            mayBuild={false}
            onChoose={nothing}
            onWalk={nothing}
            onNext={null}
          />
        </div>
        <div className="flex min-h-0 flex-col overflow-y-auto">
          <ElementCard
            showerId={shower.id}
            state={state}
            stage={stage}
            element={element}
            mayInspect
            mayAsk
            onDefect={nothing}
            onLife={nothing}
            onClose={nothing}
            backTo="Stage"
          />
        </div>
      </div>
    </Piece>
  );
}

/** The pad of a length in one unit, for a lap or for a height on a wall. */
function PadPiece({ unit, aboutMm, name }: { unit: 'in' | 'mm'; aboutMm: number; name: string }) {
  const [text, setText] = useState('');
  return (
    <Piece name={name}>
      <FractionPad unit={unit} aboutMm={aboutMm} text={text} onText={setText}>
        <output className="key key-main flex items-center justify-center">{text || '–'}</output>
      </FractionPad>
    </Piece>
  );
}

/** What forms, tables and keys are made of. */
function FormPieces() {
  const [shape, setShape] = useState<'alcove' | 'corner' | 'curbless'>('alcove');
  const crews = [
    { id: 'a', label: 'Crew Heron' },
    { id: 'b', label: 'Crew Wren' },
  ];
  return (
    <>
      <Piece name="one of a few">
        <Choice
          label="Shape"
          value={shape}
          options={(['alcove', 'corner', 'curbless'] as const).map((key) => ({
            key,
            label: key,
            disabled: key === 'curbless',
          }))}
          onChoose={setShape}
        />
      </Piece>
      <Piece name="fields">
        <TextField label="Name" defaultValue="Hall bath" />
        <TextField label="Drain from left" defaultValue="72 feet" problem="This is longer than the shower is wide." />
        <SelectField label="Crew" options={crews} none="Nobody yet" />
        <TextArea label="What was found" defaultValue="Edge lifted for a hand's width." />
      </Piece>
      <Piece name="a table" wide>
        <DataTable
          label="Links"
          rows={crews}
          rowId={(c) => c.id}
          columns={[
            { key: 'label', label: 'For whom', by: (c) => c.label, cell: (c) => c.label },
            {
              key: 'end',
              label: '',
              cell: () => (
                <button type="button" className="key">
                  End it
                </button>
              ),
            },
          ]}
        />
        <DataTable label="Nothing" rows={[]} rowId={() => ''} columns={[]} empty="Nothing was written yet." />
      </Piece>
      <Piece name="keys">
        <div className="flex flex-wrap gap-2">
          <button type="button" className="key">
            a key
          </button>
          <button type="button" className="key key-main">
            the main key
          </button>
          <button type="button" className="key key-hold">
            a key that holds
          </button>
          <button type="button" className="key" aria-pressed="true">
            pressed
          </button>
          <button type="button" className="key" disabled>
            not now
          </button>
        </div>
      </Piece>
    </>
  );
}

/** Every card, pad and state of the map on invented data. For development alone. */
export function Gallery() {
  const samples = useMemo(makeSamples, []);
  const [ready] = useState(() => {
    // The cards look at who is signed in and at what the tablet holds.
    useStore.setState({
      person: { id: 'person-inspector', name: 'Ada Test', role: 'inspector', crewId: null },
      showers: new Map(samples.map(({ shower }) => [shower.id, shower])),
    });
    return true;
  });
  if (!ready) return null;
  return (
    <main className="h-full overflow-y-auto p-4">
      <h1 className="font-bold text-xl">Gallery</h1>
      <div className="grid grid-cols-2 gap-3">
        {samples.map((sample) => (
          <ShowerPiece key={sample.name} sample={sample} />
        ))}
        <PadPiece name="pad, a lap in inches" unit="in" aboutMm={50} />
        <PadPiece name="pad, a height in inches" unit="in" aboutMm={1800} />
        <PadPiece name="pad, a lap in millimetres" unit="mm" aboutMm={50} />
        <PadPiece name="pad, a height in millimetres" unit="mm" aboutMm={1800} />
        <FormPieces />
        <Piece name="legend">
          <Legend />
        </Piece>
      </div>
    </main>
  );
}
