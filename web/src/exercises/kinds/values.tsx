import { Box, Text } from '@chakra-ui/react';
import { SieveError } from '@modest-sieve/core/foundation';
import { checkPlanned, newPlan } from '@modest-sieve/core/data';
import {
  checkSamples,
  generate,
  NOBODY,
  GENERATORS,
  generatorOf,
  filledText,
  keyWords,
  markingMetrics,
  TOLERANCE_KINDS,
  toleranceKindOf,
  type GeneratedItem,
  type Question,
} from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { TextAction } from '../../kit/form/action.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { SentenceControls } from '../../kit/sentence/sentence.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import type { MarginProps } from './question-sentence.js';
import { ToldMistakes } from './told-mistakes.js';

/** What the menu puts together. */
const GROUPS = {
  chance: 'drawn for each student',
  data: 'computed from the data',
  models: 'computed from a fitted model',
  elsewhere: 'from elsewhere',
} as const;

/** What is computed, how near answers must be, and some draws with their keys. */
export function ValuesMargin({ question, given, data, onChange }: MarginProps<'values'>) {
  const { task } = data.roles;
  const { figures, tolerance } = question;
  const kind = generatorOf(figures);
  return (
    <>
      <SentenceControls
        kind={kind}
        plan={figures}
        label="What is computed"
        given={given}
        before={
          <>
            Of{' '}
            <PlanChoice
              label="what is computed"
              value={kind.key}
              choices={GENERATORS.map((one) => ({
                value: one.key,
                text: one.title,
                group: GROUPS[one.from === 'chance' ? 'chance' : one.of],
              }))}
              onChange={(key) => {
                const next = generatorOf({ kind: key });
                const figures = newPlan(next, given);
                const metric = markingMetrics(task)[0]?.key ?? '';
                // A score of a model is begun with a metric of the task.
                const values = 'metric' in next.parameters ? { ...figures.values, metric } : figures.values;
                onChange({ ...question, figures: { ...figures, values }, text: next.text });
              }}
            />
            :{' '}
          </>
        }
        onChange={(plan) => onChange({ ...question, figures: plan })}
      />
      <Text mt={1} mb={3} fontSize="13px" color="quiet">
        {kind.about}
      </Text>
      {kind.key === 'seeded-score' ? null : (
        <SentenceControls
          kind={toleranceKindOf(tolerance)}
          plan={tolerance}
          label="Tolerance"
          given={given}
          before={
            <>
              <PlanChoice
                label="tolerance"
                value={tolerance.kind}
                choices={TOLERANCE_KINDS.map(({ key, title }) => ({ value: key, text: title }))}
                onChange={(key) =>
                  onChange({ ...question, tolerance: newPlan(toleranceKindOf({ kind: key }), []) })
                }
              />
              :{' '}
            </>
          }
          onChange={(plan) => onChange({ ...question, tolerance: plan })}
        />
      )}
      {kind.from === 'chance' ? (
        <>
          <Draws question={question} />
          <ToldMistakes question={question} />
        </>
      ) : (
        <Samples question={question} onChange={onChange} />
      )}
      {kind.from === 'chance' ? null : (
        <Text mt={3} fontSize="13.5px" color="quiet">
          The key is computed from the training rows when the exercise is released; trying it as a student
          shows it.
        </Text>
      )}
    </>
  );
}

const PARTS = [2, 3, 5, 10, 20];

/** From which training rows each student computes. */
function Samples({ question, onChange }: Pick<MarginProps<'values'>, 'question' | 'onChange'>) {
  const kind = generatorOf(question.figures);
  if (kind.from !== 'data' || kind.of === 'elsewhere') return null;
  const problem = problemOf(question);
  return (
    <>
      <PlanSentence label="Rows of each student">
        Each student computes from{' '}
        <PlanChoice
          label="rows of each student"
          value={String(question.samples ?? '')}
          choices={[
            { value: '', text: 'all of these rows' },
            ...PARTS.map((parts) => ({ value: String(parts), text: `one of ${parts} parts of them` })),
          ]}
          onChange={(parts) => {
            const { samples: before, ...all } = question;
            if (parts !== '') onChange({ ...all, samples: Number(parts) });
            else if (before !== undefined) onChange(all);
          }}
        />
        .
      </PlanSentence>
      <ErrorMessage>{problem}</ErrorMessage>
    </>
  );
}

/** What is wrong with the parts; null where nothing is. */
function problemOf({ figures, samples }: MarginProps<'values'>['question']): string | null {
  try {
    checkSamples(samples, generatorOf(figures), figures.values);
    return null;
  } catch (error) {
    if (error instanceof SieveError) return error.message;
    throw error;
  }
}

/** What some students would get, with their keys. */
function Draws({ question }: { question: Extract<Question, { kind: 'values' }> }) {
  const [from, setFrom] = useState(0);
  const draws = drawsOf(question, from);
  return (
    <>
      <Subtitle>Random variants, with their keys</Subtitle>
      {typeof draws === 'string' ? (
        <ErrorMessage>{draws}</ErrorMessage>
      ) : (
        <>
          <Ruled label="Draws" headings={[{ text: 'student' }, { text: 'key' }]}>
            {draws.map((drawn, i) => (
              <tr key={i}>
                <Cell>{`no. ${from + i + 1}`}</Cell>
                <Cell>{drawn.asked.map(keyWords).join('; ')}</Cell>
              </tr>
            ))}
          </Ruled>
          <Text mt={2} fontSize="13.5px" color="quiet">
            {draws[0] ? filledText(question.text, draws[0].given) : ''}
          </Text>
          <Box mt={2}>
            <TextAction onClick={() => setFrom(from + SHOWN)}>Draw others</TextAction>
          </Box>
        </>
      )}
    </>
  );
}

const SHOWN = 4;

/** Some draws, or why there are none. */
function drawsOf(
  { figures, id }: Extract<Question, { kind: 'values' }>,
  from: number,
): readonly GeneratedItem[] | string {
  try {
    checkPlanned(generatorOf(figures), figures, []);
    return Array.from({ length: SHOWN }, (_, i) =>
      generate(figures, { ...NOBODY, question: id, id: String(from + i) }),
    );
  } catch (error) {
    if (error instanceof SieveError) return error.message;
    throw error;
  }
}
