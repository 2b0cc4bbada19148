import { Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import type { FurtherScore } from '@modest-sieve/core/assessment';
import { figureText, intervalText } from '../../kit/table/format.js';
import { Cell, Ruled } from '../../kit/table/table.js';

type Shown = Omit<FurtherScore, 'groups'> & Partial<Pick<FurtherScore, 'groups'>>;

/** Further figures of an answer, with their marks; for staff with those of each subgroup. */
export function FurtherTable({ further }: { further: readonly Shown[] }) {
  return (
    <Ruled
      label="Further figures"
      headings={[
        { text: 'further figure' },
        { text: 'score', numeric: true },
        { text: 'marks', numeric: true },
      ]}
    >
      {further.map(({ title, rows, score, interval, line, marks, groups = [] }, i) => (
        <tr key={`${i} ${title}`}>
          <Cell>
            {title}
            <Text fontSize="13px" color="quiet">
              {counted(rows, 'row')}; interval {intervalText(interval)}
            </Text>
            {groups.length === 0 ? null : (
              <Text fontSize="13px" color="quiet">
                {groups.map((one) => `${one.label} ${figureText(one.score)} (${one.rows})`).join(', ')}
              </Text>
            )}
          </Cell>
          <Cell numeric>{figureText(score)}</Cell>
          <Cell numeric nowrap>
            {marks} of {line.marks}
          </Cell>
        </tr>
      ))}
    </Ruled>
  );
}
