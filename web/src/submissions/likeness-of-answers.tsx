import { Box, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Fragment, useState } from 'react';
import { Link } from 'react-router';
import { useAnswer, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Answer } from '../kit/answer/states.js';
import { Action } from '../kit/form/action.js';
import { Subtitle } from '../kit/layout/title.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { clustersOf, nameOf, studentOf } from './alike.js';

type Found = Schemas['LikenessInfo'];
type View = Pick<Schemas['ClassView'], 'lines' | 'submissions'>;

interface Shown {
  readonly found: Found;
  readonly view: View;
  /** The address of a submission. */
  readonly to: (submission: string) => string;
}

/** What answers of different students share, once somebody asks. */
export function LikenessOfAnswers({
  exerciseId,
  question,
  view,
  to,
}: {
  exerciseId: string;
  question: string;
  view: View;
  to: (submission: string) => string;
}) {
  const [asked, ask] = useState(false);
  const address = useCourseApi();
  const likeness = useAnswer(
    asked
      ? address('/exercises/{exercise}/class/{question}/likeness', { exercise: exerciseId, question })
      : null,
  );
  return (
    <>
      <Subtitle>Answers that are alike</Subtitle>
      {asked ? (
        <Answer of={likeness} what="what the answers share">
          {(found) => <Likeness found={found} view={view} to={to} />}
        </Answer>
      ) : (
        <Action plain onClick={() => ask(true)}>
          Compare the answers
        </Action>
      )}
    </>
  );
}

/** What was found, without a word about why. */
export function Likeness({ found, view, to }: Shown) {
  const { compared, leftOut, typed, files, same } = found;
  const isAny = (typed?.found.length ?? 0) + (files?.length ?? 0) > 0;
  const isCompared = typed !== null || files !== null;
  return (
    <Box data-likeness={isAny ? 'found' : 'none'}>
      <Text fontSize="14px" maxW="72ch">
        {isCompared
          ? `${counted(compared, 'answer')} compared. `
          : 'Answers to this kind of question are not compared but for the same files. '}
        {isAny
          ? 'What two answers share may have a good reason: work in pairs, an example in class, or somebody signed in for another. Ask before you conclude anything.'
          : isCompared
            ? 'None is so like another student’s that work of one’s own hardly explains it.'
            : ''}
        {files ? ' Files of labels, or of few different numbers, are alike by themselves and left out.' : ''}
        {typed && typed.tooCommon > 0
          ? ` ${counted(typed.tooCommon, 'answer')} with wrong numbers could not be judged: such numbers are right for many students by chance.`
          : ''}
        {leftOut > 0 ? ` ${counted(leftOut, 'answer')} left out: all files together are too large.` : ''}
      </Text>
      {typed && typed.found.length > 0 ? <TypedForAnother found={found} view={view} to={to} /> : null}
      {files && files.length > 0 ? <NearlySame found={found} view={view} to={to} /> : null}
      {same.length > 0 ? (
        <Text mt={2} fontSize="14px" maxW="72ch">
          One and the same file, which says nothing by itself, since a program writes the same for all who run
          it:{' '}
          {same.map((answers, i) => (
            <Fragment key={answers.join()}>
              {i === 0 ? '' : '; '}
              <Named answers={answers} view={view} to={to} />
            </Fragment>
          ))}
          .
        </Text>
      ) : null}
    </Box>
  );
}

function Named({ answers, view, to }: { answers: readonly string[] } & Pick<Shown, 'view' | 'to'>) {
  return answers.map((answer, i) => (
    <Fragment key={answer}>
      {i === 0 ? '' : ', '}
      <Link to={to(answer)}>{studentOf(view, answer).name}</Link>
    </Fragment>
  ));
}

function TypedForAnother({ found, view, to }: Shown) {
  const pairs = clustersOf(found.typed?.found ?? [], ({ student, other }) => [student, other]);
  return (
    <>
      <Text mt={2} fontSize="14px" maxW="72ch">
        Each student has numbers of their own. These answers are wrong for their student and right for another
        one; of a hundred classes who work alone at most one has any.
      </Text>
      <Ruled
        label="Numbers that are right for another student"
        headings={[{ text: 'answer of' }, { text: 'is right for the numbers of' }]}
      >
        {pairs.flatMap(({ pairs: own }) =>
          own.map(({ answer, student, other }) => (
            <tr key={`${answer} ${other}`}>
              <Cell strong>
                <Link to={to(answer)}>{nameOf(view, student)}</Link>
              </Cell>
              <Cell>{nameOf(view, other)}</Cell>
            </tr>
          )),
        )}
      </Ruled>
    </>
  );
}

function NearlySame({ found, view, to }: Shown) {
  const clusters = clustersOf(found.files ?? [], ({ first, second }) => [
    studentOf(view, first).id,
    studentOf(view, second).id,
  ]);
  return (
    <>
      <Text mt={2} fontSize="14px" maxW="72ch">
        These files have the same numbers but for a few rows, in which they differ by much. Other settings of
        a model give other numbers in most rows, or near ones.
      </Text>
      {clusters.map(({ students, pairs }) => (
        <Box key={students.join()} mt={2}>
          <Text fontSize="14px" fontWeight={700}>
            {students.map((id) => nameOf(view, id)).join(', ')}
          </Text>
          {pairs.map(({ first, second, same, differing, rows }) => (
            <Fragment key={`${first} ${second}`}>
              <Text fontSize="13.5px" color="quiet">
                the same in {counted(same, 'row')}, other in {differing}
                {differing > rows.length ? `; the first ${rows.length} of them` : ''}
              </Text>
              <Ruled
                label={`Rows in which ${studentOf(view, first).name} and ${studentOf(view, second).name} differ`}
                headings={[
                  { text: 'held-out row' },
                  { text: studentOf(view, first).name, numeric: true },
                  { text: studentOf(view, second).name, numeric: true },
                ]}
              >
                {rows.map((row) => (
                  <tr key={row.identifier}>
                    <Cell mono>{row.identifier}</Cell>
                    <Cell numeric>
                      <Link to={to(first)}>{row.first}</Link>
                    </Cell>
                    <Cell numeric>
                      <Link to={to(second)}>{row.second}</Link>
                    </Cell>
                  </tr>
                ))}
              </Ruled>
            </Fragment>
          ))}
        </Box>
      ))}
    </>
  );
}
