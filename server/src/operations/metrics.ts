import { timingSafeEqual } from 'node:crypto';
import { finished } from 'node:stream';
import type { Request, RequestHandler, Response } from 'express';
import { Counter, collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { DataSource } from 'typeorm';
import { picturesAt } from '../photos/picturesAt';
import { Refusal } from '../refusals/refusal';
import { lastChores } from './chores';

/** Figures for whoever watches the server. */
export interface Metrics {
  /** Times every request under the route that answered it, never under what was typed into its address. */
  count: RequestHandler;
  /** Answers with everything that was counted, in the text form of Prometheus. */
  answer: RequestHandler;
}

/** The route that answered, as it stands in the table of routes. */
const routeOf = (req: Request): string => (req.route as { path?: string } | undefined)?.path ?? 'none';

/** True for the right token, in the same time for any wrong one. */
const isToken = (shown: string, token: string): boolean => {
  const [a, b] = [Buffer.from(shown), Buffer.from(token)];
  return a.length === b.length && timingSafeEqual(a, b);
};

/** What is measured of this server; `token` null: nobody may read it. */
export function makeMetrics(store: DataSource, picturePlace: string, token: string | null): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const registers = [registry];
  const seconds = new Histogram({
    name: 'seam_http_request_seconds',
    help: 'Time from a request to the end of its answer',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30],
    registers,
  });
  const broken = new Counter({
    name: 'seam_http_broken_total',
    help: 'Answers that were broken off',
    registers,
  });
  new Gauge({
    name: 'seam_disk_free_bytes',
    help: 'Free room where the pictures lie',
    registers,
    async collect() {
      const room = await picturesAt(picturePlace)
        .room()
        .catch(() => null);
      if (room) this.set(room.freeBytes);
    },
  });
  new Gauge({
    name: 'seam_chore_age_seconds',
    help: 'Since when the last backup, check and clearing up ended well',
    labelNames: ['what'],
    registers,
    async collect() {
      this.reset();
      for (const { what, ok, endedAt } of await lastChores(store).catch(() => []))
        if (ok && endedAt) this.set({ what }, (Date.now() - endedAt.getTime()) / 1000);
    },
  });
  const pool = () => (store.driver as unknown as { master?: { totalCount: number; waitingCount: number } }).master;
  new Gauge({
    name: 'seam_pool_connections',
    help: 'Connections to the database, open and waited for',
    labelNames: ['state'],
    registers,
    collect() {
      this.set({ state: 'open' }, pool()?.totalCount ?? 0);
      this.set({ state: 'waited-for' }, pool()?.waitingCount ?? 0);
    },
  });
  return {
    count: (req: Request, res: Response, next) => {
      const end = seconds.startTimer();
      finished(res, (error) => {
        if (error) broken.inc();
        else end({ method: req.method, route: routeOf(req), status: String(res.statusCode) });
      });
      next();
    },
    answer: async (req, res, next) => {
      const shown = /^Bearer (.+)$/.exec(req.get('authorization') ?? '')?.[1] ?? '';
      if (token === null) return next();
      if (!isToken(shown, token)) return next(new Refusal('no-token', 'authorization'));
      res.type(registry.contentType).send(await registry.metrics());
    },
  };
}
