import type { Random } from '@gezeit/core/simulate';
import { z } from '@gezeit/contract';

type Json = Record<string, unknown>;
type Schema = Json & { type?: string; properties?: Record<string, Schema>; required?: string[]; items?: Schema };

const MOST_DEPTH = 7;
/** Values that no schema expects, and that programs stumble over. */
const ABSURD: readonly unknown[] = [
  null,
  '',
  '\u0000',
  '../../x',
  '<img src=x onerror=alert(1)>',
  '=1+1',
  '💥'.repeat(50),
  'x'.repeat(30_000),
  0,
  -1,
  1e308,
  -0.0000001,
  2 ** 53,
  true,
  [],
  {},
  { constructor: { prototype: 1 } },
  [[[[[[]]]]]],
  '2026-02-30T25:61:00Z',
  'constructor',
];

/** Values for a Zod schema, from a seed: valid as far as JSON Schema tells, with one place wrong, or absurd. */
export class ValuesOf {
  readonly #schema: Schema;

  constructor(
    schema: z.ZodType,
    readonly random: Random,
  ) {
    this.#schema = z.toJSONSchema(schema, { unrepresentable: 'any', io: 'input' }) as Schema;
  }

  next(): unknown {
    if (this.random.chance(0.15)) return this.#absurd();
    const value = this.#of(this.#schema, 0);
    return this.random.chance(0.5) ? value : this.#spoilt(value);
  }

  #absurd(): unknown {
    return this.#one(ABSURD);
  }

  #one<T>(list: readonly T[]): T {
    return list[Math.floor(this.random.uniform() * list.length)]!;
  }

  /** One place of a value replaced, left out or doubled. */
  #spoilt(value: unknown): unknown {
    if (typeof value !== 'object' || value === null || this.random.chance(0.2)) return this.#absurd();
    const copy = structuredClone(value) as Json;
    const keys = Object.keys(copy);
    if (keys.length === 0) return this.#absurd();
    const key = this.#one(keys);
    if (this.random.chance(0.2)) delete copy[key];
    else copy[key] = this.#spoilt(copy[key]);
    return copy;
  }

  #of(schema: Schema, depth: number): unknown {
    const { random } = this;
    if (schema['const'] !== undefined) return schema['const'];
    if (Array.isArray(schema['enum'])) return this.#one(schema['enum']);
    const choices = (schema['anyOf'] ?? schema['oneOf']) as Schema[] | undefined;
    if (choices) return this.#of(this.#one(choices), depth + 1);
    const all = schema['allOf'] as Schema[] | undefined;
    if (all) return Object.assign({}, ...all.map((part) => this.#of(part, depth + 1) as object));
    switch (schema.type) {
      case 'object': {
        const made: Json = {};
        for (const [key, part] of Object.entries(schema.properties ?? {}))
          if (schema.required?.includes(key) || (depth < MOST_DEPTH && random.chance(0.5))) made[key] = this.#of(part, depth + 1);
        return made;
      }
      case 'array': {
        const prefix = schema['prefixItems'] as Schema[] | undefined;
        if (prefix) return prefix.map((part) => this.#of(part, depth + 1));
        const count = depth > MOST_DEPTH ? 0 : Math.floor(random.uniform() * 4);
        return Array.from({ length: count }, () => this.#of(schema.items ?? {}, depth + 1));
      }
      case 'number':
      case 'integer': {
        const value = this.#one([0, 1, 0.5, 6000, 12.25, -3, 1e6]);
        return schema.type === 'integer' ? Math.round(value) : value;
      }
      case 'boolean':
        return random.chance(0.5);
      case 'null':
        return null;
      case 'string':
        if (schema['format'] === 'date-time') return '2026-03-04T09:30:00Z';
        return this.#one(['A', 'B', 'p02', 'filter', 'SAE_J1349', 'in the cell', 'tcp://127.0.0.1:9', 'Ä ‰ λ']);
      default:
        return this.#absurd();
    }
  }
}
