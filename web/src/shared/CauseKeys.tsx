import { offered } from '@careful-seam/core/rules/listed';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Choice } from '../ui/Choice';
import { SelectField } from '../ui/fields';

/** The causes that a kind of defect usually has, as keys. */
interface Props {
  /** The rule book with its kinds and families. */
  book: RuleBook;
  /** Kind of the defect; null where it has none. */
  kind: string | null;
  /** What it asks for, in words. */
  label: string;
  /** The family that is chosen; empty for "not known yet". */
  value: string;
  /** Told of another one. */
  onChoose: (family: string) => void;
}

/** No key has this id: it shows all the others. */
const MORE = 'more…';

/** Why it happened: the usual causes of its kind one tap away, "not known yet" among them, all others behind one key. */
export function CauseKeys({ book, kind, label, value, onChoose }: Props) {
  const { t } = useTranslation();
  const [all, setAll] = useState(false);
  const families = offered(book.causes, value || null);
  const usual = book.defectKinds.find((k) => k.id === kind)?.causes ?? [];
  const near = usual.flatMap((id) => families.find((c) => c.id === id) ?? []);
  const shown =
    near.some((c) => c.id === value) || value === '' ? near : [...near, families.find((c) => c.id === value)!];
  return (
    <>
      <Choice
        label={label}
        value={all ? MORE : value || 'none'}
        options={[
          { key: 'none', label: t('defect.notKnownYet') },
          ...shown.filter(Boolean).map((c) => ({ key: c.id, label: c.label })),
          { key: MORE, label: t('defect.otherCause') },
        ]}
        onChoose={(key) => {
          setAll(key === MORE);
          if (key !== MORE) onChoose(key === 'none' ? '' : key);
        }}
      />
      {all && (
        <SelectField
          label={t('defect.otherCause')}
          options={families}
          none={t('defect.notKnownYet')}
          value={value}
          onChange={(e) => {
            setAll(false);
            onChoose(e.target.value);
          }}
        />
      )}
    </>
  );
}
