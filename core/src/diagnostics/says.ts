import { check, type Check } from '../check/check.js';
import type { ResidualDiagnostics } from './diagnose.js';
import { shortNumber } from '../numbers.js';
import { VIF_FINE, VIF_SERIOUS } from './vif.js';

/** Below it chance is not blamed; common practice. */
const SMALL_P = 0.05;
/** Durbin–Watson between these is taken as no resemblance of neighbours; common practice. */
const NEIGHBOURS: readonly [number, number] = [1.5, 2.5];

const pText = (p: number): string => (p < 0.0001 ? 'p below 0.0001' : `p ${shortNumber(p)}`);

/** What residuals say of a regression, in sentences. A mean of 0 says nothing of their shape. */
export function residualsSay({
  mean,
  sd,
  jarqueBera,
  breuschPagan,
  durbinWatson,
  autocorrelation,
}: ResidualDiagnostics): Check[] {
  const checks: Check[] = [
    check(
      'mean',
      Math.abs(mean) <= 0.05 * sd || sd === 0 ? 'holds' : 'unsure',
      'On average predictions are neither too high nor too low',
      {
        measured: `mean of truth less prediction ${shortNumber(mean)}, deviation ${shortNumber(sd)}`,
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
          ? 'Their spread does not hang on the features'
          : 'Their spread hangs on the features: standard errors of a linear regression cannot be trusted',
        { measured: `Breusch–Pagan ${shortNumber(breuschPagan.lm)}, ${pText(breuschPagan.p)}` },
      ),
    );
  if (durbinWatson !== null) {
    const [low, high] = NEIGHBOURS;
    const apart = durbinWatson >= low && durbinWatson <= high;
    const outside = (autocorrelation?.values ?? [])
      .slice(1)
      .filter((value) => Math.abs(value) > (autocorrelation?.band ?? 1)).length;
    checks.push(
      check(
        'neighbours',
        apart ? 'holds' : 'fails',
        apart
          ? 'Neighbouring residuals do not resemble one another'
          : 'Neighbouring residuals resemble one another: rows are not independent in their order',
        {
          measured: `Durbin–Watson ${shortNumber(durbinWatson)} (2 without resemblance); ${outside} of ${(autocorrelation?.values.length ?? 1) - 1} autocorrelations outside their band`,
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
      'Some terms are nearly made up by others: their coefficients cannot be told apart',
      {
        measured: worst
          .map(({ term, vif }) => `${term} ${vif === null ? 'wholly' : shortNumber(vif)}`)
          .join(', '),
      },
    ),
  ];
}
