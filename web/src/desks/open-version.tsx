import { Text } from '@chakra-ui/react';
import { Link, useLocation, useNavigate } from 'react-router';
import { send, type Schemas } from '../api/client.js';
import { useCourse, useCourseApi } from '../api/course.js';
import { TextAction } from '../kit/form/action.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { useAction } from '../kit/form/use-action.js';
import { useDataSet } from './use-data-set.js';

/** The page of a version; the current one has the address of the data set. */
export const versionPath = (
  courseId: string,
  { id, current }: Schemas['DataSetDetail'],
  number: number,
  desk = 'look',
): string => `/courses/${courseId}/data/${id}${number === current ? '' : `.${number}`}/${desk}`;

/** Goes on with a version; the page then shows it. */
export function MakeCurrent({ number, text }: { number: number; text?: string }) {
  const { dataSet } = useDataSet();
  const { id } = useCourse();
  const address = useCourseApi();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const doing = useAction();
  const desk = pathname.split('/')[5] ?? 'look';
  return (
    <>
      <TextAction
        // A name has the words that are seen.
        {...(text === undefined ? {} : { label: `${text}: version ${number}` })}
        onClick={() =>
          doing.run(async () => {
            await send('put', address('/data-sets/{dataSet}/current', { dataSet: dataSet.id }), {
              version: number,
            });
            await navigate(`/courses/${id}/data/${dataSet.id}/${desk}`);
          })
        }
      >
        {text ?? `Make version ${number} current`}
      </TextAction>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </>
  );
}

/** That another version is open than the one that work goes on with. */
export function OpenVersionNote() {
  const { dataSet } = useDataSet();
  const { id } = useCourse();
  if (dataSet.version === dataSet.current) return null;
  return (
    <Text role="note" mt={2} fontSize="14px">
      <b>Version {dataSet.version} is open.</b> You can look at it, split it and try models on it; the data
      set continues with version {dataSet.current}.{' '}
      <Link to={versionPath(id, dataSet, dataSet.current)}>Open version {dataSet.current}</Link> ·{' '}
      <MakeCurrent number={dataSet.version} />
    </Text>
  );
}
