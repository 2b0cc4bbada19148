import { SieveError } from '@modest-sieve/core/foundation';
import type { Answer } from '@modest-sieve/core/assessment';
import { IsOptional, IsString, MaxLength } from 'class-validator';
import { checkInput } from '../platform/errors/clean-input.pipe.js';
import { uploadedBytes } from '../platform/files/upload.js';

/** Fields of an answer, as a form carries them. */
export class AnswerBody {
  /** JSON of what was typed or chosen, by the keys of the fields. */
  @IsOptional() @IsString() @MaxLength(50_000) fields = '{}';
}

/** How the OpenAPI document describes an answer: a file, fields, or both. */
export const ANSWER_FORM = {
  schema: {
    type: 'object',
    properties: { file: { type: 'string', format: 'binary' }, fields: { type: 'string' } },
  },
};

const MOST_FIELDS = 200;
const LONGEST_FIELD = 200;

/**
 * The answer that a form carries.
 *
 * @throws SieveError `fields` where they are no texts by their keys, `no-answer` where there is neither file nor field
 */
export async function answerOf(
  file: Express.Multer.File | undefined,
  { fields }: AnswerBody,
): Promise<Answer> {
  const given = file ? await uploadedBytes(file) : null;
  const read = fieldsIn(fields);
  if (given === null && Object.keys(read).length === 0)
    throw new SieveError(
      'no-answer',
      'The request carries neither a file nor fields. Send a form with “file”, “fields” or both.',
    );
  return { file: given, fields: read };
}

function fieldsIn(text: string): Record<string, string> {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new SieveError('fields', 'The fields are not JSON.', { field: 'fields' });
  }
  checkInput(read);
  const entries =
    typeof read === 'object' && read !== null && !Array.isArray(read) ? Object.entries(read) : null;
  if (!entries || entries.length > MOST_FIELDS)
    throw new SieveError('fields', 'The fields are no texts by their keys.', { field: 'fields' });
  return Object.fromEntries(
    entries.map(([key, value]: [string, unknown]) => {
      if (typeof value !== 'string' || value.length > LONGEST_FIELD)
        throw new SieveError(
          'fields',
          `The field “${key.slice(0, 40)}” is no text of up to ${LONGEST_FIELD} characters.`,
          { field: key.slice(0, 40) },
        );
      return [key, value];
    }),
  );
}
