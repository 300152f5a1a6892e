import { Inspectors, type LinkLine, LinkList, MadeLink, NewLink } from '@careful-seam/contract/api/office';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { zodResolver } from '@hookform/resolvers/zod';
import { useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useNamedShowers, useStore } from '../../tablet/store';
import { useChange, useList } from '../../tablet/useList';
import { Choice } from '../../ui/Choice';
import { type Column, DataTable } from '../../ui/DataTable';
import { SelectField, TextField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';
import { LinkTold } from './LinkTold';

/** Where they come from. */
const LINKS = '/api/links';
/** How long a link for a crew may live, h. */
const CREW_HOURS = [24, 72, 168] as const;
/** How long a link to a record lives, days. */
const RECORD_DAYS = 90;

/** How long an instrument may send, days. */
const DEVICE_DAYS = 3650;

/** How long a calendar is told, days. */
const CALENDAR_DAYS = 365;

/** What is typed for a link of either kind; what the kind does not need stays beside it, so that a tap back loses nothing. */
const Typed = z.object({
  kind: z.enum(['crew', 'record', 'calendar', 'device']),
  /** Whose calendar: a person's id, or a job's name behind a colon. */
  whose: z.string(),
  crewId: z.string(),
  showerId: z.string(),
  hours: z.number(),
  label: z.string(),
  email: z.string(),
});
/** What is typed. */
type Fields = z.infer<typeof Typed>;

/** The link that is wanted, of what was typed. */
const wantedOf = ({ kind, whose, crewId, showerId, hours, label, email }: Fields): unknown => {
  if (kind === 'calendar')
    return {
      kind,
      of: whose.startsWith(':') ? { what: 'job', job: whose.slice(1) } : { what: 'person', userId: whose },
      days: CALENDAR_DAYS,
    };
  if (kind === 'device') return { kind, label: label.trim(), days: DEVICE_DAYS };
  const shared = { label: label.trim(), email: email.trim() || null };
  return kind === 'crew' ? { kind, crewId, hours, ...shared } : { kind, showerId, days: RECORD_DAYS, ...shared };
};

/** Right when the server would take the link that it asks for. */
const Sound = Typed.refine((typed) => NewLink.safeParse(wantedOf(typed)).success);

/** A link for a crew, or to one record. */
function MakeLink({ onMade }: { onMade: (link: MadeLink) => void }) {
  const { t } = useTranslation();
  const crews = useStore((s) => s.crews);
  const known = useNamedShowers();
  const people = useList(Inspectors, '/api/inspectors');
  const { change, problem, busy } = useChange([LINKS]);
  const { register, handleSubmit, watch, setValue, formState } = useForm<Fields>({
    resolver: zodResolver(Sound),
    mode: 'onChange',
    defaultValues: {
      kind: 'crew',
      whose: '',
      crewId: crews[0]?.id ?? '',
      showerId: '',
      hours: CREW_HOURS[0],
      label: '',
      email: '',
    },
  });
  const { kind, hours } = watch();
  const make = handleSubmit(async (typed) => {
    const made = await change(MadeLink, 'POST', LINKS, wantedOf(typed));
    if (made) onMade(made);
  });
  return (
    <form className="flex max-w-2xl flex-col gap-2" onSubmit={(e) => void make(e)}>
      <Choice
        label={t('links.for')}
        value={kind}
        onChoose={(next) => setValue('kind', next, { shouldValidate: true })}
        options={[
          { key: 'crew', label: t('links.forCrew') },
          { key: 'record', label: t('links.forRecord') },
          { key: 'calendar', label: t('links.forCalendar') },
          { key: 'device', label: t('links.forDevice') },
        ]}
      />
      {kind === 'calendar' && (
        <SelectField
          label={t('links.whose')}
          none={t('links.choosePerson')}
          options={[
            ...(people.data?.inspectors ?? []).map((p) => ({ id: p.id, label: p.name })),
            ...[...new Set(known.map((s) => s.job))].map((job) => ({ id: `:${job}`, label: job })),
          ]}
          {...register('whose')}
        />
      )}
      {kind === 'crew' && (
        <>
          <SelectField
            label={t('life.crew')}
            options={crews.map((c) => ({ id: c.id, label: c.name }))}
            {...register('crewId')}
          />
          <Choice
            label={t('links.lives')}
            value={hours}
            onChoose={(next) => setValue('hours', next)}
            options={CREW_HOURS.map((key) => ({ key, label: t('links.days', { count: key / 24 }) }))}
          />
        </>
      )}
      {kind === 'record' && (
        <SelectField
          label={t('links.shower')}
          options={known.map((s) => ({ id: s.id, label: `${s.job}: ${s.name}` }))}
          none={t('links.choose')}
          {...register('showerId')}
        />
      )}
      {kind !== 'calendar' && (
        <>
          <TextField label={t(kind === 'device' ? 'links.deviceName' : 'links.label')} {...register('label')} />
          {kind !== 'device' && <TextField label={t('links.email')} type="email" {...register('email')} />}
        </>
      )}
      {kind === 'device' && <p className="text-soft text-sm">{t('links.deviceWhat')}</p>}
      {kind === 'calendar' && <p className="text-soft text-sm">{t('links.calendarWhat')}</p>}
      <Problem text={problem} />
      <button type="submit" className="key key-main self-start" disabled={busy || !formState.isValid}>
        {t('links.make')}
      </button>
    </form>
  );
}

/** It opens nothing any more. */
const hasEnded = (link: LinkLine): boolean => link.revokedAt !== null || Date.parse(link.expiresAt) < Date.now();

/** Ends a link that still opens something. */
function EndKey({ link }: { link: LinkLine }) {
  const { t } = useTranslation();
  const { change, problem } = useChange([LINKS]);
  if (hasEnded(link)) return null;
  return (
    <>
      <button type="button" className="key" onClick={() => void change(z.object({}), 'DELETE', `${LINKS}/${link.id}`)}>
        {t('links.revoke')}
      </button>
      <Problem text={problem} />
    </>
  );
}

/** Links that were made, with the key that ends them. */
function LinkTable({ links }: { links: readonly LinkLine[] }) {
  const { t } = useTranslation();
  const columns = useMemo((): Column<LinkLine>[] => {
    const endOf = (l: LinkLine) => l.revokedAt ?? l.expiresAt;
    const opens = (l: LinkLine) => `${t(`linkKind.${l.kind}`)} · ${l.about}`;
    return [
      {
        key: 'for',
        label: t('links.forWhom'),
        by: (l) => l.label,
        cell: (l) => <span className={hasEnded(l) ? 'text-soft' : 'font-bold'}>{l.label}</span>,
      },
      { key: 'opens', label: t('links.opens'), by: opens, cell: opens },
      {
        key: 'until',
        label: t('links.ends'),
        by: endOf,
        cell: (l) =>
          t(l.revokedAt ? 'links.revokedAt' : hasEnded(l) ? 'links.expiredAt' : 'links.until', {
            at: momentWords(Date.parse(endOf(l))),
          }),
      },
      { key: 'uses', label: t('links.uses'), by: (l) => l.uses, cell: (l) => t('links.used', { count: l.uses }) },
      { key: 'by', label: t('links.maker'), by: (l) => l.madeBy, cell: (l) => l.madeBy },
      { key: 'end', label: '', cell: (l) => <EndKey link={l} /> },
    ];
  }, [t]);
  return <DataTable label={t('links.made')} rows={links} columns={columns} rowId={(l) => l.id} />;
}

/** Links: a crew's own holds on a phone without a sign-in, a record for its owner. Made, seen, ended. */
export function Links() {
  const { t } = useTranslation();
  const answer = useList(LinkList, LINKS);
  const [link, setLink] = useState<MadeLink | null>(null);
  return (
    <div className="h-full overflow-y-auto">
      {link ? <LinkTold link={link} onClose={() => setLink(null)} /> : <MakeLink onMade={setLink} />}
      <h2 className="pt-4 font-bold text-lg">{t('links.made')}</h2>
      <Loaded answer={answer} empty={t('links.none')} isEmpty={(d) => d.links.length === 0}>
        {({ links }) => <LinkTable links={links} />}
      </Loaded>
    </div>
  );
}
