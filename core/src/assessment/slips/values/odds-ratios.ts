/** What a coefficient gives as odds ratios for another number of units, by the figure that is asked: for one unit, and for several. */
export const oddsRatiosOfOtherUnits = (
  coefficient: number,
  units: number,
  [one, several]: readonly [string, string],
) => ({
  'odds-ratio-other-unit': {
    [one]: [Math.exp(coefficient * units)],
    [several]: [Math.exp(coefficient), units * Math.exp(coefficient), Math.exp(coefficient / units)],
  },
});
