import { check, type Check } from '../../foundation/check.js';
import type { ResidualDiagnostics } from './diagnose.js';
import { shortNumber } from '../../foundation/numbers.js';
import { normalTwoSided, studentTwoSided } from '../../foundation/statistics/distributions.js';
import { VIF_FINE, VIF_SERIOUS } from './vif.js';

/** Below it chance is not blamed; common practice. */
const SMALL_P = 0.05;
/** A correlation of neighbours below it hardly changes standard errors: common practice. */
const SMALL_CORRELATION = 0.1;

const pText = (p: number): string => (p < 0.0001 ? 'p below 0.0001' : `p ${shortNumber(p)}`);

/** What residuals say of a regression, in sentences. A mean of 0 says nothing of their shape. */
export function residualsSay({
  rows,
  mean,
  sd,
  jarqueBera,
  breuschPagan,
  durbinWatson,
  autocorrelation,
}: ResidualDiagnostics): Check[] {
  // One-sample t-test; of the rows that a line with an intercept was fitted to the mean is 0.
  const meanP = sd > 0 && rows > 1 ? studentTwoSided((mean / sd) * Math.sqrt(rows), rows - 1) : 1;
  const checks: Check[] = [
    check(
      'mean',
      meanP >= SMALL_P ? 'holds' : 'unsure',
      meanP >= SMALL_P
        ? 'On average predictions are not shown to be too high or too low'
        : `On average predictions are too ${mean > 0 ? 'low' : 'high'}`,
      {
        measured: `mean of truth less prediction ${shortNumber(mean)}, deviation ${shortNumber(sd)}, ${pText(meanP)}, ${rows} rows`,
      },
    ),
  ];
  if (jarqueBera)
    checks.push(
      check(
        'normal',
        jarqueBera.p >= SMALL_P ? 'holds' : 'unsure',
        jarqueBera.p >= SMALL_P ? 'Residuals may be normal' : 'Residuals are not normal',
        {
          measured: `Jarque–Bera ${shortNumber(jarqueBera.statistic)}, ${pText(jarqueBera.p)}; skewness ${shortNumber(jarqueBera.skewness)}, kurtosis ${shortNumber(jarqueBera.kurtosis)} (a normal one has 0 and 3)`,
        },
      ),
    );
  if (breuschPagan)
    checks.push(
      check(
        'spread',
        breuschPagan.p >= SMALL_P ? 'holds' : 'fails',
        breuschPagan.p >= SMALL_P
          ? 'Their spread does not depend on the features'
          : 'Their spread depends on the features: standard errors of a linear regression cannot be trusted',
        { measured: `Breusch–Pagan ${shortNumber(breuschPagan.lm)}, ${pText(breuschPagan.p)}` },
      ),
    );
  if (durbinWatson !== null) {
    // Of independent residuals 1 − DW/2 is normal about 0 with a deviation of about 1/√n (Durbin and Watson, 1950).
    const correlation = 1 - durbinWatson / 2;
    const p = normalTwoSided(correlation * Math.sqrt(rows));
    const isShown = p < SMALL_P && Math.abs(correlation) >= SMALL_CORRELATION;
    const outside = (autocorrelation?.values ?? [])
      .slice(1)
      .filter((value) => Math.abs(value) > (autocorrelation?.band ?? 1)).length;
    checks.push(
      check(
        'neighbours',
        isShown ? 'fails' : 'holds',
        isShown
          ? 'Neighbouring residuals resemble one another: rows are not independent in their order'
          : 'Neighbouring residuals are not shown to resemble one another',
        {
          measured: `Durbin–Watson ${shortNumber(durbinWatson)} (2 without resemblance), correlation ${shortNumber(correlation)}, ${pText(p)}; ${outside} of ${(autocorrelation?.values.length ?? 1) - 1} autocorrelations outside their band`,
        },
      ),
    );
  }
  return checks;
}

/** What variance inflation says: which terms others all but make up. */
export function inflationSays(
  inflation: readonly { readonly term: string; readonly vif: number | null }[],
): Check[] {
  if (inflation.length < 2) return [];
  const worst = inflation.filter(({ vif }) => vif === null || vif > VIF_FINE);
  if (worst.length === 0)
    return [
      check('inflation', 'holds', 'No term is nearly made up by the others', {
        measured: `every variance inflation is at most ${VIF_FINE}`,
      }),
    ];
  const serious = worst.some(({ vif }) => vif === null || vif > VIF_SERIOUS);
  return [
    check(
      'inflation',
      serious ? 'fails' : 'unsure',
      'Some terms nearly follow from others: their coefficients cannot be separated',
      {
        measured: worst
          .map(({ term, vif }) => `${term} ${vif === null ? 'wholly' : shortNumber(vif)}`)
          .join(', '),
      },
    ),
  ];
}
