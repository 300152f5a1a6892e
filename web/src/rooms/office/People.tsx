import { Crew } from '@careful-seam/contract/api/messages';
import { MadeLink, PeopleAnswer, PersonRow } from '@careful-seam/contract/api/office';
import { ROLES, type Role } from '@careful-seam/core/log/roles';
import { useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { standingCrews } from '../../shared/standingCrews';
import { useParts, useStore } from '../../tablet/store';
import { useChange, useList } from '../../tablet/useList';
import { type Column, DataTable } from '../../ui/DataTable';
import { SelectField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';
import { LinkTold } from './LinkTold';

/** Where they come from. */
const PEOPLE = '/api/people';

/** What is typed of a person. */
interface Fields {
  /** As it stands under entries. */
  name: string;
  /** What is typed to sign in; it stays. */
  signIn: string;
  /** What the person may do. */
  role: Role;
  /** The crew of a crew lead; empty for none. */
  crewId: string;
  /** Where mail goes; empty for nowhere. */
  email: string;
}

/** Adds a person, or changes one. */
function PersonForm({ person, onDone }: { person: PersonRow | null; onDone: () => void }) {
  const { t } = useTranslation();
  const crews = useStore((s) => s.crews);
  const { change, problem, busy } = useChange([PEOPLE]);
  const { register, handleSubmit, watch } = useForm<Fields>({
    defaultValues: {
      name: person?.name ?? '',
      signIn: person?.signIn ?? '',
      role: person?.role ?? 'inspector',
      crewId: person?.crewId ?? '',
      email: person?.email ?? '',
    },
  });
  const isLead = watch('role') === 'crew-lead';
  const keep = handleSubmit(async ({ crewId, email, signIn, ...rest }) => {
    const body = { ...rest, crewId: isLead && crewId ? crewId : null, email: email.trim() || null };
    const answer = person
      ? await change(PersonRow, 'PUT', `${PEOPLE}/${person.id}`, { ...body, disabled: person.disabled })
      : await change(PersonRow, 'POST', PEOPLE, { ...body, signIn });
    if (answer) onDone();
  });
  return (
    <form className="flex flex-col gap-2 border-edge border-2 p-3" onSubmit={(e) => void keep(e)}>
      <label className="flex flex-col gap-1">
        {t('people.name')}
        <input className="field" {...register('name', { required: true })} />
      </label>
      {!person && (
        <label className="flex flex-col gap-1">
          {t('people.signIn')}
          <input className="field" autoCapitalize="none" {...register('signIn', { required: true })} />
        </label>
      )}
      <label className="flex flex-col gap-1">
        {t('people.role')}
        <select className="field" {...register('role')}>
          {ROLES.map((r) => (
            <option key={r} value={r}>
              {t(`role.${r}`)}
            </option>
          ))}
        </select>
      </label>
      {isLead && (
        <label className="flex flex-col gap-1">
          {t('life.crew')}
          <select className="field" {...register('crewId')}>
            <option value="">{t('people.noCrew')}</option>
            {standingCrews(crews).map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="flex flex-col gap-1">
        {t('people.email')}
        <input className="field" type="email" {...register('email')} />
      </label>
      <Problem text={problem} />
      <div className="flex gap-1.5">
        <button type="button" className="key" onClick={onDone}>
          {t('office.cancel')}
        </button>
        <button type="submit" className="key key-main flex-1" disabled={busy}>
          {t('office.keep')}
        </button>
      </div>
    </form>
  );
}

/** What is done to one person: changed, given a new password by a link, disabled and let in again. */
function PersonKeys({
  person,
  onEdit,
  onLink,
}: {
  person: PersonRow;
  onEdit: () => void;
  onLink: (link: MadeLink) => void;
}) {
  const { t } = useTranslation();
  const { change, problem, busy } = useChange([PEOPLE]);
  const { id, name, role, crewId, email, disabled } = person;
  const password = async () => {
    const link = await change(MadeLink, 'POST', '/api/links', { kind: 'password', userId: id });
    if (link) onLink(link);
  };
  return (
    <div className="flex flex-wrap justify-end gap-1.5">
      <button type="button" className="key" onClick={onEdit}>
        {t('people.edit')}
      </button>
      <button type="button" className="key" disabled={busy || disabled} onClick={() => void password()}>
        {t('people.password')}
      </button>
      <button
        type="button"
        className="key"
        disabled={busy}
        onClick={() =>
          void change(PersonRow, 'PUT', `${PEOPLE}/${id}`, { name, role, crewId, email, disabled: !disabled })
        }
      >
        {t(disabled ? 'people.enable' : 'people.disable')}
      </button>
      <Problem text={problem} />
    </div>
  );
}

/** Everybody, with what may be done to them. */
interface TableProps {
  /** Everybody, also those who were disabled. */
  people: readonly PersonRow[];
  /** Opens the form of one. */
  onEdit: (person: PersonRow) => void;
  /** Told of the link to a new password, once. */
  onLink: (link: MadeLink) => void;
}

/** Everybody who may sign in, in any order. */
function PeopleTable({ people, onEdit, onLink }: TableProps) {
  const { t } = useTranslation();
  const crews = useStore((s) => s.crews);
  const columns = useMemo((): Column<PersonRow>[] => {
    const crewOf = (p: PersonRow) => crews.find((c) => c.id === p.crewId)?.name ?? '';
    return [
      {
        key: 'name',
        label: t('people.name'),
        by: (p) => p.name,
        cell: (p) => (
          <>
            <span className={`font-bold ${p.disabled ? 'line-through' : ''}`}>{p.name}</span>
            {p.email && <span className="block text-soft text-sm">{p.email}</span>}
            {p.disabled && <span className="block text-hold text-sm">{t('people.disabled')}</span>}
          </>
        ),
      },
      { key: 'signIn', label: t('people.signIn'), by: (p) => p.signIn, cell: (p) => p.signIn },
      { key: 'role', label: t('people.role'), by: (p) => t(`role.${p.role}`), cell: (p) => t(`role.${p.role}`) },
      { key: 'crew', label: t('life.crew'), by: crewOf, cell: crewOf },
      { key: 'keys', label: '', cell: (p) => <PersonKeys person={p} onEdit={() => onEdit(p)} onLink={onLink} /> },
    ];
  }, [t, crews, onEdit, onLink]);
  return <DataTable label={t('office.page.people')} rows={people} columns={columns} rowId={(p) => p.id} />;
}

/** Makes a crew part of another: told before what it means. */
function MergeCrews() {
  const { t } = useTranslation();
  const { crews, sync } = useParts('crews', 'sync');
  const { change, problem, busy } = useChange([PEOPLE]);
  const [crew, setCrew] = useState('');
  const [into, setInto] = useState('');
  const options = standingCrews(crews).map((c) => ({ id: c.id, label: c.name }));
  const merge = async () => {
    if (!(await change(Crew, 'POST', `/api/crews/${crew}/merge`, { into }))) return;
    setCrew('');
    setInto('');
    await sync();
  };
  return (
    <details>
      <summary className="min-h-12 cursor-pointer py-3 font-semibold">{t('people.mergeTitle')}</summary>
      <p className="text-soft">{t('people.mergeMeans')}</p>
      <div className="flex flex-wrap items-end gap-2 py-2">
        <SelectField
          label={t('life.crew')}
          none=""
          options={options}
          value={crew}
          onChange={(e) => setCrew(e.target.value)}
        />
        <SelectField
          label={t('people.mergeInto')}
          none=""
          options={options.filter((o) => o.id !== crew)}
          value={into}
          onChange={(e) => setInto(e.target.value)}
        />
        <button
          type="button"
          className="key"
          disabled={busy || crew === '' || into === '' || crew === into}
          onClick={() => void merge()}
        >
          {t('people.merge')}
        </button>
      </div>
      <Problem text={problem} />
    </details>
  );
}

/** The crews of the firm. */
function Crews() {
  const { t } = useTranslation();
  const { crews, sync } = useParts('crews', 'sync');
  const { change, problem } = useChange([]);
  const [name, setName] = useState('');
  const add = async () => {
    if (await change(Crew, 'POST', '/api/crews', { name: name.trim() })) setName('');
    await sync();
  };
  return (
    <section className="flex flex-col gap-2 pt-3">
      <h2 className="font-bold text-lg">{t('people.crews')}</h2>
      <p>
        {standingCrews(crews)
          .map((c) => c.name)
          .join(' · ')}
      </p>
      <div className="flex gap-1.5">
        <input
          className="field max-w-80"
          aria-label={t('people.newCrew')}
          placeholder={t('people.newCrew')}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button type="button" className="key" disabled={name.trim() === ''} onClick={() => void add()}>
          {t('people.addCrew')}
        </button>
      </div>
      <Problem text={problem} />
      <MergeCrews />
    </section>
  );
}

/** Everybody who may sign in: added, changed, disabled, given a new password by a link. */
export function People() {
  const { t } = useTranslation();
  const answer = useList(PeopleAnswer, PEOPLE);
  const [editing, setEditing] = useState<PersonRow | 'new' | null>(null);
  const [link, setLink] = useState<MadeLink | null>(null);
  return (
    <div className="h-full overflow-y-auto">
      {link && <LinkTold link={link} onClose={() => setLink(null)} />}
      {editing ? (
        <PersonForm
          key={editing === 'new' ? 'new' : editing.id}
          person={editing === 'new' ? null : editing}
          onDone={() => setEditing(null)}
        />
      ) : (
        <button type="button" className="key key-main" onClick={() => setEditing('new')}>
          {t('people.add')}
        </button>
      )}
      <Loaded answer={answer}>
        {({ people }) => <PeopleTable people={people} onEdit={setEditing} onLink={setLink} />}
      </Loaded>
      <Crews />
    </div>
  );
}
