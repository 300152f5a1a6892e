import { DefectChoices } from '@careful-seam/contract/api/defects';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { useList } from '../../tablet/useList';
import { AskFields } from './AskFields';
import { type Asked, useAsked } from './asked';

/** What answers a question. */
interface Props {
  /** The answer in words; the first one is said first. */
  says: readonly string[];
  /** Showers that are not counted yet. */
  behind: number;
  /** What is asked. */
  asked: Asked;
  /** Fields that ask otherwise. */
  fields: readonly string[];
  /** Other fields and keys beside them. */
  more?: ReactNode;
  /** How it was reckoned, in small letters below. */
  note?: ReactNode;
  /** Charts and tables. */
  children: ReactNode;
}

/** What there is to choose from. */
export function useChoices(): DefectChoices | null {
  const asked = useAsked();
  return useList(DefectChoices, `/api/defect-choices?${asked.query([])}`).data ?? null;
}

/** The page of one question: the answer in words first, then what it is asked of, then what shows it. */
export function Page({ says, behind, asked, fields, more, note, children }: Props) {
  const { t } = useTranslation();
  const choices = useChoices();
  const [first, ...rest] = says;
  return (
    <div className="flex h-full min-h-0 flex-col gap-2">
      <div aria-live="polite" data-testid="answer">
        <p className="font-bold text-lg leading-snug">{first}</p>
        {rest.map((say) => (
          <p key={say} className="leading-snug">
            {say}
          </p>
        ))}
      </div>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(9.5rem,1fr))] items-end gap-2">
        <AskFields asked={asked} choices={choices} fields={fields} />
        {more}
      </div>
      {behind > 0 && <p className="text-cure text-sm">{t('across.behind', { count: behind })}</p>}
      <div className="min-h-0 flex-1 max-lg:flex-none">{children}</div>
      <p className="text-soft text-sm">
        {note} {t('across.fair')}
      </p>
    </div>
  );
}
