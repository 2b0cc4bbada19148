import type { Schemas } from '../../../api/client.js';
import { Text } from '@chakra-ui/react';
import type { Coefficient } from '@modest-sieve/core/models';
import { useState } from 'react';
import { figureText, pText } from '../../../kit/table/format.js';
import { PlanNumber } from '../../../kit/sentence/plan-sentence.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { Subtitle } from '../../../kit/layout/title.js';

export type Model = NonNullable<Schemas['TrialDetail']['model']>;

/** Exactly 0 is distinguished from what is merely small. */
const estimateText = (estimate: number | null): string =>
  estimate === null ? 'collinear with others' : estimate === 0 ? '0 exactly' : figureText(estimate);

export function Coefficients({ model }: { model: Model }) {
  const [unit, setUnit] = useState(1);
  const hasInference = model.coefficients.some(({ se }) => se !== null);
  const hasOdds = model.coefficients.some(({ oddsRatio }) => oddsRatio !== null);
  const odds = ({ estimate }: Coefficient) => (estimate === null ? null : Math.exp(estimate * unit));
  return (
    <>
      <Subtitle>Coefficients</Subtitle>
      {hasOdds ? (
        <Text fontSize="13.5px" color="quiet" mb={1}>
          Odds ratios for{' '}
          <PlanNumber label="units of a feature" value={unit} min={0.000001} onChange={setUnit} /> more of a
          feature: above 1 the odds of the class rise with it.
        </Text>
      ) : null}
      <Ruled
        label="Coefficients"
        headings={[
          { text: 'term' },
          { text: 'estimate', numeric: true },
          ...(hasInference
            ? [
                { text: 's.e.', numeric: true },
                { text: hasOdds ? 'z' : 't', numeric: true },
                { text: 'p', numeric: true },
                { text: '95 % interval', numeric: true },
              ]
            : []),
          ...(hasOdds ? [{ text: 'odds ratio', numeric: true }] : []),
        ]}
      >
        {model.coefficients.map((own) => (
          <tr key={`${own.label ?? ''} ${own.term}`}>
            <Cell>
              {own.label === null ? '' : `${own.label}: `}
              {own.term}
            </Cell>
            <Cell numeric quiet={own.estimate === 0 || own.estimate === null}>
              {estimateText(own.estimate)}
            </Cell>
            {hasInference ? (
              <>
                <Cell numeric>{figureText(own.se)}</Cell>
                <Cell numeric>{figureText(own.statistic)}</Cell>
                <Cell numeric strong={own.p !== null && own.p > 0.05}>
                  {pText(own.p)}
                </Cell>
                <Cell numeric>
                  {own.low === null ? '–' : `${figureText(own.low)} to ${figureText(own.high)}`}
                </Cell>
              </>
            ) : null}
            {hasOdds ? <Cell numeric>{figureText(odds(own))}</Cell> : null}
          </tr>
        ))}
      </Ruled>
      {hasInference ? (
        <Text fontSize="13px" color="quiet">
          Dark p: above 0.05, where common practice drops a term.
        </Text>
      ) : null}
      {model.removed.length > 0 ? (
        <>
          <Subtitle>Features that were dropped</Subtitle>
          <Ruled
            label="Features that were dropped"
            headings={[
              { text: 'feature' },
              { text: 'p', numeric: true },
              { text: 'AIC with it', numeric: true },
              { text: 'AIC without it', numeric: true },
            ]}
          >
            {model.removed.map(({ feature, p, aicWith, aicWithout }) => (
              <tr key={feature}>
                <Cell>{feature}</Cell>
                <Cell numeric>{pText(p)}</Cell>
                <Cell numeric>{figureText(aicWith)}</Cell>
                <Cell numeric>{figureText(aicWithout)}</Cell>
              </tr>
            ))}
          </Ruled>
        </>
      ) : null}
    </>
  );
}
