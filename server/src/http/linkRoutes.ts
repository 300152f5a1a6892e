import { SessionAnswer } from '@careful-seam/contract/api/messages';
import { LinkCode, LinkList, MadeLink, NewLink } from '@careful-seam/contract/api/office';
import { ShowerRecord } from '@careful-seam/contract/record/record';
import { z } from 'zod';
import { listLinks, makeLink, revokeLink, useLink } from '../people/links';
import { openLinkSession, personOfLink } from '../people/sessions';
import { Refusal } from '../refusals/refusal';
import { oneShowerRow, type ShowerWithHead } from '../showers/showerRows';
import { PaperAsk } from './asks';
import { paperOut, unitAsked } from './paperOut';
import { type Call, languageOf, param, type Route, read, setSessionCookie, uuidParam } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** Makes a link, told once. */
async function make({ req, res, person, services }: Call): Promise<unknown> {
  const wanted = read(NewLink, req.body);
  const made = await makeLink(services.store, wanted, {
    by: person.id,
    now: services.now(),
    origin: services.publicUrl,
  });
  res.locals.about = `${wanted.kind}${'label' in wanted ? `: ${wanted.label}` : ''}`;
  return made;
}

/** Ends one. */
async function revoke({ req, res, services }: Call): Promise<unknown> {
  const row = await revokeLink(services.store, uuidParam(req, 'link'), services.now());
  res.locals.about = `${row.kind}: ${row.label}`;
  return {};
}

/** Somebody of a crew came by its link: a session with crew-lead rights on that crew, as long as the link lives. */
async function enterByLink({ req, res, services }: Call): Promise<unknown> {
  const { code } = read(LinkCode, req.body);
  const link = await useLink(services.store, 'crew', code, services.now());
  const { token, expiresAt } = await openLinkSession(services.store, link);
  setSessionCookie(req, res, token, expiresAt);
  const person = personOfLink(link);
  res.locals.who = person;
  res.locals.about = link.label;
  return { person, expiresAt: expiresAt.toISOString() };
}

/** The shower that a link opens. */
async function behindLink({ req, res, services }: Call): Promise<ShowerWithHead> {
  const link = await useLink(services.store, 'record', param(req, 'code'), services.now());
  const row = await oneShowerRow(services.store, link.showerId!);
  if (!row) throw new Refusal('link-without-shower', 'code');
  res.locals.who = { id: link.id, name: `${link.label} (link)` };
  res.locals.about = `${row.name}, ${row.job}`;
  return row;
}

/** One record, read only, for whoever holds a link to it; and the making and ending of links. */
export const LINK_ROUTES: readonly Route[] = [
  {
    ...MANAGING,
    method: 'get',
    path: '/api/links',
    summary: 'Links that were made, newest first',
    gives: LinkList,
    answer: async ({ services }) => ({ links: await listLinks(services.store) }),
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/links',
    summary: 'Makes a link; its code is told once',
    body: 'json',
    takes: NewLink,
    gives: MadeLink,
    did: 'link-made',
    answer: make,
  },
  {
    ...MANAGING,
    method: 'delete',
    path: '/api/links/:id',
    summary: 'Ends a link at once',
    gives: z.object({}),
    did: 'link-revoked',
    answer: revoke,
  },
  {
    method: 'post',
    path: '/api/session/link',
    summary: "Enters by a crew's link",
    roles: 'anyone',
    limit: 'sign-in',
    body: 'json',
    takes: LinkCode,
    gives: SessionAnswer,
    did: 'link-opened',
    answer: enterByLink,
  },
  {
    method: 'get',
    path: '/api/shared-record/:code',
    summary: 'The record behind a link, as data',
    roles: 'anyone',
    limit: 'sign-in',
    gives: ShowerRecord,
    did: 'record-read-by-link',
    answer: async (call) => {
      const { id } = await behindLink(call);
      return paperOut(call, { what: 'record.json', shower: id }, `record-${id}.json`);
    },
  },
  {
    method: 'get',
    path: '/api/shared-record/:code/record.pdf',
    summary: 'The record behind a link, printed (query: unit)',
    roles: 'anyone',
    limit: 'sign-in',
    asks: PaperAsk,
    gives: 'application/pdf',
    did: 'record-read-by-link',
    answer: async (call) => {
      const { id } = await behindLink(call);
      return paperOut(
        call,
        { what: 'record.pdf', shower: id, unit: unitAsked(call.req), language: languageOf(call.req) },
        `record-${id}.pdf`,
      );
    },
  },
];
