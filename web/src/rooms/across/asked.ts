import { useTranslation } from 'react-i18next';
import { useSearchParams } from 'react-router';

/** What is asked, as it stands in the address: it can be kept, sent and gone back to. */
export interface Asked {
  /** A word of it; empty where it is not asked. */
  get: (key: string) => string;
  /** Asks otherwise; an empty word asks for nothing. Another question begins with its first row. */
  set: (change: Readonly<Record<string, string>>) => void;
  /** The words that are asked for, in the order of the keys, with the language that is spoken. */
  query: (keys: readonly string[]) => string;
}

/** What stands in the address of a screen. */
export function useAsked(): Asked {
  const [params, setParams] = useSearchParams();
  const { i18n } = useTranslation();
  return {
    get: (key) => params.get(key) ?? '',
    set: (change) => {
      const next = new URLSearchParams(params);
      if (!('skip' in change)) next.delete('skip');
      for (const [key, value] of Object.entries(change)) {
        if (value === '') next.delete(key);
        else next.set(key, value);
      }
      setParams(next, { replace: true });
    },
    query: (keys) => {
      const out = new URLSearchParams();
      for (const key of keys) if (params.get(key)) out.set(key, params.get(key)!);
      out.set('lang', i18n.language.startsWith('es') ? 'es' : 'en');
      return out.toString();
    },
  };
}

/** What every question can be asked of. */
export const QUESTION_KEYS = ['group', 'stage', 'method', 'from', 'to'] as const;
/** What the list can be filtered by. */
export const FILTER_KEYS = [
  'q',
  'state',
  'severity',
  'crew',
  'kind',
  'cause',
  'group',
  'stage',
  'made',
  'escape',
  'job',
  'month',
  'method',
  'inspector',
  'from',
  'to',
] as const;
