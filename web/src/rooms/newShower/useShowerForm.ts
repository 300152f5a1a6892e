import { keptAfter } from '@careful-seam/core/proof/fold/keptAfter';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { useDraft } from '../../shared/useDraft';
import { useNewestBook } from '../../tablet/newestBook';
import { newId, useNamedShowers, useParts } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import type { Drawn } from './drawing';
import type { NewForm } from './fields';
import { firstStage, keptForm, mainFirst, namesOf, pinnedBy, type Start, typeOf } from './formStart';
import { startTyped } from './typed';
import { useDrawn } from './useDrawn';

/** What is left of the form when it is not kept; fields that an older program did not know begin as they do anew. */
const Left = z
  .object({
    typed: z.custom<NewForm>((v) => typeof v === 'object' && v !== null),
    ids: z.record(z.string(), z.string()),
    unit: z.enum(['in', 'mm']),
  })
  .nullable();

/** The form of a shower: what is typed, what is drawn of it, and what becomes of it when it is kept. */
export function useShowerForm(start: Start) {
  const { t } = useTranslation();
  const navigate = useNavigate();
  const preferred = usePreferences().unit;
  const { crews, settings, writeAll } = useParts('crews', 'settings', 'writeAll');
  const known = useNamedShowers();
  const [before] = useState(() => (start.kind === 'new' ? null : keptForm(start.shower)));
  const draft = useDraft(
    { kind: 'shower', showerId: start.kind === 'new' ? null : start.shower.id, element: start.kind },
    Left,
    null,
  );
  const left = draft.start;
  const unit = left?.unit ?? before?.typed.unit ?? preferred;
  const [ids] = useState(() => new Map<string, string>(Object.entries(left?.ids ?? before?.ids ?? {})));
  /** Each part keeps the id that it was first drawn with. */
  const idOf = useCallback(
    (part: string): string => {
      const known = ids.get(part) ?? newId();
      ids.set(part, known);
      return known;
    },
    [ids],
  );
  const [problem, setProblem] = useState<string | null>(null);
  const book = useNewestBook() ?? null;
  const form = useForm<NewForm>({
    defaultValues: {
      ...startTyped(unit, idOf),
      name: '',
      job: '',
      crewId: crews[0]?.id ?? '',
      method: mainFirst(book?.methods ?? [], settings?.mainMethods)[0]?.key ?? '',
      parts: {},
      variants: [],
      beginsAt: firstStage(book),
      ...before?.typed,
      ...(start.kind === 'new' ? {} : namesOf(start)),
      ...left?.typed,
    },
  });
  const typed = form.watch();
  const { hold } = draft;
  const [untouched] = useState(() => JSON.stringify(typed));
  const now = JSON.stringify(typed);
  useEffect(() => {
    if (left !== null || now !== untouched)
      hold({ typed: JSON.parse(now) as NewForm, ids: Object.fromEntries(ids), unit });
  }, [hold, left, now, untouched, ids, unit]);
  /** Dimensions read from a file stand instead of the form until somebody goes back to it. */
  const [imported, setImported] = useState<ShowerModel | null>(null);
  const { drawn: byForm, settle } = useDrawn(typed, idOf, unit);
  const withFile = (drawing: Drawn): Drawn =>
    imported ? { ...drawing, model: imported, geometry: imported.geometry, fall: null, problems: {} } : drawing;
  const drawn = withFile(byForm);
  const pinned = pinnedBy(typed, start, book);
  const kept = useMemo(
    () => (start.kind === 'edit' && drawn.model ? keptAfter(start.shower.state, drawn.model) : null),
    [start, drawn.model],
  );
  const submit = form.handleSubmit(async ({ name, job, crewId, ...shape }) => {
    const { geometry } = withFile(settle());
    if (!geometry || !book) return setProblem(book ? t('new.fix') : t('new.noBook'));
    const drawing = imported ? {} : { drawing: { typed: { ...shape, unit }, ids: Object.fromEntries(ids) } };
    if (start.kind === 'edit') {
      const before = start.shower.state.geometry!;
      const body = { version: before.version + 1, geometry, ...drawing, ...(before.from ? { from: before.from } : {}) };
      await writeAll(start.shower.id, [{ kind: 'geometry-set', body }], draft.about);
      draft.drop();
      return navigate(`/showers/${start.shower.id}`);
    }
    const all = name.split('\n').flatMap((line) => (line.trim() === '' ? [] : [line.trim()]));
    const taken = known.filter((s) => s.job === job.trim()).map((s) => s.name.toLowerCase());
    const twice = all.find((n, k) => taken.includes(n.toLowerCase()) || all.indexOf(n) !== k);
    if (twice) return setProblem(t('new.nameTaken', { name: twice, job: job.trim() }));
    const from = start.kind === 'like' ? { from: typeOf(start.shower) } : {};
    const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
    let id = '';
    for (const one of all) {
      id = newId();
      const entries = [
        { kind: 'shower-created' as const, body: { name: one, job: job.trim(), crewId, timeZone } },
        { kind: 'geometry-set' as const, body: { version: 1, geometry, ...drawing, ...from } },
        { kind: 'rules-pinned' as const, body: { ruleBook: book.id, version: book.version, ...pinned } },
      ];
      // What was typed goes with the last of them.
      await writeAll(id, entries, one === all.at(-1) ? draft.about : undefined);
    }
    draft.drop();
    await navigate(all.length === 1 ? `/showers/${id}` : '/');
  });
  return { form, draft, typed, unit, book, crews, drawn, pinned, kept, imported, setImported, problem, submit };
}
/** What the form is at. */
export type ShowerFormState = ReturnType<typeof useShowerForm>;
