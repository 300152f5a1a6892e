import { evidenceOn } from '../../checks/judge';
import { WHOLE_SHOWER } from '../../checks/requirements';
import type { PhotoUse } from '../../log/places';
import { allEvidence, type ShowerState } from '../../log/state';
import type { Check } from '../../rules/checks/check';

/** A picture that the record holds, with what it is of. */
export interface KeptPicture {
  /** The picture with its marks. */
  photo: PhotoUse;
  /** Id of the entry that holds it. */
  entry: string;
  /** Of what was sound, of a defect as it was found, or of the same place after it was put right. */
  of: 'sound' | 'before' | 'after';
  /** Key of the stage; null where none was said. */
  stage: string | null;
  /** Ids of the elements that it shows; none for a stage or the shower as a whole. */
  elements: string[];
  /** What was said with it; may be empty. */
  words: string;
  /** Name of who took it. */
  by: string;
  /** Id of who took it, where the entry is the picture's alone and can be taken back with it; null for one that something else holds. */
  alone: string | null;
  /** When it was seen, by the clock of its device, ISO 8601. */
  observedAt: string;
  /** What it shows still stands: it was not built again since. */
  stands: boolean;
}

/** Pictures that a look holds, each once, with all the places that it answered. */
function ofLooks(state: ShowerState): KeptPicture[] {
  const found = new Map<string, KeptPicture>();
  for (const e of allEvidence(state)) {
    for (const photo of e.photos ?? []) {
      const key = `${e.entry} ${photo.hash}`;
      const known = found.get(key);
      if (known) {
        if (!known.elements.includes(e.element)) known.elements.push(e.element);
        continue;
      }
      const { entry, stage, element, author: by, observedAt, reason } = e;
      found.set(key, {
        photo,
        entry,
        of: e.answer === 'defect' ? 'before' : 'sound',
        stage,
        elements: [element],
        words: reason ?? '',
        by,
        alone: null,
        observedAt,
        stands: !e.voided,
      });
    }
  }
  return [...found.values()];
}

/** Pictures of defects: as they were found, and after they were put right. */
function ofDefects(state: ShowerState): KeptPicture[] {
  return [...state.defects.values()].flatMap((d) => {
    const elements = [...new Set(d.places.map((p) => p.element))];
    const at = { entry: d.id, stage: d.stage, elements, stands: true, alone: null };
    return [
      ...d.photos.map((photo) => ({
        ...at,
        photo,
        of: 'before' as const,
        words: d.words,
        by: d.author,
        observedAt: d.observedAt,
      })),
      ...d.answers.flatMap((a) =>
        a.photos.map((photo) => ({
          ...at,
          photo,
          of: 'after' as const,
          words: a.words,
          by: a.author,
          observedAt: a.observedAt,
        })),
      ),
      ...d.photosAfter.map((photo) => ({
        ...at,
        photo,
        of: 'after' as const,
        words: '',
        by: d.closedBy ?? '',
        observedAt: d.closedAt ?? d.observedAt,
      })),
    ];
  });
}

/** All pictures of a shower in the order in which they were taken. */
export function picturesOf(state: ShowerState): KeptPicture[] {
  const taken: KeptPicture[] = state.photos.map((e) => ({
    photo: e.body.photo,
    entry: e.id,
    of: 'sound',
    stage: e.body.stage ?? null,
    elements: e.body.place && e.body.place.element !== WHOLE_SHOWER ? [e.body.place.element] : [],
    words: e.body.words ?? '',
    by: e.author.name,
    alone: e.author.id,
    observedAt: e.observedAt,
    stands: true,
  }));
  return [...taken, ...ofLooks(state), ...ofDefects(state)].sort((a, b) => (a.observedAt < b.observedAt ? -1 : 1));
}

/** What the next layer hides and no picture shows yet. */
export interface PictureMissing {
  /** The check that asks for one. */
  check: Check;
  /** Ids of the elements that no picture shows. */
  elements: string[];
}

/**
 * Checks of a stage that the rule book wants a picture kept of, with the places that no picture shows. One of the stage as a whole shows
 * all of them; what does not apply needs none.
 */
export function picturesMissing(state: ShowerState, stage: string): PictureMissing[] {
  const wanted = state.requirements.filter((r) => r.stage.key === stage && r.check.keepPicture === true);
  if (wanted.length === 0) return [];
  const here = picturesOf(state).filter((p) => p.stage === stage && p.of !== 'before' && p.stands);
  if (here.some((p) => p.elements.length === 0)) return [];
  const shown = new Set(here.flatMap((p) => p.elements));
  const missing = new Map<string, PictureMissing>();
  for (const r of wanted) {
    if (shown.has(r.element) || evidenceOn(state, r).looks.at(-1)?.answer === 'not-applicable') continue;
    const known = missing.get(r.check.id) ?? { check: r.check, elements: [] };
    known.elements.push(r.element);
    missing.set(r.check.id, known);
  }
  return [...missing.values()];
}
