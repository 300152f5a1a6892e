import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import type { Instrument } from './useInstrument';

/** The instrument with the ways to it. */
interface Props {
  /** Where its texts stand: "survey.laser", "cure.thermo". */
  texts: string;
  /** Where its helper listens on this machine. */
  address: string;
  /** How it stands, with the ways to it. */
  instrument: Pick<Instrument, 'state' | 'problem' | 'connect' | 'disconnect'>;
  /** What it reads now. */
  children?: ReactNode;
}

/** Connects an instrument by the address of its bridge on this tablet, and says how that stands. */
export function InstrumentPanel({ texts, address: usual, instrument, children }: Props) {
  const { t } = useTranslation();
  const [address, setAddress] = useState(usual);
  const { state, problem } = instrument;
  return (
    <details className="border-hair border-t pt-1" open={state !== 'off'}>
      <summary className="key flex cursor-pointer items-center">{t(`${texts}.${state}`)}</summary>
      <div className="flex flex-col gap-1.5">
        <div className="flex gap-1.5">
          <input
            className="field text-base"
            aria-label={t(`${texts}.address`)}
            value={address}
            onChange={(e) => setAddress(e.target.value)}
          />
          <button
            type="button"
            className="key flex-none"
            onClick={() => (state === 'off' ? instrument.connect(address) : instrument.disconnect())}
          >
            {t(state === 'off' ? 'instrument.connect' : 'instrument.leave')}
          </button>
        </div>
        {problem && (
          <p role="alert" className="text-hold text-sm">
            {problem === 'address' ? t('instrument.badAddress', { address: usual }) : problem}
          </p>
        )}
        {children}
      </div>
    </details>
  );
}
