import { Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { splitterOf, type SplitPlan } from '@modest-sieve/core/splitting';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import type { ReactNode } from 'react';
import { useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/form/action.js';
import { holdText, OutcomeMark } from '../../kit/layout/checks.js';
import { percent, valueText } from '../../kit/table/format.js';
import { PARTS } from '../../kit/plot/parts.js';
import { usePreview, Waiting } from '../../kit/answer/preview.js';
import { SentenceText } from '../../kit/sentence/sentence.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';

/** A plan that was put aside and the one that is worked on, figure by figure. */
export function TwoPlans({
  plan,
  now,
  aside,
  setPlans,
}: {
  plan: SplitPlan;
  now: SplitConsequences;
  aside: SplitPlan;
  setPlans: (plans: Readonly<Record<string, SplitPlan | null>>) => void;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const url = address('/data-sets/{dataSet}/split-preview', { dataSet: dataSet.address });
  const other = usePreview(url, aside, [dataSet.roles, dataSet.version]);
  const line = (name: string, of: (split: SplitConsequences) => ReactNode) => (
    <tr key={name}>
      <Cell quiet>{name}</Cell>
      <Cell>{of(now)}</Cell>
      <Cell>{other.data ? of(other.data) : '…'}</Cell>
    </tr>
  );
  const checks = [...new Set([...now.checks, ...(other.data?.checks ?? [])].map(({ id }) => id))];
  return (
    <>
      <Subtitle>Two plans</Subtitle>
      <Ruled
        label="Two plans"
        headings={[{ text: 'figure' }, { text: 'this plan' }, { text: 'the other plan' }]}
      >
        <tr>
          <Cell quiet>plan</Cell>
          <Cell>
            <SentenceText kind={splitterOf(plan)} plan={plan} />
          </Cell>
          <Cell>
            <SentenceText kind={splitterOf(aside)} plan={aside} />
          </Cell>
        </tr>
        {line('rows', (split) =>
          split.parts.map(({ name, rows }) => `${PARTS[name].letter} ${count(rows)}`).join(' · '),
        )}
        {line(targetName(dataSet.roles), (split) => targetFigures(split, dataSet.roles?.positive ?? null))}
        {line('largest difference of a feature', ({ drift }) =>
          drift[0] ? `${drift[0].column} ${drift[0].value.toFixed(2)}` : 'none',
        )}
        {line('checks that hold', (split) => holdText(split.checks))}
        {checks.map((id) =>
          line(`check: ${id}`, (split) => {
            const check = split.checks.find((one) => one.id === id);
            return check ? (
              <>
                <OutcomeMark outcome={check.outcome} /> {check.message}
              </>
            ) : (
              '–'
            );
          }),
        )}
      </Ruled>
      <ErrorMessage>{other.error?.message}</ErrorMessage>
      <Waiting of={other} what="Splitting the rows by the other plan" />
      <Flex gap={3} mt={3}>
        <Action plain onClick={() => setPlans({ plan: aside, beside: plan })}>
          Use the other plan
        </Action>
        <Action plain onClick={() => setPlans({ beside: null })}>
          Stop comparing
        </Action>
      </Flex>
      <Text srOnly role="status">
        {other.data ? 'Two plans are compared.' : ''}
      </Text>
    </>
  );
}

const targetName = (roles: ReturnType<typeof useDataSet>['dataSet']['roles']): string =>
  roles?.task === 'binary'
    ? `${roles.target} is ${roles.positive ?? ''}`
    : roles?.task === 'regression'
      ? `mean of ${roles.target}`
      : `most frequent ${roles?.target ?? 'class'}`;

/** The positive class's share by part, the most frequent one's, or the mean of a number. */
function targetFigures(split: SplitConsequences, positive: string | null): string {
  const label = positive ?? split.parts[0]?.classes.toSorted((a, b) => b.rows - a.rows)[0]?.label ?? '';
  return split.parts
    .map(({ name, classes, targetMean }) => {
      const share = classes.find((one) => one.label === label)?.share;
      const figure = targetMean === null ? percent(share ?? 0) : valueText(targetMean);
      return `${PARTS[name].letter} ${figure}`;
    })
    .join(' · ');
}
