import { extendZodWithOpenApi, OpenAPIRegistry, OpenApiGeneratorV31 } from '@asteasolutions/zod-to-openapi';
import { ErrorAnswer } from '@careful-seam/contract/api/messages';
import { z } from 'zod';
import { COOKIE, type Route } from './route';

extendZodWithOpenApi(z);

/** A path as OpenAPI writes it. */
const openPath = (path: string): string => path.replaceAll(/:(\w+)/g, '{$1}');
/** What stands in it. */
const paramsOf = (path: string) =>
  z.object(Object.fromEntries([...path.matchAll(/:(\w+)/g)].map((m) => [m[1]!, z.string()])));

/** What a route gives. */
function contentOf(gives: Route['gives']) {
  return typeof gives === 'string' ? { [gives]: { schema: z.string() } } : { 'application/json': { schema: gives } };
}

/** What it takes. */
function bodyOf(route: Route) {
  if (route.body === 'bytes') return { body: { content: { 'application/octet-stream': { schema: z.string() } } } };
  return route.takes ? { body: { content: { 'application/json': { schema: route.takes } } } } : {};
}

/** What a route is called in the description: its method and the words of its address. */
const operationId = ({ method, path }: Route): string =>
  method +
  path
    .replace('/api', '')
    .split(/[/:.-]+/)
    .filter(Boolean)
    .map((part) => part[0]!.toUpperCase() + part.slice(1))
    .join('');

/** The description of the whole API, made from the route table and its schemas (OpenAPI 3.1). */
export function openApi(routes: readonly Route[]): unknown {
  const registry = new OpenAPIRegistry();
  registry.registerComponent('securitySchemes', 'session', { type: 'apiKey', in: 'cookie', name: COOKIE });
  const { $schema: _dialect, ...shape } = z.toJSONSchema(ErrorAnswer, { io: 'output' });
  const refusal = registry.registerComponent('schemas', 'Refusal', shape as object).ref;
  for (const route of routes) {
    const params = paramsOf(route.path);
    registry.registerPath({
      method: route.method,
      path: openPath(route.path),
      operationId: operationId(route),
      summary: route.summary,
      ...(route.roles === 'anyone'
        ? {}
        : { security: [{ session: [] }], description: `For: ${route.roles.join(', ')}.` }),
      request: {
        ...(Object.keys(params.shape).length > 0 ? { params } : {}),
        ...(route.asks ? { query: route.asks } : {}),
        ...bodyOf(route),
      },
      responses: {
        200: { description: route.summary, content: contentOf(route.gives) },
        default: {
          description:
            'A refusal: its code, the field, the values of its sentence, and the sentence itself in the language asked for.',
          content: { 'application/json': { schema: refusal } },
        },
      },
    });
  }
  return new OpenApiGeneratorV31(registry.definitions).generateDocument({
    openapi: '3.1.0',
    info: {
      title: 'Careful Seam',
      version: '1',
      description:
        'Requests that change something carry the header x-careful-seam: 1. Lengths are mm, levels mm above the drain rim.',
    },
  });
}
