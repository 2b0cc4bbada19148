import { Flex, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { Link, useNavigate } from 'react-router';
import type { Schemas } from '../../api/client.js';
import { useCourse, useCourseApi } from '../../api/course.js';
import { momentText } from '../../kit/table/format.js';
import { Removing } from '../../kit/form/removing.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';
import { MakeCurrent, versionPath } from '../open-version.js';

/** Every version of the data set, the newest first, with what is otherwise than in the one before. */
export function Versions() {
  const { dataSet } = useDataSet();
  const { id, timeZone } = useCourse();
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
          { text: 'against the one before', wraps: true },
          { text: 'saved' },
          { text: 'remove' },
          { text: 'change' },
        ]}
      >
        {dataSet.versions.map((version, i) => (
          <tr key={version.number}>
            <Cell numeric strong>
              {version.number === dataSet.version ? (
                version.number
              ) : (
                <Link
                  to={versionPath(id, dataSet, version.number)}
                  aria-label={`Open version ${version.number}`}
                >
                  {version.number}
                </Link>
              )}
            </Cell>
            <Cell>
              {version.from === null
                ? 'a file as it came'
                : `version ${version.from} by ${counted(version.steps.length, 'step')}`}
            </Cell>
            <Cell numeric>{count(version.rows)}</Cell>
            <Cell numeric>{version.columns.length}</Cell>
            <Cell quiet>{difference(version, dataSet.versions[i + 1])}</Cell>
            <Cell quiet nowrap>
              {momentText(version.createdAt, timeZone)}
            </Cell>
            <Cell nowrap>
              <Downloads number={version.number} />
            </Cell>
            <Cell>
              <VersionActions version={version} />
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

/** A version that work goes on with, or that is deleted with what was made of it. */
function VersionActions({ version: { number, from, removal } }: { version: Schemas['VersionInfo'] }) {
  const { dataSet } = useDataSet();
  const { id } = useCourse();
  const address = useCourseApi();
  const navigate = useNavigate();
  return (
    <Flex gap={3} wrap="wrap">
      {number === dataSet.current ? <b>current</b> : <MakeCurrent number={number} text="Make current" />}
      <Removing
        what={from === null ? `the raw table of version ${number}` : `version ${number}`}
        name={`version ${number}`}
        own="versions"
        text={from === null ? 'Take back' : 'Delete'}
        removal={removal}
        url={address('/data-sets/{dataSet}/versions/{version}', {
          dataSet: dataSet.id,
          version: String(number),
        })}
        onDone={() => {
          if (number === dataSet.version) void navigate(`/courses/${id}/data/${dataSet.id}/prepare`);
        }}
      />
    </Flex>
  );
}

const FILES = [
  { format: 'csv', text: 'CSV' },
  { format: 'parquet', text: 'Parquet' },
  { format: 'zip', text: 'Package' },
] as const;

function Downloads({ number }: { number: number }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  return (
    <Flex gap={3}>
      {FILES.map(({ format, text }) => (
        <a
          key={format}
          href={`${address('/data-sets/{dataSet}/table', { dataSet: `${dataSet.id}.${number}` })}?format=${format}`}
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
