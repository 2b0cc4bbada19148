import { Box, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { figureText } from '../../../kit/table/format.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import { Select } from '../../../kit/form/select.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { useColumnText } from '../column-text.js';
import { GrowthPlot } from './growth-plot.js';
import { Members } from './members.js';
import { PathPlot } from './path-plot.js';
import { TreeDrawing } from './tree-drawing.js';
import { type Model, Coefficients } from './coefficients.js';

type Trial = Schemas['TrialDetail'];

const WORDS: Readonly<Record<string, string>> = {
  r2: 'R²',
  adjusted_r2: 'adjusted R²',
  f: 'F',
  f_p: 'p of F',
  sigma: 'residual standard error',
  aic: 'AIC',
  bic: 'BIC',
  log_likelihood: 'log-likelihood',
  null_log_likelihood: 'null log-likelihood',
  deviance: 'deviance',
  null_deviance: 'null deviance',
  degrees_of_freedom: 'degrees of freedom',
  nonzero: 'coefficients that are not 0',
  deviance_ratio: 'share of the deviance explained',
  leaves: 'leaves',
  depth: 'depth',
  rounds: 'rounds',
  epochs: 'epochs',
  support_vectors: 'support vectors',
};

/** What the model that was fitted to all training rows has to show of itself. */
export function ModelView({ trial }: { trial: Trial }) {
  const { model } = trial;
  if (!model) return null;
  const figures = Object.entries(model.figures);
  const isBare =
    model.coefficients.length === 0 &&
    model.rules.length === 0 &&
    model.densities.length === 0 &&
    model.importances.length === 0 &&
    !model.growth &&
    !model.members?.length &&
    !model.path;
  return (
    <Box>
      {trial.plan.screening ? <Kept model={model} of={trial.plan.features.length} /> : null}
      {model.path ? <PathPlot path={model.path} trial={trial} /> : null}
      {model.members?.length ? <Members members={model.members} /> : null}
      {model.growth ? <GrowthPlot growth={model.growth} trial={trial} /> : null}
      {model.tree ? <TreeDrawing tree={model.tree} labels={labelsOf(trial)} /> : null}
      {model.rules.length > 0 ? <Rules model={model} labels={labelsOf(trial)} /> : null}
      {model.importances.length > 0 ? <Importances model={model} /> : null}
      {model.coefficients.length > 0 ? <Coefficients model={model} /> : null}
      {model.densities.length > 0 ? <Densities model={model} /> : null}
      {figures.length > 0 ? (
        <>
          <Subtitle>Figures of the fit</Subtitle>
          <Ruled label="Figures of the fit" headings={[{ text: 'figure' }, { text: 'value', numeric: true }]}>
            {figures.map(([key, value]) => (
              <tr key={key}>
                <Cell>{WORDS[key] ?? key}</Cell>
                <Cell numeric>{Number.isInteger(value) ? count(value) : figureText(value)}</Cell>
              </tr>
            ))}
          </Ruled>
          {figures.some(([key]) => key === 'sigma') && figures.some(([key]) => key === 'aic') ? (
            <Text mt={1} fontSize="13.5px" color="quiet">
              AIC and BIC count the coefficients. Programs that also count the error variance, R among them,
              give an AIC larger by 2 and a BIC larger by the logarithm of the number of rows.
            </Text>
          ) : null}
        </>
      ) : null}
      {isBare ? (
        <Text color="quiet" mt={3}>
          This family has nothing to draw: look at its errors.
        </Text>
      ) : null}
    </Box>
  );
}

/** The columns that the screening of the run kept. */
function Kept({
  model: { features, coefficients },
  of,
}: {
  model: Model;
  /** How many columns it chose among: where all are kept, nothing was chosen. */
  of: number;
}) {
  const isTested = features.length < of && coefficients.some(({ p }) => p !== null);
  return (
    <Text fontSize="13.5px" mt={3}>
      On all training rows the screening kept {features.map(({ name }) => name).join(', ')}.
      {isTested ? ' The p and intervals below take these columns as given: they come out too small.' : ''}
    </Text>
  );
}

/** Labels of the classes; none for numbers. */
const labelsOf = ({ result, model }: Trial): readonly string[] => {
  const classes = model?.tree?.classes ?? 0;
  return result && classes > 0 ? (model?.labels ?? []) : [];
};

const MOST_RULES = 40;

function Rules({ model, labels }: { model: Model; labels: readonly string[] }) {
  return (
    <>
      <Subtitle>As rules</Subtitle>
      <Box as="ol" pl={6} fontSize="13.5px" listStyleType="decimal">
        {model.rules.slice(0, MOST_RULES).map(({ conditions, leaf }) => {
          const node = model.tree?.nodes[leaf];
          return (
            <li key={leaf}>
              {conditions.length === 0 ? 'All rows' : conditions.join(', ')}
              {node ? (
                <Text as="span" color="quiet">
                  {': '}
                  {labels.length > 0
                    ? labels.map((label, i) => `${label} ${String(node.values[i] ?? 0)}`).join(', ')
                    : `${figureText(node.values[0])}, ${String(node.rows)} rows`}
                </Text>
              ) : null}
            </li>
          );
        })}
      </Box>
      {model.rules.length > MOST_RULES ? (
        <Text fontSize="13px" color="quiet">
          The first {MOST_RULES} of {model.rules.length} rules.
        </Text>
      ) : null}
    </>
  );
}

function Importances({ model }: { model: Model }) {
  return (
    <>
      <Subtitle>What it splits on</Subtitle>
      <Ruled
        label="What it splits on"
        headings={[{ text: 'column' }, { text: 'share of its gain' }, { text: '', numeric: true }]}
      >
        {model.importances.map(({ feature, share }) => (
          <tr key={feature}>
            <Cell>{feature}</Cell>
            <Cell>
              <Box h="10px" w={`${Math.max(1, share * 220)}px`} bg="figure" aria-hidden />
            </Cell>
            <Cell numeric>{(100 * share).toFixed(1)} %</Cell>
          </tr>
        ))}
      </Ruled>
      <Text fontSize="13px" color="quiet">
        Columns of many values are overrated by it: they offer more places to split at.
      </Text>
    </>
  );
}

const COLOURS = ['accent', 'heldout', 'training', 'validation', 'fails'] as const;

const DASHES = [undefined, '7 4', '2 3', '9 3 2 3', '1 4'] as const;

function Densities({ model }: { model: Model }) {
  const text = useColumnText();
  const [feature, setFeature] = useState(model.densities[0]?.feature ?? '');
  const shown = model.densities.find((one) => one.feature === feature) ?? model.densities[0];
  if (!shown) return null;
  const bars = shown.bars;
  const width = (bars[0]?.to ?? 1) - (bars[0]?.from ?? 0);
  return (
    <>
      <Subtitle>Densities of each class</Subtitle>
      <Select
        label="Feature"
        value={shown.feature}
        choices={model.densities.map((one) => ({ value: one.feature, text: one.feature }))}
        onChange={setFeature}
      />
      {shown.classes.slice(0, COLOURS.length).map(({ label, rows, curve }, i) => {
        const total = rows.reduce((a, b) => a + b, 0);
        return (
          <LinePlot
            key={label}
            label={`${shown.feature} of ${label}`}
            height={190}
            series={[
              {
                name: `rows of ${label}`,
                colour: 'quiet',
                step: true,
                points: bars.map(({ from }, bar) => ({
                  x: from,
                  y: total > 0 ? (rows[bar] ?? 0) / total / width : 0,
                })),
              },
              {
                name: 'density that the model makes of them',
                colour: COLOURS[i] ?? 'accent',
                points: curve,
                ...(DASHES[i] === undefined ? {} : { dash: DASHES[i] }),
              },
            ]}
            x={{ title: shown.feature, text: text(shown.feature) }}
            y={{ title: 'density', bounds: [0, null] }}
          />
        );
      })}
    </>
  );
}
