import { FIRST_SETTINGS, FirmSettings } from '@careful-seam/contract/api/firm';
import { PhotoTaken } from '@careful-seam/contract/api/messages';
import { LeakLimit } from '@careful-seam/contract/api/office';
import { sha256Hex } from '@careful-seam/core/log/chain';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { type UseFormRegister, useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { FirmChoiceFields, type FirmChoices } from '../../shared/FirmChoiceFields';
import { LogoField } from '../../shared/LogoField';
import { useNewestBook } from '../../tablet/newestBook';
import { useStore } from '../../tablet/store';
import { useChange } from '../../tablet/useList';
import { Problem } from '../../ui/Loaded';
import { Backup } from './Backup';
import { ShowersFiles } from './ShowersFiles';
import { StagePrices } from './StagePrices';

/** A figure as typed; null for none. */
const numberOrNull = (typed: unknown): number | null => {
  const text = String(typed ?? '')
    .trim()
    .replace(',', '.');
  return text === '' ? null : Number(text);
};

/** The methods that are offered first. */
function MainMethods({ chosen, choose }: { chosen: readonly string[]; choose: (keys: string[]) => void }) {
  const { t } = useTranslation();
  const methods = useNewestBook()?.methods ?? [];
  return (
    <fieldset className="-my-1">
      <legend>{t('firm.mainMethods')}</legend>
      <div className="grid grid-cols-2 gap-x-3 leading-tight">
        {methods.map(({ key, label }) => (
          <label key={key} className="flex min-h-12 items-center gap-2">
            <input
              type="checkbox"
              className="size-6 shrink-0"
              checked={chosen.includes(key)}
              onChange={(e) => choose(e.target.checked ? [...chosen, key] : chosen.filter((k) => k !== key))}
            />
            {label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** What the firm is and how it works. */
function SettingsForm({ settings }: { settings: FirmSettings }) {
  const { t } = useTranslation();
  const sync = useStore((s) => s.sync);
  const { change, problem, busy } = useChange([]);
  const [kept, setKept] = useState(false);
  const { register, handleSubmit, formState, watch, setValue } = useForm({
    resolver: zodResolver(FirmSettings),
    defaultValues: settings,
  });
  const keep = handleSubmit(async (values) => {
    setKept((await change(FirmSettings, 'PUT', '/api/firm/settings', values)) !== null);
    await sync();
  });
  const logo = watch('logo');
  const chooseLogo = async (chosen: Blob | null) => {
    if (chosen === null) return setValue('logo', null, { shouldDirty: true });
    const hash = sha256Hex(new Uint8Array(await chosen.arrayBuffer()));
    const sent = await change(PhotoTaken, 'PUT', `/api/photos/${hash}`, chosen);
    if (sent) setValue('logo', sent.hash, { shouldDirty: true });
  };
  const text = (name: 'name' | 'currency' | 'address' | 'licence' | 'timeZone', label: string) => (
    <label className="flex flex-col gap-1">
      {label}
      <input className="field" {...register(name)} />
      {formState.errors[name] && <span className="text-hold text-sm">{t(`firm.wrong.${name}`)}</span>}
    </label>
  );
  const rate = (name: 'hourRate' | 'afterTileCost', label: string) => (
    <label className="flex flex-col gap-1">
      {label}
      <input className="field" inputMode="decimal" {...register(name, { setValueAs: numberOrNull })} />
      {formState.errors[name] && <span className="text-hold text-sm">{t('firm.wrong.rate')}</span>}
    </label>
  );
  return (
    <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
      <h2 className="font-bold text-lg">{t('firm.title')}</h2>
      <div className="grid grid-cols-[2fr_1fr] gap-2">
        {text('name', t('firm.name'))}
        {text('currency', t('firm.currency'))}
      </div>
      {text('address', t('firm.address'))}
      <div className="grid grid-cols-2 gap-2">
        {text('licence', t('firm.licence'))}
        {text('timeZone', t('firm.timeZone'))}
      </div>
      <LogoField shown={logo === null ? null : `/api/photos/${logo}`} onChoose={(chosen) => void chooseLogo(chosen)} />
      <FirmChoiceFields register={register as unknown as UseFormRegister<FirmChoices>} />
      <div className="grid grid-cols-3 items-end gap-2">
        {rate('hourRate', t('firm.hourRate'))}
        {rate('afterTileCost', t('firm.afterTileCost'))}
        <label className="flex flex-col gap-1">
          {t('firm.tabletDays')}
          <input className="field" inputMode="numeric" {...register('tabletDays', { setValueAs: Number })} />
          {formState.errors.tabletDays && <span className="text-hold text-sm">{t('firm.wrong.tabletDays')}</span>}
        </label>
      </div>
      <p className="-mt-1 text-soft text-sm leading-tight">{t('firm.ratesMean')}</p>
      <StagePrices
        prices={watch('afterTileByStage') ?? {}}
        onPrices={(prices) => setValue('afterTileByStage', prices, { shouldDirty: true })}
      />
      <MainMethods
        chosen={watch('mainMethods')}
        choose={(keys) => setValue('mainMethods', keys, { shouldDirty: true })}
      />
      <Problem text={problem} />
      <button type="submit" className="key key-main self-start" disabled={busy}>
        {t(kept && !formState.isDirty ? 'office.kept' : 'office.keep')}
      </button>
    </form>
  );
}

/** The smallest leak that a flood test must rule out. */
function LeakForm() {
  const { t } = useTranslation();
  const sync = useStore((s) => s.sync);
  const { change, problem, busy } = useChange([]);
  const newest = useNewestBook();
  const current = newest?.methods.map((m) => floodCheckOf(m)?.check.smallestLeakMmPerDay ?? null)[0] ?? null;
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? (current === null ? '' : String(current));
  const value = numberOrNull(shown);
  const wrong = value !== null && !(value > 0 && value <= 20);
  const keep = async () => {
    if (await change(LeakLimit, 'PUT', '/api/firm/leak-limit', { smallestLeakMmPerDay: value })) setTyped(null);
    await sync();
  };
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-bold text-lg">{t('firm.leakTitle')}</h2>
      <label className="flex flex-col gap-1">
        {t('firm.leak')}
        <input
          className="field max-w-48"
          inputMode="decimal"
          value={shown}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      {wrong && <p className="text-hold">{t('firm.wrong.leak')}</p>}
      <p className="text-soft text-sm">{t('firm.leakMeans', { version: newest?.version ?? '' })}</p>
      <Problem text={problem} />
      <button
        type="button"
        className="key self-start"
        disabled={busy || wrong || value === current}
        onClick={() => void keep()}
      >
        {t('firm.keepLeak')}
      </button>
    </section>
  );
}

/** What holds for the whole firm: settings, the smallest leak, files, backup and restore. */
export function Firm() {
  const kept = useStore((s) => s.settings);
  // What a tablet kept before a setting was new lacks it.
  const settings = { ...FIRST_SETTINGS, ...kept };
  return (
    <div className="relative grid h-full grid-cols-2 gap-6 overflow-y-auto max-lg:grid-cols-1">
      <div className="flex flex-col gap-6">
        <SettingsForm key={JSON.stringify(settings)} settings={settings} />
        <LeakForm />
      </div>
      <div className="flex flex-col gap-6">
        <Backup />
        <ShowersFiles />
      </div>
    </div>
  );
}
