import { at } from '../../../foundation/numbers.js';
import { fileSlip, type FileSlip } from '../../slips/contract/file-slip.js';

/** A curve that could be read, as losses from simple to complex. */
export interface HandedCurve {
  readonly training: readonly number[];
  readonly validation: readonly number[];
  readonly settings: readonly string[];
  readonly chosen: number;
  readonly named: { readonly simplest: string; readonly complex: string };
  /** What the ends may be called. */
  readonly right: { readonly simplest: readonly string[]; readonly complex: readonly string[] };
  /** Ids of the checks that fail. */
  readonly fails: readonly string[];
  /** Whether the figures are off the run, and would be near it turned round. */
  readonly fitsReversed: boolean;
}

/** Mistakes in a curve that could be read: what was chosen, and what the figures are. */
export const CURVE_SLIPS: readonly FileSlip<HandedCurve>[] = [
  fileSlip({
    id: 'training-error-chosen',
    title: 'chosen by the training error',
    from: 'form',
    says: 'You chose the setting with the best figure on the training rows.',
    remedy:
      'Choose by the validation figures. On the rows that it is trained on a more complex model is always at least as good.',
    example: 'Depth 12 has a training error of 0 and a validation error of 0.27; depth 4 has 0.21.',
    test: ({ training, chosen, settings, fails }) =>
      fails.includes('choice') && training.filter((loss) => loss <= at(training, chosen)).length === 1
        ? `${at(settings, chosen)} has the best training figure`
        : null,
  }),
  fileSlip({
    id: 'most-complex-chosen',
    title: 'the most complex chosen',
    from: 'form',
    says: 'You chose the most complex setting.',
    remedy:
      'Look where the validation figures are best. Beyond that a model learns what is true of its own rows alone.',
    example: 'Depth 12 of 1 to 12, where validation errors rise from depth 5.',
    test: ({ settings, chosen, fails }) =>
      fails.includes('choice') && chosen === settings.length - 1
        ? `${at(settings, chosen)} is the last setting`
        : null,
  }),
  fileSlip({
    id: 'fit-exchanged',
    title: 'under- and overfitted exchanged',
    from: 'form',
    says: 'You called underfitted what is overfitted, or the other way round.',
    remedy:
      'A model that is too simple is bad on training and on other rows: it is underfitted. One that is much better on its training rows and worse on others than a simpler one is overfitted.',
    example:
      'Depth 1 with errors of 0.30 and 0.31 is underfitted; depth 12 with 0.00 and 0.27 is overfitted.',
    test({ named, right }) {
      const isExchanged = (said: string, may: readonly string[]) =>
        !may.includes(said) &&
        ((said === 'under' && may.includes('over')) || (said === 'over' && may.includes('under')));
      return isExchanged(named.simplest, right.simplest) || isExchanged(named.complex, right.complex)
        ? 'the ends are called the other way round'
        : null;
    },
  }),
  fileSlip({
    id: 'axis-reversed',
    title: 'settings in the other order',
    from: 'form',
    says: 'Your figures seem to be those of the settings in the other order.',
    remedy:
      'Look in which order the figures came: for a penalty or for neighbours a larger value is a simpler model. Write each figure beside its own setting.',
    example: 'Errors of depths 12, 8, 4, 1 written beside 1, 4, 8, 12.',
    test: ({ fitsReversed }) =>
      fitsReversed ? 'turned round they are near those that are computed here' : null,
  }),
];
