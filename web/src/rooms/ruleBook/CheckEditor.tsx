import { CURE_MODELS } from '@careful-seam/core/cure/cureAge';
import type { Check } from '@careful-seam/core/rules/checks/check';
import { ruleOf } from '@careful-seam/core/rules/checks/check';
import { SEVERITIES, type Severity } from '@careful-seam/core/rules/checks/checkBase';
import type { FilmCheck } from '@careful-seam/core/rules/checks/film';
import type { WaitCheck } from '@careful-seam/core/rules/checks/wait';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** A check of the draft. */
interface Props {
  /** The check as the draft has it. */
  check: Check;
  /** A text of the draft in the language that is spoken. */
  say: (text: string) => string;
  /** The check is called otherwise, in the language that is spoken. */
  onLabel: (said: string) => void;
  /** Told of the check as it is now. */
  onChange: (check: Check) => void;
  /** Takes it out of the draft. */
  onRemove: () => void;
}

/** Which limit. */
type Side = 'least' | 'most';
/** The check with one of its limits changed; null for none. */
function withLimit(check: Check, side: Side, value: number | null): Check {
  const rule = ruleOf(check);
  return rule.withFigures(check, { ...rule.figures(check)!, [side]: value });
}

/** One limit as it is typed; what can't be read stays as typed and is told. */
interface LimitProps {
  /** The check as the draft has it. */
  check: Check;
  /** What the check is called in the language that is spoken. */
  name: string;
  /** Which limit. */
  side: Side;
  /** Told of the check as it is now. */
  onChange: (check: Check) => void;
}

/** One limit, typed in its unit. */
function LimitField({ check, name, side, onChange }: LimitProps) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const figures = ruleOf(check).figures(check)!;
  const isLength = figures.in === 'length';
  const value = figures[side];
  const shown = value === null ? '' : isLength ? showLength(value, unit, 32) : String(Math.round(value * 1000) / 1000);
  const [typed, setTyped] = useState<string | null>(null);
  const read = (text: string): number | null | undefined => {
    if (text.trim() === '') return null;
    if (isLength) {
      const length = parseLength(text, unit);
      return length.ok ? length.value.mm : undefined;
    }
    const figure = Number(text.replace(',', '.'));
    return Number.isFinite(figure) ? figure : undefined;
  };
  const bad = typed !== null && read(typed) === undefined;
  return (
    <input
      className="field px-1"
      aria-label={t(`rules.limit.${side}`, { check: name })}
      placeholder={t(`rules.none.${side}`)}
      value={typed ?? shown}
      aria-invalid={bad}
      onChange={(e) => {
        setTyped(e.target.value);
        const figure = read(e.target.value);
        if (figure !== undefined) onChange(withLimit(check, side, figure));
      }}
      onBlur={() => !bad && setTyped(null)}
    />
  );
}

/** The firm's school of counting cement. */
function SchoolField({ check, name, onChange }: Omit<LimitProps, 'check' | 'side'> & { check: WaitCheck }) {
  const { t } = useTranslation();
  return (
    <select
      className="field px-1 text-base"
      aria-label={t('rules.school', { check: name })}
      value={check.model ?? CURE_MODELS[0]}
      onChange={(e) => onChange({ ...check, model: CURE_MODELS.find((m) => m === e.target.value)! })}
    >
      {CURE_MODELS.map((m) => (
        <option key={m} value={m}>
          {t(`rules.schools.${m}`)}
        </option>
      ))}
    </select>
  );
}

/** Coats of each zone of a film, and what stays on the roller; films and solids come from the label. */
function FilmFields({ check, onChange }: { check: FilmCheck; onChange: (check: Check) => void }) {
  const { t } = useTranslation();
  return (
    <div className="col-span-full flex flex-wrap gap-2">
      {check.zones.map((z, i) => (
        <label key={z.zone} className="text-sm">
          <span className="text-soft">{t('rules.coatsOf', { zone: t(`zone.${z.zone}`) })}</span>
          <input
            type="number"
            min={0}
            max={20}
            className="field w-24 px-1"
            value={z.coats}
            onChange={(e) => {
              const coats = Math.min(20, Math.max(0, Math.round(Number(e.target.value) || 0)));
              onChange({ ...check, zones: check.zones.map((o, k) => (k === i ? { ...o, coats } : o)) });
            }}
          />
        </label>
      ))}
      <label className="text-sm">
        <span className="text-soft">{t('rules.loss')}</span>
        <input
          type="number"
          min={0}
          max={90}
          className="field w-24 px-1"
          value={Math.round(check.lossShare * 100)}
          onChange={(e) =>
            onChange({ ...check, lossShare: Math.min(0.9, Math.max(0, (Number(e.target.value) || 0) / 100)) })
          }
        />
      </label>
    </div>
  );
}

/** One check of the draft: its words, limits, severity, why it matters and where it comes from. */
export function CheckEditor({ check, say, onLabel, onChange, onRemove }: Props) {
  const { t } = useTranslation();
  const limits = ruleOf(check).figures(check);
  return (
    <li className="grid grid-cols-[1fr_6.5rem_6.5rem_7rem_auto] items-start gap-2 border-hair border-b py-1.5 max-md:grid-cols-2">
      <div className="max-md:col-span-2">
        <input
          className="field px-1 text-base"
          aria-label={t('rules.label', { check: check.id })}
          value={say(check.label)}
          onChange={(e) => onLabel(e.target.value)}
        />
        <p className="text-soft text-sm leading-tight">
          {say(check.why)} <span className="italic">{check.source}</span>
        </p>
      </div>
      {limits ? <LimitField check={check} name={say(check.label)} side="least" onChange={onChange} /> : <span />}
      {check.kind === 'wait' && check.cures === 'cement' ? (
        <SchoolField check={check} name={say(check.label)} onChange={onChange} />
      ) : limits?.hasMost ? (
        <LimitField check={check} name={say(check.label)} side="most" onChange={onChange} />
      ) : (
        <span />
      )}
      <select
        className="field px-1 text-base"
        aria-label={t('rules.severity', { check: say(check.label) })}
        value={check.severity}
        onChange={(e) => onChange({ ...check, severity: e.target.value as Severity })}
      >
        {SEVERITIES.map((s) => (
          <option key={s} value={s}>
            {t(`severity.${s}`)}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="key px-2 text-sm"
        aria-label={t('rules.remove', { check: say(check.label) })}
        onClick={onRemove}
      >
        {t('rules.out')}
      </button>
      {check.kind === 'film' && <FilmFields check={check} onChange={onChange} />}
    </li>
  );
}
