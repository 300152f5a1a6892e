import type { ComponentType } from 'react';
import { fetchAhead, type Load } from '../ui/fetchedCode';
import { fetchSheets } from '../ui/openedLater';
import { bringSentences, bringTexts, type TextPart } from '../ui/words';

/** A component as React loads one later, with the texts that it alone has. */
async function as(screen: Promise<ComponentType>, ...texts: readonly TextPart[]): Promise<{ default: ComponentType }> {
  // What is said on site may go wrong, and then it is said.
  const wants = texts.length > 0 ? [bringSentences(), ...texts.map(bringTexts)] : [];
  const [code] = await Promise.all([screen, ...wants]);
  return { default: code };
}

/** Each screen's code, loaded when it is first shown: a first visit waits for what it shows and for no more. */
export const screens = {
  signIn: () => as(import('../rooms/signIn/SignIn').then((m) => m.SignIn)),
  setUp: () =>
    as(
      import('../rooms/signIn/SetUpPage').then((m) => m.SetUpPage),
      'office',
    ),
  setPassword: () =>
    as(
      import('../rooms/signIn/SetPasswordPage').then((m) => m.SetPasswordPage),
      'office',
    ),
  crewLink: () =>
    as(
      import('../rooms/links/CrewLinkPage').then((m) => m.CrewLinkPage),
      'office',
    ),
  behind: async () => {
    const [{ Behind }] = await Promise.all([import('./Behind'), bringSentences()]);
    return { default: Behind };
  },
  signed: () => as(import('./Signed').then((m) => m.Signed)),
  home: () => as(import('./Signed').then((m) => m.Home)),
  rounds: () =>
    as(
      import('../rooms/day/Rounds').then((m) => m.Rounds),
      'site',
    ),
  shower: () =>
    as(
      import('./Shower').then((m) => m.Shower),
      'site',
    ),
  flood: () =>
    as(
      import('../rooms/flood/Flood').then((m) => m.FloodScreen),
      'site',
      'tools',
    ),
  survey: () =>
    as(
      import('../rooms/survey/Survey').then((m) => m.SurveyScreen),
      'site',
      'tools',
    ),
  film: () =>
    as(
      import('../rooms/film/Film').then((m) => m.FilmScreen),
      'site',
      'tools',
    ),
  cure: () =>
    as(
      import('../rooms/cure/Cure').then((m) => m.CureScreen),
      'site',
      'tools',
    ),
  materials: () =>
    as(
      import('../rooms/materials/Materials').then((m) => m.MaterialsScreen),
      'site',
      'tools',
    ),
  call: () =>
    as(
      import('../rooms/call/CallScreen').then((m) => m.CallScreen),
      'site',
      'tools',
    ),
  record: () =>
    as(
      import('../rooms/record/Record').then((m) => m.RecordScreen),
      'site',
      'tools',
    ),
  newShower: () =>
    as(
      import('../rooms/newShower/NewShower').then((m) => m.NewShower),
      'site',
      'tools',
    ),
  office: () =>
    as(
      import('./Office').then((m) => m.Office),
      'site',
      'tools',
      'office',
    ),
  across: () =>
    as(
      import('./Across').then((m) => m.Across),
      'site',
      'tools',
      'office',
    ),
  week: () =>
    as(
      import('../rooms/week/Week').then((m) => m.Week),
      'site',
    ),
  crewDay: () =>
    as(
      import('../rooms/crew/CrewDay').then((m) => m.CrewDay),
      'site',
    ),
  crewShower: () =>
    as(
      import('../rooms/crew/CrewShower').then((m) => m.CrewShower),
      'site',
    ),
} satisfies Record<string, Load>;

/** The screens of a crew's phone. */
const CREW: readonly Load[] = [screens.crewDay, screens.crewShower];

/** Loads what is not here yet, one after the other. Without a network it is tried again when a screen is opened. */
export async function fetchRest(isCrew: boolean): Promise<void> {
  for (const load of isCrew ? CREW : Object.values(screens)) await fetchAhead(load);
  await fetchSheets();
}
