import { Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Link } from 'react-router';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Subtitle } from '../../kit/layout/title.js';
import { useDataSet } from '../use-data-set.js';

const MOST = 4;

/** What the table itself gives away, whatever the split: it is fixed at Look and Prepare. */
export function LeakWatch() {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { data } = useAnswer(address('/data-sets/{dataSet}/findings', { dataSet: dataSet.address }));
  if (!data || data.findings.length === 0) return null;
  const left = data.findings.length - MOST;
  return (
    <>
      <Subtitle>Leak watch</Subtitle>
      {data.findings.slice(0, MOST).map(({ message }) => (
        <Text key={message} fontSize="14px" py={1}>
          <Text as="span" color="unsure" fontWeight={700} aria-hidden>
            ≈{' '}
          </Text>
          {message}
        </Text>
      ))}
      <Text fontSize="14px" color="quiet" mt={1}>
        {left > 0 ? `And ${counted(left, 'more finding')}. ` : ''}
        <Link to="../look">See them at Look</Link>
      </Text>
    </>
  );
}
