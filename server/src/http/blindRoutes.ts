import {
  BlindAnswered,
  BlindChoices,
  BlindKept,
  BlindTasks,
  EyesAnswer,
  EyesAsk,
  NewBlindLook,
} from '@careful-seam/contract/api/blind';
import { z } from 'zod';
import { answerBlindLook, askBlindLook, blindChoices, blindTasks, endBlindLook, sameEyes } from '../crews/blindLooks';
import { namesIn } from '../crews/names';
import { Refusal } from '../refusals/refusal';
import { SPOKEN } from './asks';
import { type Call, isUuid, languageOf, param, type Route, read, readQuery, uuidParam, wordsFor } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };
/** For whoever may look at a shower. */
const INSPECTING = { roles: ['inspector', 'manager'] as const, limit: 'usual' as const };
/** What is asked, with the language it is answered in. */
const Asks = { choices: z.object(SPOKEN), tasks: z.object(SPOKEN), eyes: EyesAsk.extend(SPOKEN) };

/** The blind look in the address. */
function lookIn({ req }: Call): string {
  const id = param(req, 'id');
  if (!isUuid(id)) throw new Refusal('no-such-blind-look', 'id');
  return id;
}

/** Asks two inspectors the same. */
async function ask({ req, res, person, services }: Call): Promise<unknown> {
  const { id, shower } = await askBlindLook(services.store, read(NewBlindLook, req.body), person.name, services.now());
  res.locals.about = shower;
  return { id };
}

/** Keeps one's own answers. */
async function answer(call: Call): Promise<unknown> {
  const { req, res, person, services } = call;
  const answers = read(BlindAnswered, req.body);
  const { wrong, shower } = await answerBlindLook(services.store, person, lookIn(call), answers, services.now());
  res.locals.about = shower;
  return { wrong };
}

/** Takes back what was asked. */
async function end(call: Call): Promise<unknown> {
  call.res.locals.about = await endBlindLook(call.services.store, lookIn(call));
  return {};
}

/** Two inspectors look at the same, each without the other. */
export const BLIND_ROUTES: readonly Route[] = [
  {
    ...INSPECTING,
    method: 'get',
    path: '/api/blind-looks/mine',
    summary: 'Blind looks that wait for one’s own answers; nothing of the other’s',
    asks: Asks.tasks,
    gives: BlindTasks,
    answer: async ({ req, person, services }) => ({
      tasks: await blindTasks(services.store, person, languageOf(req), wordsFor(req), services.now()),
    }),
  },
  {
    ...INSPECTING,
    method: 'post',
    path: '/api/blind-looks/:id/answers',
    summary: 'Keeps one’s own answers of a blind look, once',
    body: 'json',
    takes: BlindAnswered,
    gives: BlindKept,
    did: 'blind-look-answered',
    answer,
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/showers/:id/blind-looks',
    summary: 'What two inspectors can be asked of a shower without knowing the other’s answer, and whom',
    asks: Asks.choices,
    gives: BlindChoices,
    answer: async ({ req, services }) => {
      return blindChoices(services.store, uuidParam(req), languageOf(req), services.now());
    },
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/blind-looks',
    summary: 'Asks two inspectors the same of a shower, each without the other',
    body: 'json',
    takes: NewBlindLook,
    gives: z.object({ id: z.uuid() }),
    did: 'blind-look-asked',
    answer: ask,
  },
  {
    ...MANAGING,
    method: 'delete',
    path: '/api/blind-looks/:id',
    summary: 'Takes a blind look back, with what was answered',
    gives: z.object({}),
    did: 'blind-look-ended',
    answer: end,
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/across/eyes',
    summary: 'Do inspectors see the same? Agreement beyond chance, of looks that both have answered',
    asks: Asks.eyes,
    gives: EyesAnswer,
    answer: async ({ req, services }) =>
      sameEyes(
        services.store,
        readQuery(Asks.eyes, req.query),
        await namesIn(services.store, languageOf(req)),
        wordsFor(req),
      ),
  },
];
