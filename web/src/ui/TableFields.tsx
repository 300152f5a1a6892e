import { CLOCK_ORDERS, type TimeMapping } from '@careful-seam/files/loggerCsv';
import { useTranslation } from 'react-i18next';
import { TimeField } from './TimeField';

/** All time zones that this browser knows. */
const ZONES = Intl.supportedValuesOf('timeZone');

/** One of a few, from a list. */
export function PickField<T extends string | number>({
  label,
  value,
  options,
  onPick,
}: {
  label: string;
  value: T;
  options: readonly { key: T; label: string }[];
  onPick: (key: T) => void;
}) {
  return (
    <label className="text-sm">
      <span className="text-soft">{label}</span>
      <select
        className="field text-base"
        value={String(value)}
        onChange={(e) => onPick(options.find((o) => String(o.key) === e.target.value)!.key)}
      >
        {options.map((o) => (
          <option key={o.key} value={String(o.key)}>
            {o.label}
          </option>
        ))}
      </select>
    </label>
  );
}

/** How the times of a file are to be read: counted from a moment, or a clock in a zone. */
export function ClockFields<M extends TimeMapping>({
  mapping,
  zone,
  onMapping,
}: {
  mapping: M;
  zone: string;
  onMapping: (m: M) => void;
}) {
  const { t } = useTranslation();
  const { clock } = mapping;
  if (clock.kind === 'elapsed')
    return (
      <div className="grid grid-cols-[1fr_2fr] gap-2">
        <PickField
          label={t('flood.file.elapsed')}
          value={clock.unit}
          options={(['s', 'min', 'h'] as const).map((key) => ({ key, label: key }))}
          onPick={(unit) => onMapping({ ...mapping, clock: { ...clock, unit } })}
        />
        <TimeField
          label={t('flood.file.begins')}
          zone={zone}
          atMs={clock.startMs}
          onAt={(ms) => onMapping({ ...mapping, clock: { ...clock, startMs: ms ?? Date.now() } })}
        />
      </div>
    );
  return (
    <div className="grid grid-cols-2 gap-2">
      <PickField
        label={t('flood.file.order')}
        value={clock.order}
        options={CLOCK_ORDERS.map((key) => ({ key, label: t(`flood.file.orders.${key}`) }))}
        onPick={(order) => onMapping({ ...mapping, clock: { ...clock, order } })}
      />
      <PickField
        label={t('flood.file.zone')}
        value={clock.zone}
        options={[...new Set([zone, 'UTC', ...ZONES])].map((key) => ({ key, label: key }))}
        onPick={(picked) => onMapping({ ...mapping, clock: { ...clock, zone: picked } })}
      />
    </div>
  );
}
