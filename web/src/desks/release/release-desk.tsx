import { Box } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Empty } from '../../kit/answer/states.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';
import { SplitTable } from './split-table.js';

/** The saved splits, and the exercises that use them. */
export function ReleaseDesk() {
  const { dataSet } = useDataSet();
  if (dataSet.splits.length === 0) {
    return (
      <Empty title="No split is saved yet">
        An exercise asks for the held-out rows of a split. <Link to="../split">Save one at Split</Link>; it
        then appears here.
      </Empty>
    );
  }
  return (
    <Box mt={2}>
      <Subtitle>Saved splits</Subtitle>
      <SplitTable dataSet={dataSet} />
    </Box>
  );
}
