import { SieveError, type Check } from '@modest-sieve/core/foundation';
import {
  checkPredictions,
  limitsCheck,
  type PredictionRules,
  type Predictions,
} from '@modest-sieve/core/assessment';

/**
 * The predictions of a file, aligned to the rules.
 *
 * @throws SieveError `predictions` for the first check that fails, with the place of its first example
 */
export function readPredictions(bytes: Uint8Array, file: string, rules: PredictionRules): Predictions {
  const beyond = limitsCheck(bytes, file, rules);
  const { predictions, checks } = beyond
    ? { predictions: null, checks: [beyond] }
    : checkPredictions(bytes, file, rules);
  const failed = checks.find((check) => check.outcome === 'fails');
  if (failed) throw new SieveError('predictions', sentenceOf(failed, file), placeOf(failed, file));
  if (!predictions) throw new TypeError('predictions are there where every check holds');
  return predictions;
}

function sentenceOf({ message, examples, measured, expected }: Check, file: string): string {
  const [first] = examples;
  const said = message.startsWith(file) ? message : `${file}: ${message}`;
  if (first && !said.includes(first.text)) {
    const column = first.column === null ? '' : `, field ${first.column}`;
    return `${said} ${first.text.replace(/^(line \d+)/, `$1${column}`)}.`;
  }
  return expected === null || measured === null || first
    ? said
    : `${said} It has ${measured}; expected: ${expected}.`;
}

function placeOf({ examples: [first] }: Check, file: string) {
  return {
    file,
    ...(first?.line === null || first === undefined ? {} : { line: first.line }),
    ...(first?.column === null || first === undefined ? {} : { column: first.column }),
  };
}
