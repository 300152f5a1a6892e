import type { ComponentType } from 'react';

/** Fetches the code of a screen. */
type Load = () => Promise<{ default: ComponentType }>;
/** A component as React loads one later. */
const as = async (screen: Promise<ComponentType>): Promise<{ default: ComponentType }> => ({ default: await screen });

/** Each screen's code, loaded when it is first shown: a first visit waits for what it shows and for no more. */
export const screens = {
  signIn: () => as(import('../rooms/signIn/SignIn').then((m) => m.SignIn)),
  setUp: () => as(import('../rooms/signIn/SetUpPage').then((m) => m.SetUpPage)),
  setPassword: () => as(import('../rooms/signIn/SetPasswordPage').then((m) => m.SetPasswordPage)),
  crewLink: () => as(import('../rooms/links/CrewLinkPage').then((m) => m.CrewLinkPage)),
  rounds: () => as(import('../rooms/day/Rounds').then((m) => m.Rounds)),
  shower: () => as(import('./Shower').then((m) => m.Shower)),
  flood: () => as(import('../rooms/flood/Flood').then((m) => m.FloodScreen)),
  survey: () => as(import('../rooms/survey/Survey').then((m) => m.SurveyScreen)),
  film: () => as(import('../rooms/film/Film').then((m) => m.FilmScreen)),
  cure: () => as(import('../rooms/cure/Cure').then((m) => m.CureScreen)),
  materials: () => as(import('../rooms/materials/Materials').then((m) => m.MaterialsScreen)),
  record: () => as(import('../rooms/record/Record').then((m) => m.RecordScreen)),
  newShower: () => as(import('../rooms/newShower/NewShower').then((m) => m.NewShower)),
  office: () => as(import('./Office').then((m) => m.Office)),
  across: () => as(import('./Across').then((m) => m.Across)),
  crewDay: () => as(import('../rooms/crew/CrewDay').then((m) => m.CrewDay)),
  crewShower: () => as(import('../rooms/crew/CrewShower').then((m) => m.CrewShower)),
} satisfies Record<string, Load>;

/** Loads what is not here yet, one after the other. Without a network it is tried again when a screen is opened. */
export async function loadAll(): Promise<void> {
  for (const load of Object.values(screens)) await load().catch(() => undefined);
}
