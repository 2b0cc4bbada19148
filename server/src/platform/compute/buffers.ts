/**
 * The memory of the columns and files in what a task takes or gives, so that it is handed to the other thread and not
 * copied. The caller no longer has it.
 */
export const buffersIn = (value: unknown): ArrayBuffer[] => [...new Set(parts(value).flatMap(own))];

function parts(value: unknown): Uint8Array[] {
  if (typeof value !== 'object' || value === null) return [];
  const { stored, onto, columns, bytes } = value as Record<string, unknown>;
  return [
    ...parts(stored),
    ...parts(onto),
    ...(Array.isArray(columns) ? columns.filter(isStored).flatMap(({ chunks }) => chunks) : []),
    ...(bytes instanceof Uint8Array ? [bytes] : []),
  ];
}

const isStored = (value: unknown): value is { readonly chunks: Uint8Array[] } =>
  typeof value === 'object' && value !== null && 'chunks' in value;

/** The memory of an array that nothing else lies in. */
const own = ({ buffer, byteLength }: Uint8Array): ArrayBuffer[] =>
  buffer instanceof ArrayBuffer && buffer.byteLength === byteLength ? [buffer] : [];
