import { Box, Flex } from '@chakra-ui/react';
import { Link } from 'react-router';
import type { Schemas } from '../../api/client.js';
import { composerAddress } from '../composer-address.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { momentText } from '../../kit/table/format.js';
import { Removing } from '../../kit/form/removing.js';
import { Renaming } from '../../kit/form/renaming.js';
import { SmallStrip } from '../../kit/plot/strip.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { splitName } from '../names.js';

/** The saved splits of a version, each with the exercises on it and the way to set another. */
export function SplitTable({ dataSet }: { dataSet: Schemas['DataSetDetail'] }) {
  const { id, timeZone } = useCourse();
  const address = useCourseApi();
  return (
    <Ruled
      label="Saved splits"
      headings={[
        { text: 'split' },
        { text: 'saved' },
        { text: 'method' },
        { text: 'parts' },
        { text: 'seed', numeric: true },
        { text: 'exercises' },
        { text: 'next' },
        { text: 'change' },
      ]}
    >
      {dataSet.splits.map((split) => {
        const uses = dataSet.exercises.filter((exercise) => exercise.splitId === split.id);
        const url = address('/data-sets/{dataSet}/splits/{split}', {
          dataSet: dataSet.address,
          split: split.id,
        });
        const name = splitName(split, timeZone);
        return (
          <tr key={split.id}>
            <Cell strong>{split.name || '–'}</Cell>
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
              <Link to={composerAddress(id, dataSet.address, split.id)}>Set an exercise</Link>
            </Cell>
            <Cell>
              <Flex gap={3} wrap="wrap">
                <Renaming name={split.name} what={name} url={url} />
                <Removing what="the split" name={name} own="splits" removal={split.removal} url={url} />
              </Flex>
            </Cell>
          </tr>
        );
      })}
    </Ruled>
  );
}
