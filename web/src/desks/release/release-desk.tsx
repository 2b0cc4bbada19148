import { Box } from '@chakra-ui/react';
import { Link } from 'react-router';
import { useCourse } from '../../api/course.js';
import { momentText } from '../../kit/format.js';
import { Empty } from '../../kit/states.js';
import { SmallStrip } from '../../kit/strip.js';
import { Cell, Ruled } from '../../kit/table.js';
import { Subtitle } from '../../kit/title.js';
import { useDataSet } from '../data-set-page.js';

/** The splits that were kept, and the exercises that use them. */
export function ReleaseDesk() {
  const { dataSet } = useDataSet();
  const { id, timeZone } = useCourse();
  if (dataSet.splits.length === 0) {
    return (
      <Empty title="No split is kept yet">
        An exercise asks for the held-out rows of a split. <Link to="../split">Keep one at Split</Link>; it
        then appears here.
      </Empty>
    );
  }
  return (
    <Box mt={2}>
      <Subtitle>Splits kept</Subtitle>
      <Ruled
        label="Splits kept"
        headings={[
          { text: 'kept' },
          { text: 'method' },
          { text: 'parts' },
          { text: 'seed', numeric: true },
          { text: 'exercises' },
          { text: 'next' },
        ]}
      >
        {dataSet.splits.map((split) => {
          const uses = dataSet.exercises.filter((exercise) => exercise.splitId === split.id);
          return (
            <tr key={split.id}>
              <Cell>{momentText(split.createdAt, timeZone)}</Cell>
              <Cell mono>{split.method}</Cell>
              <Cell>
                <SmallStrip parts={split.consequences.parts} />
                {split.consequences.parts.map((part) => part.rows).join(' · ')}
              </Cell>
              <Cell numeric>{split.plan.values['seed'] ?? '–'}</Cell>
              <Cell>
                {uses.length === 0
                  ? 'none yet'
                  : uses.map((exercise) => (
                      <Box key={exercise.id}>
                        <Link to={`/courses/${id}/exercises/${exercise.id}`}>{exercise.title}</Link> (
                        {exercise.state})
                      </Box>
                    ))}
              </Cell>
              <Cell>
                <Link to={`/courses/${id}/exercises/new?dataSet=${dataSet.id}&split=${split.id}`}>
                  Set an exercise
                </Link>
              </Cell>
            </tr>
          );
        })}
      </Ruled>
    </Box>
  );
}
