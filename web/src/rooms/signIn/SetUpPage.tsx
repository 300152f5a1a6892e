import { PASSWORD_AT_LEAST } from '@careful-seam/contract/api/office';
import { SetUpAnswer, type SetUpState, type SetUpTyped } from '@careful-seam/contract/api/setUp';
import { readPeople } from '@careful-seam/files/readPeople';
import { useQueryClient } from '@tanstack/react-query';
import { type InputHTMLAttributes, useState } from 'react';
import { type FieldPath, FormProvider, type UseFormRegister, useForm, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link, Navigate } from 'react-router';
import { FirmChoiceFields, type FirmChoices } from '../../shared/FirmChoiceFields';
import { LogoField } from '../../shared/LogoField';
import { call } from '../../tablet/api';
import { PageTitle } from '../../ui/PageTitle';
import { usePreferences } from '../../ui/preferences';
import { errorWords } from '../../ui/words';
import { useSetUpState } from './useSetUpState';

/** What is typed on the first day. */
interface Typed {
  /** From the log of the server; good once, for a day. */
  code: string;
  /** The firm. */
  name: string;
  /** The firm, as it stands on records. */
  address: string;
  /** Number of its licence; may be empty. */
  licence: string;
  /** In what lengths are typed and shown. */
  unit: 'in' | 'mm';
  /** The language of words and figures. */
  language: 'en' | 'es';
  /** Where most of its sites are. */
  timeZone: string;
  /** The sheet that records are printed on. */
  paper: 'letter' | 'a4';
  /** Keys of the methods that are offered first. */
  mainMethods: string[];
  /** The first person, who adds the others. */
  manager: { name: string; signIn: string; password: string };
  /** One a line. */
  crews: string;
  /** One a line: name, sign-in, role, crew. */
  people: string;
}

/** Lines that say something, each once. */
const linesOf = (text: string): string[] => [
  ...new Set(
    text
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== ''),
  ),
];

/** The time zone of this machine: most likely that of the firm. */
const deviceZone = (): string => new Intl.DateTimeFormat().resolvedOptions().timeZone;

/** A line of the form. */
type FieldProps = { name: FieldPath<Typed>; label: string } & Omit<InputHTMLAttributes<HTMLInputElement>, 'name'>;

/** A line of the form with its label and problem. */
function Field({ name, label, ...rest }: FieldProps) {
  const { register } = useFormContext<Typed>();
  return (
    <label className="flex flex-col gap-1">
      {label}
      <input className="field" {...rest} {...register(name)} />
    </label>
  );
}

/** The bytes of a picture as text that a form takes along. */
async function asBase64(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
}

/** Name, address, licence, logo, units. */
function FirmFields({ logo, onLogo }: { logo: Blob | null; onLogo: (logo: Blob | null) => void }) {
  const { t, i18n } = useTranslation();
  const { register } = useFormContext<Typed>();
  const { set } = usePreferences();
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-bold text-lg">{t('setUp.firm')}</h2>
      <Field name="name" label={t('firm.name')} maxLength={120} autoComplete="organization" />
      <Field name="address" label={t('firm.address')} maxLength={300} autoComplete="street-address" />
      <div className="grid grid-cols-2 gap-2">
        <Field name="licence" label={t('firm.licence')} maxLength={80} />
        <Field name="timeZone" label={t('firm.timeZone')} list="zones" />
        <datalist id="zones">
          {Intl.supportedValuesOf('timeZone').map((zone) => (
            <option key={zone} value={zone} />
          ))}
        </datalist>
      </div>
      <LogoField shown={logo} onChoose={onLogo} />
      <FirmChoiceFields
        register={register as unknown as UseFormRegister<FirmChoices>}
        onLanguage={(language) => {
          set({ language });
          void i18n.changeLanguage(language);
        }}
      />
    </section>
  );
}

