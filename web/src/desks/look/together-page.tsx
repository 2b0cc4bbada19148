import { Box, Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import type { Pair } from '@modest-sieve/core/data';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/form/action.js';
import { BoxPlot } from '../../kit/plot/box-plot.js';
import { CrossGrid } from '../../kit/plot/cross-grid.js';
import { valueText } from '../../kit/table/format.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { DensityPlot, PointPlot } from '../../kit/plot/point-plot.js';
import { Answer, Empty } from '../../kit/answer/states.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useAddressed } from '../../kit/layout/use-address.js';
import { useDataSet } from '../use-data-set.js';

/** Two columns together, in the form that fits their kinds. */
export function TogetherPage() {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { search, change } = useAddressed();
  const names = dataSet.profile.filter(({ kind }) => kind !== 'text').map(({ name }) => name);
  const numbers = dataSet.profile.filter(({ kind }) => kind === 'number').map(({ name }) => name);
  const x = named(search.get('x'), names) ?? numbers[0] ?? names[0] ?? '';
  const y =
    named(search.get('y'), names) ??
    [dataSet.roles?.target, ...numbers, ...names].find((name) => name && name !== x) ??
    '';
  const form = search.get('form');
  const pair = useAnswer(
    names.length < 2 ? null : address('/data-sets/{dataSet}/pair', { dataSet: dataSet.address }, { x, y }),
  );
  if (names.length < 2)
    return <Empty title="There are no two columns to plot together">Free texts are not among them.</Empty>;
  const choices = names.map((name) => ({ value: name, text: name }));
  return (
    <>
      <Flex mt={4} gap={4} align="center" wrap="wrap">
        <PlanSentence label="Which two columns">
          Set{' '}
          <PlanChoice
            label="column across"
            value={x}
            choices={choices}
            onChange={(to) => change({ x: to })}
          />{' '}
          against{' '}
          <PlanChoice
            label="column upwards"
            value={y}
            choices={choices}
            onChange={(to) => change({ y: to })}
          />
          .
        </PlanSentence>
        <Action plain onClick={() => change({ x: y, y: x })}>
          Swap axes
        </Action>
      </Flex>
      <Answer of={pair} what="the two columns">
        {(data) => (
          <Box mt={2}>
            <Text fontSize="14px" color="quiet" mb={3}>
              {counted(data.rows, 'row')} of {count(dataSet.rows)} have both.{' '}
              {data.association?.value == null
                ? ''
                : `How strongly they go together: ${data.association.measure} ${data.association.value.toFixed(2).replace('-', '−')}.`}
            </Text>
            <Shown pair={data} x={x} y={y} form={form} onForm={(to) => change({ form: to })} />
          </Box>
        )}
      </Answer>
    </>
  );
}

const named = (name: string | null, names: readonly string[]): string | null =>
  name !== null && names.includes(name) ? name : null;

function Shown({
  pair: { rows, shown },
  x,
  y,
  form,
  onForm,
}: {
  pair: Pair;
  x: string;
  y: string;
  form: string | null;
  onForm: (form: string) => void;
}) {
  const { dataSet } = useDataSet();
  const isDate = (name: string) =>
    dataSet.profile.some((column) => column.name === name && column.kind === 'time');
  switch (shown.kind) {
    case 'boxes':
      return <BoxPlot boxes={shown} isDate={isDate(shown.number)} />;
    case 'cross':
      return <CrossGrid cross={shown} x={x} y={y} />;
    case 'points': {
      const density = form === 'points' || form === 'line' ? null : shown.density;
      const axes = { x: { name: x, isDate: isDate(x) }, y: { name: y, isDate: isDate(y) } };
      const { line } = shown;
      return (
        <>
          <PlanSentence label="How they are shown">
            Show{' '}
            <PlanChoice
              label="form"
              value={form ?? (density ? 'density' : 'points')}
              choices={[
                ...(shown.density ? [{ value: 'density', text: 'all rows as a density' }] : []),
                {
                  value: 'points',
                  text:
                    shown.x.length < rows
                      ? `${count(shown.x.length)} of the rows as points`
                      : 'the rows as points',
                },
                ...(line ? [{ value: 'line', text: 'points and the regression line' }] : []),
              ]}
              onChange={onForm}
            />
            .
          </PlanSentence>
          {density ? (
            <DensityPlot density={density} {...axes} />
          ) : (
            <PointPlot points={shown} line={form === 'line' ? line : null} {...axes} />
          )}
          {form === 'line' && line ? (
            <>
              <Subtitle>The line</Subtitle>
              <Text fontSize="14px" className="figures">
                {y} ≈ {valueText(line.intercept).replace('-', '−')} {line.slope < 0 ? '−' : '+'}{' '}
                {valueText(Math.abs(line.slope))} × {x}; it explains {(100 * line.r2).toFixed(1)} % of the
                variance of {y}, by least squares over {counted(rows, 'row')}.
              </Text>
            </>
          ) : null}
        </>
      );
    }
  }
}
