import { LARGEST_MODEL } from '../files/file-limits.js';
import { SieveError } from '../../foundation/errors.js';
import { readFitted } from '../../models/fitted.js';
import { coefficientTable, type CoefficientLink } from './coefficients/coefficient-table.js';
import { fittedFile } from './fitted-file.js';
import type { ModelFile } from './model-file.js';
import { onnxFile } from './onnx/onnx-file.js';
import { pmmlFile } from './pmml/pmml-file.js';

/** What is known beside the file. */
export interface ReadingOptions {
  /** The columns that predictions may be made from, in order. */
  readonly columns: readonly string[];
  /** Columns of the training file that they may not: a table of coefficients with one of them is read nevertheless, so that it can be named. */
  readonly forbidden?: readonly string[];
  /** Of a table of coefficients; the identity where it is not given. */
  readonly link?: CoefficientLink['link'];
  /** Of two classes. */
  readonly positive?: string;
  readonly negative?: string;
  /** The classes of the target, for a model that does not name its own. */
  readonly labels?: readonly string[];
}

const FORMATS = ['.onnx', '.pmml', '.xml', '.csv', '.tsv', '.txt', '.json'];

/**
 * Reads a model by the ending of its name: ONNX, PMML, a table of coefficients, or the JSON of `sieve fit --save`.
 *
 * @throws SieveError `model-file` with the place
 */
export function readModel(bytes: Uint8Array, file: string, options: ReadingOptions): ModelFile {
  const ending = /\.[^.]+$/.exec(file.toLowerCase())?.[0] ?? '';
  const { positive, negative, link = 'identity', columns } = options;
  if (bytes.length > LARGEST_MODEL)
    throw new SieveError('model-file', `${file} has more than ${LARGEST_MODEL / 2 ** 20} MiB.`, { file });
  if (bytes.length === 0) throw new SieveError('model-file', `${file} is empty.`, { file });
  // Only ONNX files may begin so, of those that are read here; archives do not.
  if (bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 0x03)
    throw new SieveError('model-file', `${file} is an archive (zip); hand in the model itself.`, { file });
  switch (ending) {
    case '.onnx': {
      const two = positive !== undefined && negative !== undefined ? [negative, positive] : null;
      const labels = options.labels ?? two;
      return onnxFile(bytes, { columns, labels, positive: positive ?? null });
    }
    case '.pmml':
    case '.xml':
      return pmmlFile(bytes);
    case '.csv':
    case '.tsv':
    case '.txt':
      return coefficientTable(
        bytes,
        file,
        {
          link,
          ...(positive === undefined ? {} : { positive }),
          ...(negative === undefined ? {} : { negative }),
        },
        [...columns, ...(options.forbidden ?? [])],
      );
    case '.json':
      return fittedFile(readFitted(new TextDecoder().decode(bytes)));
    default:
      throw new SieveError(
        'model-file',
        `${file} ends in none of ${FORMATS.join(', ')}, which name the format.`,
        { file },
      );
  }
}
