import { z } from 'zod';
import { ERRORS, type ErrorCode } from './errors.ts';
import { FILE_PATHS } from './files.ts';
import { RIGHTS } from './rights.ts';
import type { Access, Route } from './route.ts';
import { ROUTES } from './routes.ts';

type Json = Readonly<Record<string, unknown>>;

/** What any request can be answered with, beside what its route says. */
const ANY_ROUTE: readonly ErrorCode[] = [
  'request.bad_field',
  'request.malformed',
  'server.failed',
  'server.unavailable',
];
const SIGNED_IN: readonly ErrorCode[] = ['auth.required', 'auth.role', 'auth.bad_token', 'auth.token_rights'];
const ACCESS_WORDS: Readonly<Record<Access, string>> = {
  open: 'Open to everybody.',
  signed_in: 'For whoever is signed in.',
  instructor: 'For instructors and leads.',
  lead: 'For leads.',
};

/** A shape as JSON Schema 2020-12. What a schema cannot say (a value that is checked by code) stands as anything. */
function schemaOf(shape: z.ZodType, io: 'input' | 'output'): Json {
  const { $schema: _, ...schema } = z.toJSONSchema(shape, {
    io,
    unrepresentable: 'any',
    reused: 'inline',
    cycles: 'ref',
  });
  return schema;
}

const templateOf = (path: string): string => path.replace(/:(\w+)/g, '{$1}');
const namesIn = (path: string): string[] => [...path.matchAll(/:(\w+)/g)].map(([, name]) => name!);

const pathParameters = (path: string, params?: z.ZodType): Json[] => {
  const properties = params ? ((schemaOf(params, 'input')['properties'] ?? {}) as Json) : {};
  return namesIn(path).map((name) => ({
    name,
    in: 'path',
    required: true,
    schema: properties[name] ?? { type: 'string' },
  }));
};

function queryParameters(query: z.ZodType): Json[] {
  const { properties = {}, required = [] } = schemaOf(query, 'input') as {
    properties?: Json;
    required?: readonly string[];
  };
  return Object.entries(properties).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }));
}

/** The errors of a route by their status, each with its codes. */
function problemsOf(codes: readonly ErrorCode[]): Json {
  const byStatus = new Map<number, ErrorCode[]>();
  for (const code of new Set(codes))
    byStatus.set(ERRORS[code], [...(byStatus.get(ERRORS[code]) ?? []), code]);
  return Object.fromEntries(
    [...byStatus].map(([status, of]) => [
      String(status),
      {
        description: of.join(', '),
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    ]),
  );
}

const securityOf = (access: Access): Json[] => (access === 'open' ? [] : [{ session: [] }, { token: [] }]);

function operationOf(name: string, route: Route): Json {
  const right = RIGHTS.find((r) => (r.routes as readonly string[]).includes(name));
  const hasBody = route.method === 'post' || route.method === 'put';
  const { access } = route;
  return {
    operationId: name,
    tags: [right?.id ?? 'open'],
    summary: name.replace(/([A-Z])/g, ' $1').toLowerCase(),
    description: `${ACCESS_WORDS[access]}${right ? ` Right: ${right.id}.` : ''}`,
    security: securityOf(access),
    parameters: [...pathParameters(route.path, route.params), ...queryParameters(route.query)],
    ...(hasBody
      ? {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: schemaOf(route.body, 'input') } },
          },
        }
      : {}),
    responses: {
      200: {
        description: 'Done.',
        content: { 'application/json': { schema: schemaOf(route.reply, 'output') } },
      },
      ...problemsOf([...route.errors, ...ANY_ROUTE, ...(access === 'open' ? [] : SIGNED_IN)]),
    },
  };
}

function fileOperations(): [path: string, method: string, operation: Json][] {
  return FILE_PATHS.map(([name, { method, path, right, access, mediaType, about }]) => [
    path,
    method,
    {
      operationId: name,
      tags: [right],
      summary: about,
      description: `${ACCESS_WORDS[access]} Right: ${right}.`,
      security: securityOf(access),
      parameters: pathParameters(path),
      ...(method === 'put'
        ? {
            requestBody: {
              required: true,
              content: { [mediaType]: { schema: { type: 'string', format: 'binary' } } },
            },
          }
        : {}),
      responses: {
        200: {
          description: about,
          content: {
            [method === 'put' ? 'application/json' : mediaType]: {
              schema: { type: method === 'put' ? 'object' : 'string' },
            },
          },
        },
        ...problemsOf([...ANY_ROUTE, ...SIGNED_IN]),
      },
    },
  ]);
}

/** The whole interface as OpenAPI 3.1 (OpenAPI Initiative, 3.1.0), made from the routes that the server answers by. */
export function openApiDocument(version: string): Json {
  const paths: Record<string, Record<string, Json>> = {};
  const put = (path: string, method: string, operation: Json): void => {
    (paths[templateOf(path)] ??= {})[method] = operation;
  };
  for (const [name, route] of Object.entries(ROUTES as Record<string, Route>))
    put(route.path, route.method, operationOf(name, route));
  for (const [path, method, operation] of fileOperations()) put(path, method, operation);
  return {
    openapi: '3.1.0',
    info: {
      title: 'Clear Mark',
      version,
      description:
        'Scripts call with a token: Your account, Tokens for scripts. A token does what its maker may, within the rights it was given. Errors are problem details (RFC 9457) with a code that stays and a sentence for people.',
    },
    servers: [{ url: '/' }],
    tags: [
      { name: 'open', description: 'What anybody may ask' },
      ...RIGHTS.map(({ id, act }) => ({ name: id, description: act })),
    ],
    paths,
    components: {
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'clear-mark' },
        token: { type: 'http', scheme: 'bearer' },
      },
      schemas: {
        Problem: {
          type: 'object',
          required: ['type', 'title', 'status', 'detail', 'code', 'params'],
          properties: {
            type: { type: 'string' },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string', description: 'A sentence for the person.' },
            code: { type: 'string', enum: Object.keys(ERRORS) },
            params: { type: 'object', additionalProperties: { type: ['string', 'number'] } },
          },
        },
      },
    },
  };
}
