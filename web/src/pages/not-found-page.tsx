import { Box } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Empty } from '../kit/answer/states.js';
import { HiddenTitle } from '../kit/layout/title.js';

/** Shown where an address leads nowhere. */
export function NotFoundPage() {
  return (
    <Box px={6}>
      <HiddenTitle>Nothing here</HiddenTitle>
      <Empty title="There is nothing here for you">
        The address may be mistyped, or what it named is not yours to see. <Link to="/">To your courses</Link>
      </Empty>
    </Box>
  );
}
