import { Box, Text } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { api } from '../api/address.js';
import { send, type Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { Action } from '../kit/form/action.js';
import { Field } from '../kit/form/field.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Subtitle } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';

/** Deletes the course, for an instructor who types its name. */
export function DeleteCourse() {
  const { id, name } = useCourse();
  const doing = useAction();
  const navigate = useNavigate();
  const { register, handleSubmit, formState } = useForm<Schemas['DeleteCourse']>();
  const submit = handleSubmit((body) =>
    doing.run(async () => {
      await send('delete', api('/api/v1/courses/{course}', { course: id }), body);
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
        <ErrorMessage>{doing.problem?.message}</ErrorMessage>
        <Box mt={3}>
          <Action type="submit" plain busy={doing.busy}>
            Delete the course
          </Action>
        </Box>
      </form>
    </Box>
  );
}
