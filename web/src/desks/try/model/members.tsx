import { Box, Text } from '@chakra-ui/react';
import type { MemberShare } from '@modest-sieve/core/models';
import { Subtitle } from '../../../kit/layout/title.js';
import { figureText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';

const WIDTH = 220;

/** The models of a combination, how much each counts, and its error on rows that it was fitted without. */
export function Members({ members }: { members: readonly MemberShare[] }) {
  const isLearned = members.some(({ error }) => error !== null);
  return (
    <>
      <Subtitle>The models and their shares</Subtitle>
      <Ruled
        label="The models and their shares"
        headings={[
          { text: 'model' },
          { text: 'share' },
          { text: '', numeric: true },
          ...(isLearned ? [{ text: 'squared error out of fold', numeric: true }] : []),
        ]}
      >
        {members.map(({ model, title, weight, error }) => (
          <tr key={model}>
            <Cell>
              {title}{' '}
              <Text as="span" color="quiet">
                {model.split(' ').slice(1).join(' ')}
              </Text>
            </Cell>
            <Cell>
              <Box h="10px" w={`${Math.max(1, weight * WIDTH)}px`} bg="figure" aria-hidden />
            </Cell>
            <Cell numeric>{(100 * weight).toFixed(1)} %</Cell>
            {isLearned ? <Cell numeric>{figureText(error)}</Cell> : null}
          </tr>
        ))}
      </Ruled>
      <Text fontSize="13px" color="quiet">
        {isLearned
          ? 'Shares with which the weighted mean has the least squared error on training rows that no model was fitted to. A model of share 0 adds nothing to the others.'
          : 'All count alike. Shares can be learned: choose a weighted mean.'}
      </Text>
    </>
  );
}