/** The methods that are offered first. */
function MainMethods({ methods }: { methods: SetUpState['methods'] }) {
  const { t, i18n } = useTranslation();
  const { watch, setValue } = useFormContext<Typed>();
  const chosen = watch('mainMethods');
  return (
    <fieldset className="flex flex-col">
      <legend className="mb-1 font-bold text-lg">{t('setUp.methods')}</legend>
      <div className="grid grid-cols-2 gap-x-3">
        {methods.map((m) => (
          <label key={m.key} className="flex min-h-12 items-center gap-2">
            <input
              type="checkbox"
              className="size-6 shrink-0"
              checked={chosen.includes(m.key)}
              onChange={(e) =>
                setValue('mainMethods', e.target.checked ? [...chosen, m.key] : chosen.filter((k) => k !== m.key))
              }
            />
            {i18n.language === 'es' ? m.es : m.en}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** First manager, crews and people. */
function PeopleFields() {
  const { t } = useTranslation();
  const { register, watch } = useFormContext<Typed>();
  const { crews, people, manager } = watch();
  const read = readPeople(people, linesOf(crews), [manager.signIn]);
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-bold text-lg">{t('setUp.others')}</h2>
      <label className="flex flex-col gap-1">
        {t('setUp.crews')}
        <textarea className="field min-h-20 py-2" rows={2} {...register('crews')} />
      </label>
      <label className="flex flex-col gap-1">
        {t('setUp.people')}
        <textarea
          className="field min-h-24 py-2"
          rows={3}
          placeholder={t('setUp.peopleLike')}
          {...register('people')}
        />
      </label>
      {read.people.length > 0 && (
        <p className="text-soft text-sm" data-testid="read-people">
          {read.people.map((p) => `${p.name}: ${t(`role.${p.role}`)}, ${p.signIn}`).join(' · ')}
        </p>
      )}
      {read.problems.map(({ line, why }) => (
        <p key={line} className="text-hold text-sm">
          {t(`setUp.line.${why}`, { line })}
        </p>
      ))}
      <p className="text-soft text-sm">{t('setUp.later')}</p>
    </section>
  );
}

/** What was made, with the links to passwords. */
function Done({ answer }: { answer: SetUpAnswer }) {
  const { t } = useTranslation();
  const told = answer.links.map((l) => ({ ...l, address: `${window.location.origin}${l.path}` }));
  const all = told.map((l) => `${l.name} (${l.signIn}): ${l.address}`).join('\n');
  return (
    <main className="mx-auto flex h-full max-w-3xl flex-col justify-center gap-4 overflow-y-auto p-6">
      <h1 className="font-bold text-2xl">{t('setUp.done')}</h1>
      <p>{t('setUp.doneWords', { signIn: answer.signIn })}</p>
      {told.length > 0 && (
        <>
          <p className="font-bold">{t('setUp.linksOnce')}</p>
          <textarea className="field min-h-40 py-2 text-sm" readOnly value={all} aria-label={t('links.address')} />
          <button type="button" className="key self-start" onClick={() => void navigator.clipboard?.writeText(all)}>
            {t('links.copy')}
          </button>
        </>
      )}
      <Link className="key key-main flex items-center justify-center text-lg" to="/sign-in">
        {t('signIn.go')}
      </Link>
    </main>
  );
}

/** An empty installation's first page: the firm, its first manager, its crews and people. All of it is kept, or nothing. */
export function SetUpPage() {
  const { t } = useTranslation();
  const state = useSetUpState();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [answer, setAnswer] = useState<SetUpAnswer | null>(null);
  const [logo, setLogo] = useState<Blob | null>(null);
  const form = useForm<Typed>({
    defaultValues: {
      code: '',
      name: '',
      address: '',
      licence: '',
      unit: 'in',
      language: 'en',
      timeZone: deviceZone(),
      paper: 'letter',
      mainMethods: [],
      manager: { name: '', signIn: '', password: '' },
      crews: '',
      people: '',
    },
  });
  if (answer) return <Done answer={answer} />;
  if (state.data && !state.data.needed) return <Navigate to="/sign-in" replace />;
  if (!state.data) return <p className="p-8 text-soft">{t(state.isError ? 'setUp.noServer' : 'today.loading')}</p>;
  const keep = form.handleSubmit(async ({ code, manager, crews, people, ...firm }) => {
    setProblem(null);
    const read = readPeople(people, linesOf(crews), [manager.signIn]);
    if (read.problems.length > 0) return setProblem(t('setUp.linesFirst'));
    if (manager.password.length < PASSWORD_AT_LEAST)
      return setProblem(t('links.tooShort', { count: PASSWORD_AT_LEAST }));
    const body: SetUpTyped = {
      code,
      firm,
      logo: logo && (await asBase64(logo)),
      manager,
      crews: linesOf(crews),
      people: read.people,
    };
    try {
      setAnswer(await call(SetUpAnswer, 'POST', '/api/set-up', body));
      // At once: the page for signing in must not send its first visitor back here.
      queries.setQueryData(['set-up'], { ...state.data, needed: false });
    } catch (error) {
      setProblem(errorWords(error));
    }
  });
  return (
    <main className="h-full overflow-y-auto p-6">
      <FormProvider {...form}>
        <form className="mx-auto flex max-w-6xl flex-col gap-3" onSubmit={(e) => void keep(e)}>
          <div>
            <PageTitle text={t('setUp.title')} />
            <h1 className="font-bold text-2xl">{t('setUp.title')}</h1>
            <p className="text-soft">{t('setUp.words')}</p>
          </div>
          <div className="grid grid-cols-2 gap-x-8 gap-y-4 max-lg:grid-cols-1">
            <div className="flex flex-col gap-4">
              <FirmFields logo={logo} onLogo={setLogo} />
              <MainMethods methods={state.data.methods} />
            </div>
            <div className="flex flex-col gap-4">
              <section className="flex flex-col gap-2">
                <h2 className="font-bold text-lg">{t('setUp.you')}</h2>
                <Field name="code" label={t('setUp.code')} autoComplete="one-time-code" autoCapitalize="characters" />
                <div className="grid grid-cols-2 gap-2">
                  <Field name="manager.name" label={t('setUp.yourName')} maxLength={120} autoComplete="name" />
                  <Field name="manager.signIn" label={t('signIn.name')} autoCapitalize="none" autoComplete="username" />
                </div>
                <Field
                  name="manager.password"
                  label={t('links.newPassword', { count: PASSWORD_AT_LEAST })}
                  type="password"
                  autoComplete="new-password"
                />
              </section>
              <PeopleFields />
              {problem && (
                <p role="alert" className="text-hold">
                  {problem}
                </p>
              )}
              <button type="submit" className="key key-main text-lg" disabled={form.formState.isSubmitting}>
                {t('setUp.go')}
              </button>
            </div>
          </div>
        </form>
      </FormProvider>
    </main>
  );
}
