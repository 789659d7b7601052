import type { AnySchema, ArraySchema, Lazy, ObjectSchema, SchemaFieldDescription } from 'yup';
import { reportSchema } from '../src/report/schema';

type Json = Record<string, unknown>;

/** Values that lead a schema which depends on its value into each of its shapes. */
const PROBES: readonly unknown[] = [
  undefined,
  'text',
  ['text'],
  1,
  {},
  { years: 1 },
  { range: {} },
  { figure: '' },
  { head: '' },
  { highest: 1 },
  { lowest: 1 },
  { key: '' },
  ...['standing', 'member', 'expression', 'value'].map((on) => ({ on })),
  ...['benchmark', 'members', 'expression'].map((of) => ({ of })),
  ...['largest gap', 'hidden offset', 'took the lead', 'lands', 'extreme member'].map((kind) => ({ kind })),
  ...['expression', 'table', 'fixed', 'scaled', 'period', 'peers', 'forecast'].flatMap((kind) => [
    { kind },
    { kind, range: {} },
  ]),
];

type Test = NonNullable<Extract<SchemaFieldDescription, { tests: unknown }>['tests']>[number];

/** What JSON Schema (2020-12) can say of a Yup schema; what only a program can check is left to the program. */
function schemaOf(schema: AnySchema | Lazy<unknown>): Json {
  if (schema.type === 'lazy') {
    const shapes = new Map<string, Json>();
    for (const value of PROBES) {
      const shape = schemaOf((schema as Lazy<unknown>).resolve({ value } as never) as AnySchema);
      shapes.set(JSON.stringify(shape), shape);
    }
    // “Anything” stands for what has no shape of its own.
    const known = [...shapes.values()].filter((shape) => Object.keys(shape).length > 0);
    return known.length === 1 ? known[0]! : { anyOf: known };
  }
  const { tests, oneOf, nullable } = schema.describe() as {
    tests: readonly Test[];
    oneOf: readonly unknown[];
    nullable: boolean;
  };
  const bound = (name: string, param: string) =>
    tests.find((test) => test.name === name)?.params?.[param] as number | undefined;
  const given = (json: Json) => Object.fromEntries(Object.entries(json).filter(([, value]) => value !== undefined));
  const type = (name: string) => ({ type: nullable ? [name, 'null'] : name });
  const choices = oneOf.length > 0 ? { enum: nullable ? [...oneOf, null] : oneOf } : {};
  switch (schema.type) {
    case 'object': {
      const fields = Object.entries((schema as ObjectSchema<Json>).fields as Record<string, AnySchema>);
      return {
        ...type('object'),
        properties: Object.fromEntries(fields.map(([name, field]) => [name, schemaOf(field)])),
        required: fields.filter(([, field]) => isRequired(field)).map(([name]) => name),
        additionalProperties: fields.length === 0,
      };
    }
    case 'array': {
      const { innerType } = schema as unknown as ArraySchema<unknown[], object> & { innerType?: AnySchema };
      const length = bound('length', 'length');
      return given({
        ...type('array'),
        items: innerType ? schemaOf(innerType) : {},
        minItems: length ?? bound('min', 'min'),
        maxItems: length ?? bound('max', 'max'),
      });
    }
    case 'string': {
      const length = bound('length', 'length');
      const pattern = tests.find(({ name }) => name === 'matches')?.params?.['regex'] as RegExp | undefined;
      return given({
        ...type('string'),
        ...choices,
        minLength: length ?? (isRequired(schema) ? 1 : undefined),
        maxLength: length ?? bound('max', 'max'),
        pattern: pattern?.source,
      });
    }
    case 'number':
      return given({
        ...type(tests.some(({ name }) => name === 'integer') ? 'integer' : 'number'),
        ...choices,
        minimum: bound('min', 'min'),
        maximum: bound('max', 'max'),
      });
    case 'boolean':
      return { ...type('boolean'), ...choices };
    default:
      return {};
  }
}

/** Whether a file without that key is refused, where nothing stands in for it. */
function isRequired(schema: AnySchema | Lazy<unknown>): boolean {
  if (schema.type === 'lazy') return false;
  const { optional, default: standsIn } = schema.describe() as { optional?: boolean; default?: unknown };
  return optional === false && (standsIn === undefined || schema.type === 'object') && !hasDefault(schema);
}

function hasDefault(schema: AnySchema | Lazy<unknown>): boolean {
  const { spec } = schema as unknown as { spec: Json };
  return 'default' in spec && spec['default'] !== undefined;
}

/** The report file as JSON Schema. */
export function reportJsonSchema(): string {
  const schema = {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Bold Ruler report file',
    description:
      'A file NAME.ruler.json. Made from the program’s own checks; see formats.md for the meaning of each key.',
    ...schemaOf(reportSchema as unknown as AnySchema),
  };
  return `${JSON.stringify(schema, null, 2)}\n`;
}
