import { Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Answer } from '../kit/answer/states.js';
import { Subtitle } from '../kit/layout/title.js';
import { figureText, percent } from '../kit/table/format.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { MissedSubgroups } from './missed-subgroups.js';

type Together = Schemas['ClassAnswersInfo'];

/** What the answers of a class to one question have in common: rows that are missed, and options that are chosen. */
export function AnswersTogether({ exerciseId, question }: { exerciseId: string; question: string }) {
  const address = useCourseApi();
  const together = useAnswer(
    address('/exercises/{exercise}/class/{question}/answers', { exercise: exerciseId, question }),
  );
  return (
    <Answer of={together} what="what the answers have in common">
      {({ rows, options, leftOut }) => (
        <>
          {rows ? <Rows rows={rows} /> : null}
          {leftOut > 0 ? (
            <Text color="quiet" fontSize="13.5px">
              {counted(leftOut, 'student')} left out: the files of all together are too large to be read.
            </Text>
          ) : null}
          {options.length > 0 ? <Options options={options} /> : null}
        </>
      )}
    </Answer>
  );
}

function Rows({ rows }: { rows: NonNullable<Together['rows']> }) {
  const isLabels = rows.kind === 'labels';
  const figure = (missed: number) => (isLabels ? percent(missed) : figureText(missed));
  const missed = isLabels ? 'missed by' : 'mean absolute error';
  return (
    <>
      <Subtitle>Rows that most students miss</Subtitle>
      {rows.worst.length === 0 ? (
        <Text color="quiet">Nobody misses any row.</Text>
      ) : (
        <>
          <Text fontSize="14px" maxW="72ch" mb={1}>
            {isLabels
              ? `A row is missed by ${percent(rows.missed)} of ${counted(rows.students, 'student')} on average.`
              : `The mean absolute error of ${counted(rows.students, 'student')} is ${figureText(rows.missed)}.`}{' '}
            A wrong key shows here: look up in the data what nearly everybody misses.
          </Text>
          <Ruled
            label="Rows that most students miss"
            headings={[
              { text: 'held-out row' },
              { text: 'key' },
              { text: isLabels ? 'most answer' : 'mean of the answers' },
              { text: missed, numeric: true },
            ]}
          >
            {rows.worst.map((row) => (
              <tr key={row.identifier}>
                <Cell mono>{row.identifier}</Cell>
                <Cell>{row.truth}</Cell>
                <Cell>{row.answer}</Cell>
                <Cell numeric>{figure(row.missed)}</Cell>
              </tr>
            ))}
          </Ruled>
        </>
      )}
      <MissedSubgroups
        title="Subgroups that the class misses more than other rows"
        kind={rows.kind}
        subgroups={rows.subgroups}
      />
    </>
  );
}

function Options({ options }: { options: Together['options'] }) {
  return (
    <>
      <Subtitle>Options chosen</Subtitle>
      <Ruled
        label="Options chosen"
        headings={[
          { text: 'asked' },
          { text: 'option' },
          { text: 'students', numeric: true },
          { text: 'key' },
        ]}
      >
        {options.map(({ asks, option, students, asked, right }, i) => (
          <tr key={`${asks} ${option} ${String(right)}`}>
            <Cell strong>{options[i - 1]?.asks === asks ? '' : asks}</Cell>
            <Cell>{option}</Cell>
            <Cell numeric>
              {students} of {asked}
            </Cell>
            <Cell>{right ? 'right' : ''}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
