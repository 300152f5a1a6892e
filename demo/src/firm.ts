/** The demo firm: invented people and crews. The passwords are printed at start and work on demo data only. */
export const DEMO_PASSWORD = 'try-every-seam';

/** Crews of the invented firm. */
export const CREWS = [
  { id: 'crew-heron', name: 'Crew Heron' },
  { id: 'crew-otter', name: 'Crew Otter' },
  { id: 'crew-wren', name: 'Crew Wren' },
] as const;

/** Its people: no name of anybody. */
export const PEOPLE = [
  {
    key: 'inspector',
    id: '5b1f1f5e-0c5e-4a0b-9d2e-6f1f3a8f0a01',
    name: 'Ines Corrigan',
    signIn: 'ines',
    role: 'inspector',
    crewId: null,
  },
  {
    key: 'second',
    id: '5b1f1f5e-0c5e-4a0b-9d2e-6f1f3a8f0a02',
    name: 'Tomas Ekwall',
    signIn: 'tomas',
    role: 'inspector',
    crewId: null,
  },
  {
    key: 'manager',
    id: '5b1f1f5e-0c5e-4a0b-9d2e-6f1f3a8f0a03',
    name: 'Maren Oduya',
    signIn: 'maren',
    role: 'manager',
    crewId: null,
  },
  {
    key: 'heron',
    id: '5b1f1f5e-0c5e-4a0b-9d2e-6f1f3a8f0a04',
    name: 'Pavel Dunmore',
    signIn: 'pavel',
    role: 'crew-lead',
    crewId: 'crew-heron',
  },
  {
    key: 'otter',
    id: '5b1f1f5e-0c5e-4a0b-9d2e-6f1f3a8f0a05',
    name: 'Lucia Brandt',
    signIn: 'lucia',
    role: 'crew-lead',
    crewId: 'crew-otter',
  },
  {
    key: 'wren',
    id: '5b1f1f5e-0c5e-4a0b-9d2e-6f1f3a8f0a06',
    name: 'Idris Vale',
    signIn: 'idris',
    role: 'crew-lead',
    crewId: 'crew-wren',
  },
] as const;

/** Jobs with an invented site. */
export const JOBS = [
  { name: 'Larkspur House', address: '12 Larkspur Lane', timeZone: 'America/Chicago' },
  { name: 'Tannery Row', address: 'Tannery Row, behind the old weir', timeZone: 'America/Chicago' },
] as const;

/** Where the sites lie and what is on its way to them: invented. Days are counted from today. */
export const PLAN = {
  start: { latitude: 40.105, longitude: -88.21 },
  places: {
    'Larkspur House': { latitude: 40.118, longitude: -88.243 },
    'Tannery Row': { latitude: 40.087, longitude: -88.188 },
    "Miller's Court": { latitude: 40.141, longitude: -88.199 },
    'Quarry Steps': { latitude: 40.079, longitude: -88.262 },
  },
  goods: [{ shower: '1 wet corner', stage: 'tile', what: 'tile', inDays: 4 }],
  promised: [{ shower: '14 loft', inDays: 2 }],
} as const;

/** What the demo firm has set: invented, as all of its figures. */
export const SETTINGS = {
  name: 'Demo Tile Firm',
  address: '14 Foundry Lane, Fairhaven',
  licence: 'DEMO-0042',
  timeZone: 'America/Chicago',
  paper: 'letter',
  mainMethods: [],
  unit: 'in',
  language: 'en',
  currency: 'USD',
  hourRate: 68,
  afterTileCost: 7400,
} as const;

/** One of them, for short. */
export type PersonKey = (typeof PEOPLE)[number]['key'];
