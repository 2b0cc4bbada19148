import { Box, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { stepKindOf, type Step } from '@modest-sieve/core/data';
import type { Finding } from '@modest-sieve/core/audit';
import { useNavigate } from 'react-router';
import { TextAction } from '../../kit/form/action.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import type { Schemas } from '../../api/client.js';
import { useDataSet } from '../use-data-set.js';
import { addTriedStep, savedSteps } from '../prepare/tried-steps.js';

/** Leaks and flaws of the table, each with the step that fixes it. */
export function FindingsList({ findings }: { findings: readonly Finding[] }) {
  const { dataSet } = useDataSet();
  const navigate = useNavigate();
  const fix = (step: Step) => {
    const place = addTriedStep(dataSet.address, savedSteps(dataSet), step);
    void navigate(`../prepare?step=${place + 1}`);
  };
  const idle = findings.flatMap(({ column, isUninformative }) => (isUninformative && column ? [column] : []));
  return (
    <>
      <Subtitle>Findings</Subtitle>
      {idle.length > 1 ? (
        <Text fontSize="14px" maxW="72ch">
          {idle.join(', ')} carry no information on any row.{' '}
          <TextAction onClick={() => fix({ kind: 'drop-columns', values: { columns: idle } })}>
            Drop these {count(idle.length)} columns
          </TextAction>
        </Text>
      ) : null}
      {findings.length === 0 ? (
        <Text color="quiet" fontSize="14px">
          Nothing gives the answers away, and nothing is wrong with the rows.
        </Text>
      ) : (
        <Box as="ul" aria-label="Findings" listStyleType="none" maxW="72ch">
          {findings.map(({ column, message, fix: step }) => (
            <Box
              as="li"
              key={`${column ?? ''} ${message}`}
              py={2}
              borderBottom="1px solid"
              borderColor="rule"
            >
              <Text fontSize="14px">
                <Text as="span" color="unsure" fontWeight={700} aria-hidden>
                  ≈{' '}
                </Text>
                {message}
              </Text>
              {step ? (
                <Text fontSize="14px" pl="16px">
                  <TextAction onClick={() => fix(step)}>{stepKindOf(step).title}</TextAction>
                </Text>
              ) : null}
            </Box>
          ))}
        </Box>
      )}
    </>
  );
}

/** What blanks cost: the rows that are complete, and how many more would be without a column. */
export function CompleteTable({ complete }: { complete: Schemas['TableFindings']['complete'] }) {
  const { dataSet } = useDataSet();
  if (complete.length === 0) return null;
  return (
    <>
      <Subtitle>Complete rows</Subtitle>
      <Ruled
        label="Complete rows"
        headings={[
          { text: 'if these columns are dropped, one after another' },
          { text: 'complete rows', numeric: true },
        ]}
      >
        {complete.map(({ without, rows }) => (
          <tr key={without ?? ''}>
            <Cell>{without ?? 'none goes'}</Cell>
            <Cell numeric>
              {count(rows)} of {count(dataSet.rows)}
            </Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
