import type { DefectChoices } from '@careful-seam/contract/api/defects';
import { ELEMENT_GROUPS } from '@careful-seam/core/crews/elementGroup';
import { DEFECT_STEPS } from '@careful-seam/core/proof/holds/defectLife';
import { SEVERITIES } from '@careful-seam/core/rules/checks/checkBase';
import { monthWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { SelectField, TextField } from '../../ui/fields';
import type { Asked } from './asked';

/** Fields that ask, by their keys. */
interface Props {
  /** What is asked so far. */
  asked: Asked;
  /** What there is to choose from; null while it is on its way. */
  choices: DefectChoices | null;
  /** Which fields, in their order. */
  fields: readonly string[];
}

/** What can be chosen for a key; null for what is typed. */
function useOptions(choices: DefectChoices | null): (key: string) => { id: string; label: string }[] | null {
  const { t, i18n } = useTranslation();
  const words = (list: readonly string[], label: (id: string) => string) =>
    list.map((id) => ({ id, label: label(id) }));
  return (key) => {
    switch (key) {
      case 'group':
        return words(ELEMENT_GROUPS, (id) => t(`elementGroup.${id}`));
      case 'severity':
        return words(SEVERITIES, (id) => t(`severity.${id}`));
      case 'state':
        return [
          ...words(['open', 'closed'], (id) => t(`across.state.${id}`)),
          ...words(
            DEFECT_STEPS.filter((step) => step !== 'closed'),
            (id) => t(`defectStep.${id}`),
          ),
        ];
      case 'crew':
        return choices?.crews ?? [];
      case 'kind':
        return choices?.kinds ?? [];
      case 'cause':
        return choices?.causes ?? [];
      case 'escape':
        return choices?.escapes ?? [];
      case 'stage':
      case 'made':
        return choices?.stages ?? [];
      case 'method':
        return choices?.methods ?? [];
      case 'job':
        return words(choices?.jobs ?? [], (id) => id);
      case 'inspector':
        return words(choices?.inspectors ?? [], (id) => id);
      case 'month':
        return words(choices?.months ?? [], (id) => monthWords(id, i18n.language));
      default:
        return null;
    }
  };
}

/** Selects, days and words that ask; what is chosen stands in the address. */
export function AskFields({ asked, choices, fields }: Props) {
  const { t } = useTranslation();
  const optionsOf = useOptions(choices);
  return (
    <>
      {fields.map((key) => {
        const options = optionsOf(key);
        const value = asked.get(key);
        const label = t(`across.field.${key}`);
        if (options === null)
          return (
            <TextField
              key={key}
              label={label}
              type={key === 'q' ? 'search' : 'date'}
              defaultValue={value}
              onChange={(e) => asked.set({ [key]: e.target.value })}
            />
          );
        // What an address asks for and nobody has is shown as it is: it can be taken away.
        const known = value === '' || options.some((o) => o.id === value);
        return (
          <SelectField
            key={key}
            label={label}
            none={t('across.all')}
            options={known ? options : [...options, { id: value, label: value }]}
            value={value}
            onChange={(e) => asked.set({ [key]: e.target.value })}
          />
        );
      })}
    </>
  );
}
