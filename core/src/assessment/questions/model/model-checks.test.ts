import { describe, expect, it } from '@jest/globals';
import type { ModelReport } from '../contract/model-run.js';
import { coefficientCheck } from './model-checks.js';

const wanted = [
  { term: 'weight', estimate: 1.5, se: 0.1 },
  { term: 'mites', estimate: -1, se: 0.1 },
];
const report = (terms: { term: string; estimate: number }[], of: string | null = null): ModelReport => ({
  format: 'coefficients',
  outline: 'coefficients',
  size: 100,
  inputs: [],
  moreInputs: 0,
  picture: { kind: 'coefficients', terms, of, more: 0 },
});

describe('coefficients of a model beside those of the key', () => {
  it('hold where each is near, for the other class with its sign exchanged', () => {
    const near = [
      { term: 'weight', estimate: 1.5001 },
      { term: 'mites', estimate: -1.0001 },
    ];
    expect(coefficientCheck(report(near), wanted, 'yes').outcome).toBe('holds');
    const turned = near.map(({ term, estimate }) => ({ term, estimate: -estimate }));
    expect(coefficientCheck(report(turned, 'no'), wanted, 'yes').outcome).toBe('holds');
    expect(coefficientCheck(report(turned, 'yes'), wanted, 'yes').outcome).toBe('fails');
  });

  it('name a term that is missing, and one that is far off with both numbers', () => {
    const found = JSON.stringify(coefficientCheck(report([{ term: 'weight', estimate: 9 }]), wanted, 'yes'));
    expect(found).toContain('mites is missing');
    expect(found).toContain('weight: 9 for 1.5');
  });
});
