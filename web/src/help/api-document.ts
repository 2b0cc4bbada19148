/** As much of the OpenAPI document as the reference shows. */
export interface ApiDocument {
  readonly paths: Readonly<Record<string, Readonly<Record<string, ApiRoute>>>>;
  readonly components: { readonly schemas: Readonly<Record<string, Schema>> };
}

interface ApiRoute {
  readonly tags: readonly string[];
  readonly parameters: readonly { readonly name: string; readonly in: string; readonly schema?: Schema }[];
  readonly requestBody?: { readonly content: Content };
  readonly responses: Readonly<Record<string, { readonly content?: Content }>>;
  readonly 'x-audience': string;
  readonly 'x-scope': string;
}

type Content = Readonly<Record<string, { readonly schema?: Schema }>>;

export interface Schema {
  readonly $ref?: string;
  readonly type?: string | readonly string[];
  readonly description?: string;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly items?: Schema;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
  readonly additionalProperties?: boolean | Schema;
}

/** The name of a schema that is meant, or null for one that is written out. */
export const nameOf = ({ $ref }: Schema): string | null => $ref?.split('/').at(-1) ?? null;

/** A schema in a few words: a name, the values that it takes, or what is in a list. */
export function schemaWords(schema: Schema): string {
  const name = nameOf(schema);
  if (name !== null) return name;
  if (schema.anyOf) return schema.anyOf.map(schemaWords).join(' or ');
  if (schema.enum) return schema.enum.map((value) => JSON.stringify(value)).join(' or ');
  if (schema.const !== undefined) return JSON.stringify(schema.const);
  if (schema.items) return `list of ${schemaWords(schema.items)}`;
  if (schema.properties)
    return `{ ${Object.entries(schema.properties)
      .map(([key, of]) => `${key}: ${schemaWords(of)}`)
      .join('; ')} }`;
  if (typeof schema.additionalProperties === 'object')
    return `${schemaWords(schema.additionalProperties)} by name`;
  return Array.isArray(schema.type) ? schema.type.join(' or ') : String(schema.type ?? 'anything');
}

/** All names of schemas that one mentions. */
export const mentioned = (schema: Schema): string[] =>
  Array.from(JSON.stringify(schema).matchAll(/"#\/components\/schemas\/([^"]+)"/g), ([, name = '']) => name);

interface Route {
  readonly method: string;
  readonly path: string;
  readonly audience: string;
  readonly scope: string;
  readonly query: readonly string[];
  readonly takes: Schema | null;
  /** Whether a file is sent as a form. */
  readonly takesFile: boolean;
  readonly answers: Schema | null;
}

/** The routes of a document by what they are about. */
export function routesByTopic({ paths }: ApiDocument): Map<string, Route[]> {
  const topics = new Map<string, Route[]>();
  for (const [path, methods] of Object.entries(paths)) {
    for (const [method, route] of Object.entries(methods)) {
      const [topic = ''] = route.tags;
      const answer = Object.entries(route.responses).find(([status]) => status.startsWith('2'))?.[1];
      const own: Route = {
        method: method.toUpperCase(),
        path,
        audience: route['x-audience'],
        scope: route['x-scope'],
        query: route.parameters.filter((one) => one.in === 'query').map(({ name }) => name),
        takes: route.requestBody?.content['application/json']?.schema ?? null,
        takesFile: route.requestBody?.content['multipart/form-data'] !== undefined,
        answers: answer?.content?.['application/json']?.schema ?? null,
      };
      topics.set(topic, [...(topics.get(topic) ?? []), own]);
    }
  }
  return topics;
}

/** "DataSets" as "Data sets". */
export const topicTitle = (topic: string): string => {
  const words = topic.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
};
