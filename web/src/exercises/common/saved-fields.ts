export const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What was typed into the fields of an answer; null where a value is none that could be. */
export const fieldsIn = (saved: unknown): Readonly<Record<string, string>> | null =>
  isObject(saved) && Object.values(saved).every((one) => typeof one === 'string')
    ? (saved as Readonly<Record<string, string>>)
    : null;
