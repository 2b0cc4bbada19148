import { Box } from '@chakra-ui/react';
import type { Schemas } from '../../../api/client.js';
import { DependenceView } from './dependence-view.js';
import { ImportanceView } from './importance-view.js';

/** What the features of a run do in its model: what each is worth, and how predictions go along them. */
export function ColumnsView({ trial }: { trial: Schemas['TrialDetail'] }) {
  return (
    <Box>
      <ImportanceView trial={trial} />
      <DependenceView trial={trial} />
    </Box>
  );
}
