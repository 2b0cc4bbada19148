import { Box, SimpleGrid, Text } from '@chakra-ui/react';
import { metricNamed } from '@modest-sieve/core/metrics';
import { modelFamilyOf } from '@modest-sieve/core/models';
import { useAnswer, type Schemas } from '../../../api/client.js';
import { useCourseApi } from '../../../api/course.js';
import { figureText, percent, pText } from '../../../kit/table/format.js';
import { Select } from '../../../kit/form/select.js';
import { Answer } from '../../../kit/answer/states.js';
import { AnswerGrid } from '../../../kit/plot/answer-grid.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { useDataSet } from '../../use-data-set.js';
import { runDetail } from '../draft.js';
import { ElsewhereView } from './elsewhere-view.js';

type Trial = Schemas['TrialDetail'];
type Run = Schemas['TrialInfo'];

const titleOf = (run: Pick<Run, 'plan' | 'result'>): string => {
  const detail = runDetail(run);
  return `${modelFamilyOf(run.plan.model).title}${detail === '' ? '' : `, ${detail}`}`;
};

/**
 * The chosen run beside another. Over the same folds: figures with the corrected test, coefficients, rows that differ; over
 * other folds or of another version: what differs, figures without a test, coefficients.
 */
export function BesideView({
  trial,
  runs,
  beside,
  onBeside,
}: {
  trial: Trial;
  runs: readonly Run[];
  beside: string | null;
  onBeside: (id: string) => void;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const isHere = ({ foldSetId }: Run) => foldSetId === trial.foldSetId;
  const others = runs.filter(({ id, state }) => id !== trial.id && state === 'done');
  const other = others.find(({ id }) => id === beside);
  const isPaired = other !== undefined && isHere(other);
  const at = { dataSet: dataSet.address };
  const answer = useAnswer(
    isPaired
      ? address('/data-sets/{dataSet}/trials/{trial}/against/{other}', {
          ...at,
          trial: trial.id,
          other: other.id,
        })
      : null,
  );
  const detail = useAnswer(
    other ? address('/data-sets/{dataSet}/trials/{trial}', { ...at, trial: other.id }) : null,
  );
  return (
    <Box>
      <Select
        label="Compare with"
        value={other?.id ?? ''}
        choices={[
          { value: '', text: others.length === 0 ? 'no other run' : 'which run?' },
          ...others.filter(isHere).map((run) => ({ value: run.id, text: titleOf(run) })),
          ...others
            .filter((run) => !isHere(run))
            .map((run) => ({ value: run.id, text: `${titleOf(run)}; other folds, version ${run.version}` })),
        ]}
        onChange={onBeside}
      />
      {other && !isPaired ? (
        <>
          <ElsewhereView trial={trial} other={other} foldSets={dataSet.foldSets} />
          {detail.data ? <TwoModels first={trial} second={detail.data} /> : null}
        </>
      ) : null}
      {other && isPaired ? (
        <Answer of={answer} what="the comparison">
          {(against) => (
            <>
              <Tests trial={trial} other={other} against={against} />
              <TwoGrids against={against} />
              {detail.data ? <TwoModels first={trial} second={detail.data} /> : null}
              <Differing against={against} trial={trial} other={other} />
            </>
          )}
        </Answer>
      ) : null}
    </Box>
  );
}

function Tests({ trial, other, against }: { trial: Trial; other: Run; against: Schemas['TrialAgainst'] }) {
  return (
    <>
      <Subtitle>Figure by figure</Subtitle>
      <Ruled
        label="Figure by figure"
        headings={[
          { text: 'metric' },
          { text: 'this run', numeric: true },
          { text: 'the other', numeric: true },
          { text: 'difference', numeric: true },
          { text: '95 % interval', numeric: true },
          { text: 'p', numeric: true },
        ]}
      >
        {Object.entries(against.tests).map(([key, test]) => {
          const mean = (run: Pick<Run, 'result'>) => figureText(run.result?.chosen.metrics[key]?.mean);
          const known = 't' in test;
          return (
            <tr key={key}>
              <Cell>{metricNamed(key).name}</Cell>
              <Cell numeric>{mean(trial)}</Cell>
              <Cell numeric>{mean(other)}</Cell>
              <Cell numeric>{known ? figureText(test.difference) : '–'}</Cell>
              <Cell numeric>
                {known ? `${figureText(test.low)} to ${figureText(test.high)}` : test.reason}
              </Cell>
              <Cell numeric strong={known && test.p < 0.05}>
                {pText(known ? test.p : null)}
              </Cell>
            </tr>
          );
        })}
      </Ruled>
      <Text fontSize="13px" color="quiet">
        Paired over the folds, with the standard error corrected for the rows that training sets share. Where
        p is 0.05 or more no difference is shown: it would have to reach about half the width of its interval.
        {against.agreement === null
          ? ''
          : ` Both predict the same for ${percent(against.agreement)} of the rows.`}
        {against.mcnemar
          ? ` Only this run is right on ${against.mcnemar.onlyFirst} rows, only the other on ${against.mcnemar.onlySecond} (${against.mcnemar.p === null ? 'McNemar’s test could not be judged: rows come in groups' : `McNemar, exact: p ${pText(against.mcnemar.p)}`}).`
          : ''}
        {against.rmsDifference === null
          ? ''
          : ` Their predictions lie ${figureText(against.rmsDifference)} apart (root mean square).`}
      </Text>
    </>
  );
}

/** What each run says of the rows of each class, side by side. */
function TwoGrids({ against: { confusions } }: { against: Schemas['TrialAgainst'] }) {
  if (!confusions) return null;
  const { labels, first, second } = confusions;
  return (
    <>
      <Subtitle>Answers by class</Subtitle>
      <SimpleGrid columns={{ base: 1, xl: 2 }} gap={4}>
        {[
          { of: 'this run', counts: first },
          { of: 'the other', counts: second },
        ].map(({ of, counts }) => (
          <Box key={of} data-grid={of}>
            <Text fontSize="13.5px" fontWeight={700}>
              {of}
            </Text>
            <AnswerGrid labels={labels} counts={counts} />
          </Box>
        ))}
      </SimpleGrid>
    </>
  );
}

/** Coefficients of both runs, term by term; one that is exactly 0 is distinguished from one that is small. */
function TwoModels({ first, second }: { first: Trial; second: Trial }) {
  const [a, b] = [first.model?.coefficients ?? [], second.model?.coefficients ?? []];
  if (a.length === 0 || b.length === 0) return null;
  const terms = [...new Set([...a, ...b].map(({ term }) => term))];
  const text = (of: typeof a, term: string) => {
    const found = of.find((own) => own.term === term);
    if (!found) return 'not in it';
    if (found.estimate === null) return 'collinear with others';
    return found.estimate === 0 ? '0 exactly' : figureText(found.estimate);
  };
  return (
    <>
      <Subtitle>Coefficients</Subtitle>
      <Ruled
        label="Coefficients of both runs"
        headings={[
          { text: 'term' },
          { text: 'this run', numeric: true },
          { text: 'the other', numeric: true },
        ]}
      >
        {terms.map((term) => (
          <tr key={term}>
            <Cell>{term}</Cell>
            <Cell numeric>{text(a, term)}</Cell>
            <Cell numeric>{text(b, term)}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}

function Differing({
  against,
  trial,
  other,
}: {
  against: Schemas['TrialAgainst'];
  trial: Trial;
  other: Run;
}) {
  if (against.rows.length === 0) return null;
  return (
    <>
      <Subtitle>Rows on which they differ</Subtitle>
      <Ruled
        label="Rows on which they differ"
        headings={[
          { text: 'row', numeric: true },
          { text: 'truth' },
          { text: titleOf(trial), wraps: true },
          { text: `${titleOf(other)} `, wraps: true },
        ]}
      >
        {against.rows.map(({ row, truth, first, second }) => (
          <tr key={row}>
            <Cell numeric>{row}</Cell>
            <Cell>{truth}</Cell>
            <Cell strong={first === truth}>{first}</Cell>
            <Cell strong={second === truth}>{second}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
