import { Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core';
import type { Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { momentText } from '../../kit/format.js';
import { Cell, Ruled } from '../../kit/table.js';
import { Subtitle } from '../../kit/title.js';
import { useDataSet } from '../data-set-page.js';

/** Every version of the data set, the newest first, with what is otherwise than in the one before. */
export function Versions() {
  const { dataSet } = useDataSet();
  const { timeZone } = useCourse();
  return (
    <>
      <Subtitle>Versions</Subtitle>
      <Ruled
        label="Versions"
        headings={[
          { text: 'version', numeric: true },
          { text: 'made of' },
          { text: 'rows', numeric: true },
          { text: 'columns', numeric: true },
          { text: 'against the one before' },
          { text: 'kept' },
          { text: 'take out' },
        ]}
      >
        {dataSet.versions.map((version, i) => (
          <tr key={version.number}>
            <Cell numeric strong>
              {version.number}
            </Cell>
            <Cell>
              {version.from === null
                ? 'a file as it came'
                : `version ${version.from} by ${counted(version.steps.length, 'step')}`}
            </Cell>
            <Cell numeric>{count(version.rows)}</Cell>
            <Cell numeric>{version.columns.length}</Cell>
            <Cell quiet>{difference(version, dataSet.versions[i + 1])}</Cell>
            <Cell quiet>{momentText(version.createdAt, timeZone)}</Cell>
            <Cell nowrap>
              <Downloads number={version.number} />
            </Cell>
          </tr>
        ))}
      </Ruled>
      <Text mt={2} fontSize="13.5px" color="quiet">
        A version never changes. Splits and exercises stay on the one that they were made on.
      </Text>
    </>
  );
}

const FILES = [
  { format: 'csv', text: 'CSV' },
  { format: 'parquet', text: 'Parquet' },
  { format: 'zip', text: 'Data Package' },
] as const;

function Downloads({ number }: { number: number }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  return (
    <Flex gap={3}>
      {FILES.map(({ format, text }) => (
        <a
          key={format}
          href={`${address('data-sets', dataSet.id, 'table')}?version=${number}&format=${format}`}
          aria-label={`Version ${number} as ${text}`}
        >
          {text}
        </a>
      ))}
    </Flex>
  );
}

function difference(version: Schemas['VersionInfo'], before: Schemas['VersionInfo'] | undefined): string {
  if (!before) return '';
  if (version.sameAs !== null) return `the same table as version ${version.sameAs}`;
  const came = version.columns.filter((name) => !before.columns.includes(name));
  const went = before.columns.filter((name) => !version.columns.includes(name));
  const rows = version.rows - before.rows;
  const parts = [
    rows === 0 ? null : `${rows > 0 ? '+' : '−'}${counted(Math.abs(rows), 'row')}`,
    went.length > 0 ? `without ${went.join(', ')}` : null,
    came.length > 0 ? `with ${came.join(', ')}` : null,
  ].filter((part) => part !== null);
  return parts.length === 0 ? 'other cells' : parts.join('; ');
}
