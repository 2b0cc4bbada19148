import { Box, Text } from '@chakra-ui/react';
import { count, counted, shortNumber } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import type { DrawnNode, ModelPicture, ModelResult, ModelRules } from '@modest-sieve/core/assessment';
import type { TriedModel } from '../../check/check.worker.js';
import { figureText, sizeText } from '../../kit/table/format.js';
import { PlanChoice } from '../../kit/sentence/plan-sentence.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';

/** Inputs whose columns are shown; a matrix may have thousands. */
const MOST_INPUTS = 40;
/** Columns of the example rows that are shown beside what the model says. */
const MOST_COLUMNS = 5;
const MOST_TERMS = 30;

/** What a model needs and says, before it is sent: which column each input takes can be changed here. */
export function TriedModelView({
  tried: { report, says },
  rules,
  onColumn,
}: {
  tried: TriedModel;
  rules: ModelRules;
  onColumn: (input: string, column: string) => void;
}) {
  const { inputs, moreInputs } = report;
  const taken = new Set(inputs.map(({ column }) => column));
  const shown = rules.columns
    .flatMap(({ name }, place) => (taken.has(name) ? [{ name, place }] : []))
    .slice(0, MOST_COLUMNS);
  return (
    <Box mt={4} data-model={report.format}>
      <Ruled label="What the model takes" headings={[{ text: 'input' }, { text: 'column' }]}>
        {inputs.slice(0, MOST_INPUTS).map(({ name, column }) => (
          <tr key={name}>
            <Cell mono>{name}</Cell>
            <Cell>
              <PlanChoice
                label={`column for ${name}`}
                value={column ?? ''}
                choices={[
                  ...(column === null ? [{ value: '', text: 'choose a column' }] : []),
                  ...columnsFor(column, rules).map((value) => ({ value, text: value })),
                ]}
                onChange={(value) => onColumn(name, value)}
              />
            </Cell>
          </tr>
        ))}
      </Ruled>
      {inputs.length + moreInputs > MOST_INPUTS ? (
        <Text fontSize="13.5px" color="quiet">{`and ${inputs.length + moreInputs - MOST_INPUTS} more`}</Text>
      ) : null}
      {says.length > 0 ? (
        <Box mt={4}>
          <Ruled
            label="What it predicts for the first training rows"
            headings={[...shown.map(({ name }) => ({ text: name })), { text: 'the model says' }]}
          >
            {says.map((said, row) => (
              <tr key={row}>
                {shown.map(({ name, place }) => (
                  <Cell key={name}>{rules.examples[row]?.[place] ?? '–'}</Cell>
                ))}
                <Cell strong>{said}</Cell>
              </tr>
            ))}
          </Ruled>
        </Box>
      ) : null}
    </Box>
  );
}

/** Columns that may be chosen, with the one that is chosen although it may not. */
const columnsFor = (column: string | null, { columns }: ModelRules): string[] => {
  const names = columns.map(({ name }) => name);
  return column === null || names.includes(column) ? names : [column, ...names];
};

/** What was read off a model, and how it does on the rows that it was fitted to. */
export function ModelView({ model: { report, training } }: { model: ModelResult }) {
  return (
    <>
      <Subtitle>The model</Subtitle>
      <Text>{report.outline}</Text>
      <Text fontSize="13.5px" color="quiet">
        {sizeText(report.size)}; {counted(report.inputs.length + report.moreInputs, 'input')}:{' '}
        {report.inputs
          .slice(0, MOST_INPUTS)
          .map(({ name, column }) => (name === column ? name : `${name} as ${column ?? 'nothing'}`))
          .join(', ')}
      </Text>
      <Text mt={1}>
        On the training rows: {metricNamed(training.metric).name}{' '}
        <b className="figures">{figureText(training.score)}</b>
        <Text as="span" color="quiet" fontSize="14px">
          {' '}
          on {counted(training.rows, 'row')}
        </Text>
      </Text>
      <Picture picture={report.picture} />
    </>
  );
}

function Picture({ picture }: { picture: ModelPicture }) {
  switch (picture.kind) {
    case 'coefficients':
      return <Coefficients terms={picture.terms} more={picture.more} />;
    case 'tree':
      return (
        <Box
          mt={3}
          fontSize="13.5px"
          maxH="22rem"
          overflow="auto"
          tabIndex={0}
          role="region"
          aria-label="tree of the model"
        >
          <Branch node={picture.root} />
          {picture.more > 0 ? <Text color="quiet">{`and ${counted(picture.more, 'node')} more`}</Text> : null}
        </Box>
      );
    case 'parts':
      return (
        <Text mt={2} fontSize="13.5px" color="quiet">
          {picture.parts.map(({ name, count: n }) => (n === 1 ? name : `${count(n)} × ${name}`)).join(' · ')}
        </Text>
      );
  }
}

function Coefficients({
  terms,
  more,
}: {
  terms: readonly { readonly term: string; readonly estimate: number }[];
  more: number;
}) {
  const shown = terms.slice(0, MOST_TERMS);
  const most = Math.max(
    ...shown.filter(({ term }) => term !== '(intercept)').map(({ estimate }) => Math.abs(estimate)),
  );
  const left = more + terms.length - shown.length;
  return (
    <Box mt={2}>
      <Ruled
        label="Coefficients"
        headings={[{ text: 'term' }, { text: 'estimate', numeric: true }, { text: '' }]}
      >
        {shown.map(({ term, estimate }) => (
          <tr key={term}>
            <Cell mono>{term}</Cell>
            <Cell numeric>{shortNumber(estimate)}</Cell>
            <Cell>
              {term === '(intercept)' || !(most > 0) ? null : (
                <Box
                  h="8px"
                  w={`${Math.round((Math.abs(estimate) / most) * 120)}px`}
                  bg={estimate < 0 ? 'transparent' : 'accent'}
                  border="1px solid"
                  borderColor="accent"
                />
              )}
            </Cell>
          </tr>
        ))}
      </Ruled>
      <Text mt={1} fontSize="13px" color="quiet">
        {left > 0 ? `${counted(left, 'term')} more. ` : ''}The bar is its size, filled where it is above 0;
        sizes of columns in different units cannot be compared.
      </Text>
    </Box>
  );
}

/** A node with its branches below it, indented. */
function Branch({ node }: { node: DrawnNode }) {
  return (
    <>
      {node.when === '' ? 'all rows' : node.when}
      {node.branches.length === 0 && node.says !== null ? (
        <>
          {' → '}
          <b>{node.says}</b>
        </>
      ) : null}
      {node.branches.length > 0 ? (
        <Box as="ul" listStyleType="none" pl={4} borderLeft="1px solid" borderColor="rule">
          {node.branches.map((branch, i) => (
            <li key={i}>
              <Branch node={branch} />
            </li>
          ))}
        </Box>
      ) : null}
    </>
  );
}
