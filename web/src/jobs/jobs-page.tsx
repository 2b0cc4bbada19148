import { Box, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { send, useAnswer, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { momentText } from '../kit/table/format.js';
import { Answer, Empty } from '../kit/answer/states.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Title } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';

const KINDS: Record<Schemas['JobInfo']['kind'], string> = {
  check: 'check a file',
  model: 'run a model',
  pack: 'make a pack',
  sheets: 'generate a sheet',
  regrade: 'mark again',
  prepare: 'make a version',
  import: 'read a table',
  trial: 'try a model',
};

const underWay = (job: Schemas['JobInfo']) =>
  job.state === 'waiting' || job.state === 'running' || job.state === 'trying again';

/** What the program does for the course in the background: what waits and runs first, then what is over. */
export function JobsPage() {
  const address = useCourseApi();
  const jobs = useAnswer(address('/jobs'));
  return (
    <>
      <Title>Jobs</Title>
      <Answer of={jobs} what="the jobs">
        {(list) =>
          list.length === 0 ? (
            <Empty title="Nothing to do">
              Reading a table, making a pack and checking a file are jobs. They appear here while they wait
              and run, and stay for half a day.
            </Empty>
          ) : (
            <JobTable jobs={list} />
          )
        }
      </Answer>
    </>
  );
}

function JobTable({ jobs }: { jobs: readonly Schemas['JobInfo'][] }) {
  const { timeZone, role } = useCourse();
  const address = useCourseApi();
  const doing = useAction();
  const [asked, setAsked] = useState<string | null>(null);
  const time = (iso: string | null) => (iso === null ? '' : momentText(iso, timeZone));
  return (
    <Box mt={4}>
      <Ruled
        label="Jobs"
        headings={[
          { text: 'job' },
          { text: 'of' },
          { text: 'state' },
          { text: 'tries', numeric: true },
          { text: 'asked for' },
          { text: 'began' },
          { text: 'ended' },
          { text: 'end it' },
        ]}
      >
        {jobs.map((job) => (
          <tr key={job.id} data-job={job.state}>
            <Cell strong nowrap>
              {KINDS[job.kind]}
            </Cell>
            <Cell>{job.subject}</Cell>
            <Cell>
              <Text as="span" color={job.state === 'failed' ? 'fails' : 'ink'}>
                {job.state}
              </Text>
              {job.progress ? (
                <Text as="span" color="quiet">
                  : {job.progress.what}, {job.progress.done} of {job.progress.total}
                </Text>
              ) : null}
            </Cell>
            <Cell numeric>{job.tries}</Cell>
            <Cell quiet nowrap>
              {time(job.createdAt)}
            </Cell>
            <Cell quiet nowrap>
              {time(job.startedAt)}
            </Cell>
            <Cell quiet nowrap>
              {time(job.endedAt)}
            </Cell>
            <Cell>
              {underWay(job) && role === 'instructor' ? (
                asked === job.id ? (
                  <Action
                    plain
                    busy={doing.busy}
                    onClick={() => doing.run(() => send('delete', address('/jobs/{job}', { job: job.id })))}
                  >
                    Cancel it: yes
                  </Action>
                ) : (
                  <TextAction
                    label={`Cancel: ${KINDS[job.kind]}, ${job.subject}`}
                    onClick={() => setAsked(job.id)}
                  >
                    Cancel
                  </TextAction>
                )
              ) : null}
            </Cell>
          </tr>
        ))}
      </Ruled>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
