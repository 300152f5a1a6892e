import type { WeekAnswer, WeekShower } from '@careful-seam/contract/api/plan';
import type { TFunction } from 'i18next';

/** What the rows of the week are: one's own looks, all showers, or these by who looks and by who builds. */
export const LANES = ['mine', 'showers', 'inspectors', 'crews'] as const;
/** One of them. */
export type LaneKey = (typeof LANES)[number];

/** Showers under one title. */
interface Lane {
  key: string;
  title: string;
  note: string;
  showers: WeekShower[];
}

/** One's own looks: what was given to oneself, then what the plan suggests. */
function own(t: TFunction, { showers, suggested }: WeekAnswer, me: string): Lane[] {
  const mine = new Set(suggested.filter((s) => s.inspectorId === me).map((s) => s.shower));
  return [
    { key: 'mine', title: t('week.mine'), note: '', showers: showers.filter((s) => s.inspectorId === me) },
    {
      key: 'suggested',
      title: t('week.suggestedToMe'),
      note: '',
      showers: showers.filter((s) => s.inspectorId === null && mine.has(s.shower)),
    },
  ].filter((lane) => lane.showers.length > 0);
}

/** The showers of a week as rows under their titles. `me` is who looks at it. */
export function lanesOf(t: TFunction, week: WeekAnswer, lane: LaneKey, me: string): Lane[] {
  const { showers, inspectors, crews, idle } = week;
  if (lane === 'mine') return own(t, week, me);
  if (lane === 'showers') return [{ key: 'all', title: '', note: '', showers }];
  if (lane === 'crews')
    return crews.map((c) => ({
      key: c.id,
      title: c.name,
      note: t('week.idle', { hours: t('way.hours', { count: Math.round(idle[c.id] ?? 0) }) }),
      showers: showers.filter((s) => s.crewId === c.id),
    }));
  return [
    ...inspectors.map((i) => {
      const theirs = showers.filter((s) => s.inspectorId === i.id);
      const count = theirs.reduce((sum, s) => sum + s.lookMinutes, 0);
      return { key: i.id, title: i.name, note: t('week.minutesOf', { count }), showers: theirs };
    }),
    { key: 'none', title: t('week.unassigned'), note: '', showers: showers.filter((s) => s.inspectorId === null) },
  ];
}
