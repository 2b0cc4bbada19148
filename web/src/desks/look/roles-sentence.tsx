import { Box, Flex, Text } from '@chakra-ui/react';
import { fitsKind, type ColumnKind, type Roles } from '@modest-sieve/core/data';
import { useState } from 'react';
import { Link } from 'react-router';
import { fetchAnswer, send, useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/form/action.js';
import { PlanChoice, PlanSentence, PlanSeveral } from '../../kit/sentence/plan-sentence.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { useAction } from '../../kit/form/use-action.js';
import { useDataSet } from '../use-data-set.js';

const TASK_TEXTS: Record<Roles['task'], string> = {
  binary: 'one of two classes',
  multiclass: 'one of several classes',
  regression: 'a number',
};

const NOBODY = {
  target: '',
  task: 'binary',
  positive: null,
  identifier: null,
  group: null,
  time: null,
  weight: null,
  withheld: [],
} as const satisfies Roles;

/** Whether roles are the same, in whatever order their names come. */
const isSame = (a: Roles, b: Roles): boolean =>
  (Object.keys(a) as (keyof Roles)[]).every((key) => JSON.stringify(a[key]) === JSON.stringify(b[key]));

/** Roles with the task that the target suggests, unless one is chosen, and a positive class where it needs one. */
function completed(
  roles: Roles,
  chosenTask: boolean,
  suggested: { readonly task: Roles['task']; readonly labels: readonly string[] } | undefined,
): Roles {
  const task = chosenTask ? roles.task : (suggested?.task ?? roles.task);
  if (task !== 'binary') return { ...roles, task, positive: null };
  const labels = suggested?.labels ?? [];
  const isKnown = roles.positive !== null && labels.includes(roles.positive);
  return { ...roles, task, positive: isKnown ? roles.positive : (labels.at(-1) ?? null) };
}

/** The roles of the columns as a sentence. Choosing a target suggests its task; nothing counts until it is saved. */
export function RolesSentence() {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const doing = useAction();
  const [roles, setRoles] = useState<Roles>(dataSet.roles ?? NOBODY);
  const [chosenTask, setChosenTask] = useState(dataSet.roles !== null);
  const names = dataSet.profile.map((column) => column.name);
  const ask =
    roles.target === ''
      ? null
      : address('/data-sets/{dataSet}/suggestion', { dataSet: dataSet.address }, { target: roles.target });
  const suggestion = useAnswer(ask);
  const labels = suggestion.data?.labels ?? [];
  const complete = completed(roles, chosenTask, suggestion.data);
  const { task, positive } = complete;
  const saved = dataSet.roles !== null && isSame(complete, dataSet.roles);
  const others = names.filter((name) => name !== roles.target);
  const kinds = new Map(dataSet.profile.map(({ name, kind }) => [name, kind]));
  const choices = (none: string, of?: readonly ColumnKind[]) => [
    { value: '', text: none },
    ...others
      .filter((name) => fitsKind(kinds.get(name) ?? 'text', of))
      .map((value) => ({ value, text: value })),
  ];

  return (
    <Box>
      <PlanSentence label="What the columns are for">
        Predict{' '}
        <PlanChoice
          label="target"
          value={roles.target}
          choices={[{ value: '', text: 'which column?' }, ...names.map((value) => ({ value, text: value }))]}
          onChange={(target) => {
            setChosenTask(false);
            setRoles({
              ...roles,
              target,
              positive: null,
              identifier: roles.identifier === target ? null : roles.identifier,
              group: roles.group === target ? null : roles.group,
              time: roles.time === target ? null : roles.time,
              weight: roles.weight === target ? null : roles.weight,
              withheld: roles.withheld.filter((name) => name !== target),
            });
          }}
        />{' '}
        as{' '}
        <PlanChoice
          label="task"
          value={task}
          choices={Object.entries(TASK_TEXTS).map(([value, text]) => ({ value, text }))}
          onChange={(value) => {
            setChosenTask(true);
            setRoles({ ...roles, task: value as Roles['task'] });
          }}
        />
        {task === 'binary' && positive !== null ? (
          <>
            , asking how likely{' '}
            <PlanChoice
              label="positive class"
              value={positive}
              choices={labels.map((value) => ({ value, text: value }))}
              onChange={(value) => setRoles({ ...roles, positive: value })}
            />{' '}
            is
          </>
        ) : null}
        . A row is named by{' '}
        <PlanChoice
          label="identifier"
          value={roles.identifier ?? ''}
          choices={choices('a number of our own')}
          onChange={(value) => setRoles({ ...roles, identifier: value || null })}
        />
        , rows of one{' '}
        <PlanChoice
          label="group"
          value={roles.group ?? ''}
          choices={choices('column: none')}
          onChange={(value) => setRoles({ ...roles, group: value || null })}
        />{' '}
        belong together, time runs with{' '}
        <PlanChoice
          label="time"
          value={roles.time ?? ''}
          choices={choices('column: none', ['time', 'number'])}
          onChange={(value) => setRoles({ ...roles, time: value || null })}
        />
        , rows weigh{' '}
        <PlanChoice
          label="weight"
          value={roles.weight ?? ''}
          choices={choices('all the same', ['number'])}
          onChange={(value) => setRoles({ ...roles, weight: value || null })}
        />
        , and students never get{' '}
        <PlanSeveral
          label="withheld columns"
          values={roles.withheld}
          choices={others.filter((name) => name !== roles.identifier)}
          none="any answer"
          onChange={(withheld) => setRoles({ ...roles, withheld })}
        />
        .
      </PlanSentence>
      <Flex mt={3} gap={4} align="center">
        <Action
          disabled={saved || roles.target === ''}
          busy={doing.busy}
          onClick={() =>
            doing.run(async () => {
              // The suggestion may still be on its way.
              const suggested = suggestion.data ?? (ask === null ? undefined : await fetchAnswer(ask));
              await send(
                'put',
                address('/data-sets/{dataSet}/roles', { dataSet: dataSet.address }),
                completed(roles, chosenTask, suggested),
              );
            })
          }
        >
          Save this
        </Action>
        {saved ? (
          <Text fontSize="14px" color="quiet">
            Saved. <Link to="../split">Split the rows</Link>
          </Text>
        ) : null}
      </Flex>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
