import { apiErrorSchema } from '@gezeit/contract';
import { z } from 'zod';
import type { Route } from './route.js';

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any', target: 'openapi-3.0' });

/** A path as OpenAPI writes it: `/api/logs/{id}`. */
export function openApiPath(path: string): string {
  return path.replace(/:(\w+)/g, '{$1}');
}

/** OpenAPI document of the routes, made from their Zod schemas. */
export function openApiDocument(
  routes: Route[],
  version: string,
): { openapi: string; info: object; paths: Record<string, Record<string, object>> } {
  const paths: Record<string, Record<string, object>> = {};
  for (const route of routes) {
    (paths[openApiPath(route.path)] ??= {})[route.method] = operation(route);
  }
  return { openapi: '3.0.3', info: { title: 'Gezeit', version }, paths };
}

function operation(route: Route): object {
  const answer =
    typeof route.answer === 'string'
      ? { [route.answer]: { schema: { type: 'string', format: 'binary' } } }
      : { 'application/json': { schema: schemaOf(route.answer, 'output') } };
  const error = {
    description: 'Refused; says why and what to do.',
    content: { 'application/json': { schema: schemaOf(apiErrorSchema, 'output') } },
  };
  return {
    summary: route.summary,
    parameters: [...parameters('path', route.params), ...parameters('query', route.query), ...(route.changes ? [PERSON] : [])],
    ...(route.body ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(route.body, 'input') } } } } : {}),
    responses: { [String(route.status ?? 200)]: { description: 'Good.', content: answer }, default: error },
  };
}

const PERSON = {
  name: 'x-gezeit-person',
  in: 'header',
  required: true,
  description: 'Who is working, URI-encoded.',
  schema: { type: 'string' },
};

function parameters(place: 'path' | 'query', schema: z.ZodType | undefined): object[] {
  if (!schema) return [];
  const { properties = {}, required = [] } = schemaOf(schema, 'input') as { properties?: Record<string, object>; required?: string[] };
  return Object.entries(properties).map(([name, property]) => ({
    name,
    in: place,
    required: place === 'path' || required.includes(name),
    schema: property,
  }));
}
