import { fileOf, GIVEN } from '../../../../test/asked.js';
import { indices } from '../../../foundation/numbers.js';

export const all = Array.from(indices(GIVEN));

export const text = (file: string) => ({ file: fileOf(file) });
