import { Text } from '@chakra-ui/react';
import { inflationSays, residualsSay } from '@modest-sieve/core/evaluation';
import type { Schemas } from '../../../api/client.js';
import { CheckList } from '../../../kit/layout/checks.js';
import { figureText, valueText } from '../../../kit/table/format.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import { PointPlot } from '../../../kit/plot/point-plot.js';
import { ResidualPlot } from '../../../kit/plot/residual-plot.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { useDataSet } from '../../use-data-set.js';

type Numbers = NonNullable<Schemas['TrialEvidence']['numbers']>;

/** Predicted against actual, and everything that residuals say of a regression. */
export function NumberEvidence({ numbers }: { numbers: Numbers }) {
  const { dataSet } = useDataSet();
  const { points, diagnostics, inflation, influential } = numbers;
  const target = dataSet.roles?.target ?? 'target';
  const predicted = points.map((point) => point.predicted);
  const { normalPlot, histogram, autocorrelation } = diagnostics;
  return (
    <>
      <Subtitle>What the residuals say</Subtitle>
      <CheckList
        label="What the residuals say"
        checks={[...residualsSay(diagnostics), ...inflationSays(inflation)]}
      />
      <Subtitle>Predicted against actual</Subtitle>
      <PointPlot
        points={{
          kind: 'points',
          x: points.map(({ truth }) => truth),
          y: predicted,
          classes: null,
          labels: [],
          density: null,
          line: null,
        }}
        line={{ intercept: 0, slope: 1, r2: 1 }}
        x={{ name: `${target}, actual`, isDate: false }}
        y={{ name: `${target}, predicted`, isDate: false }}
      />
      <Text fontSize="13px" color="quiet">
        On the line a prediction is right.
      </Text>
      <Subtitle>Residuals against predictions</Subtitle>
      <ResidualPlot
        predicted={predicted}
        residual={points.map((point) => point.truth - point.predicted)}
        unit={target}
      />
      <Subtitle>Histogram of the residuals</Subtitle>
      <LinePlot
        label="Histogram of the residuals"
        height={190}
        series={[
          {
            name: 'rows',
            colour: 'figure',
            step: true,
            points: histogram.map(({ from, rows }) => ({ x: from, y: rows })),
          },
        ]}
        x={{ title: 'truth − prediction' }}
        y={{ title: 'rows', bounds: [0, null] }}
      />
      <Subtitle>Normal quantiles</Subtitle>
      <LinePlot
        label="Residuals against normal quantiles"
        series={[
          {
            name: 'standardised residual',
            colour: 'accent',
            points: normalPlot.map(({ quantile, value }) => ({ x: quantile, y: value })),
          },
          {
            name: 'a normal distribution',
            colour: 'quiet',
            dash: '2 4',
            points: [-3, 3].map((end) => ({ x: end, y: end })),
          },
        ]}
        x={{ title: 'normal quantile' }}
        y={{ title: 'standardised residual' }}
      />
      <Subtitle>Normal probabilities</Subtitle>
      <LinePlot
        label="Shares of residuals against normal probabilities"
        series={[
          {
            name: 'share of residuals below',
            colour: 'accent',
            points: normalPlot.map(({ expected, share }) => ({ x: expected, y: share })),
          },
        ]}
        x={{ title: 'normal probability', domain: [0, 1], ticks: [0, 0.25, 0.5, 0.75, 1] }}
        y={{ title: 'share below', domain: [0, 1], ticks: [0, 0.25, 0.5, 0.75, 1] }}
        diagonal
      />
      {autocorrelation ? (
        <>
          <Subtitle>Autocorrelation, in the order of the rows</Subtitle>
          <LinePlot
            label="Autocorrelation of the residuals"
            height={190}
            series={[
              {
                name: 'autocorrelation',
                colour: 'accent',
                dots: true,
                points: autocorrelation.values.slice(1).map((y, i) => ({ x: i + 1, y })),
              },
            ]}
            x={{ title: 'rows apart' }}
            y={{ title: 'correlation' }}
            lines={[
              { y: autocorrelation.band, text: '+1.96 / √n' },
              { y: -autocorrelation.band, text: '−1.96 / √n' },
            ]}
          />
        </>
      ) : null}
      {inflation.length > 1 ? (
        <>
          <Subtitle>Variance inflation</Subtitle>
          <Ruled
            label="Variance inflation"
            headings={[{ text: 'term' }, { text: 'variance inflation', numeric: true }]}
          >
            {inflation.map(({ term, vif }) => (
              <tr key={term}>
                <Cell>{term}</Cell>
                <Cell numeric strong={vif === null || vif > 5}>
                  {vif === null ? 'collinear with others' : figureText(vif)}
                </Cell>
              </tr>
            ))}
          </Ruled>
        </>
      ) : null}
      {influential.length > 0 ? (
        <>
          <Subtitle>Most influential rows</Subtitle>
          <Ruled
            label="Most influential rows"
            headings={[
              { text: 'row', numeric: true },
              { text: 'leverage', numeric: true },
              { text: 'Cook’s distance', numeric: true },
            ]}
          >
            {influential.map(({ row, leverage, cooks }) => (
              <tr key={row}>
                <Cell numeric>{row}</Cell>
                <Cell numeric>{valueText(leverage)}</Cell>
                <Cell numeric>{valueText(cooks)}</Cell>
              </tr>
            ))}
          </Ruled>
        </>
      ) : null}
    </>
  );
}
