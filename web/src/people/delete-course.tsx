import { Box, Text } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { api, send, type Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { Action } from '../kit/action.js';
import { Field } from '../kit/field.js';
import { Complaint } from '../kit/states.js';
import { Subtitle } from '../kit/title.js';
import { useDoing } from '../kit/use-doing.js';

/** Deletes the course, for an instructor who types its name. */
export function DeleteCourse() {
  const { id, name } = useCourse();
  const doing = useDoing();
  const navigate = useNavigate();
  const { register, handleSubmit, formState } = useForm<Schemas['DeleteCourse']>();
  const submit = handleSubmit((body) =>
    doing.run(async () => {
      await send('DELETE', api('courses', id), body);
      await navigate('/');
    }),
  );
  return (
    <Box mt={8}>
      <Subtitle>Delete the course</Subtitle>
      <Text fontSize="14px" color="quiet">
        All data sets, exercises, submissions, marks and the activity log are deleted and cannot be had back.
      </Text>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Field
          label={`Type “${name}” to delete it`}
          autoComplete="off"
          problem={formState.errors.name?.message}
          {...register('name', { required: 'Type the name of the course.' })}
        />
        <Complaint>{doing.problem?.message}</Complaint>
        <Box mt={3}>
          <Action type="submit" plain busy={doing.busy}>
            Delete the course
          </Action>
        </Box>
      </form>
    </Box>
  );
}
