import { Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import type { Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { sizeText } from '../../kit/table/format.js';

/** What the pack holds, with the link that fetches it. */
export function PackLine({ exercise }: { exercise: Schemas['ExerciseDetail'] }) {
  const address = useCourseApi();
  if (!exercise.pack) return null;
  return (
    <Flex mt={4} py={3} gap={6} borderY="1px solid" borderColor="rule" align="baseline">
      <a
        href={address('/exercises/{exercise}/pack', { exercise: exercise.id })}
        style={{ fontWeight: 700, whiteSpace: 'nowrap' }}
      >
        Download the pack
      </a>
      <Text fontSize="13.5px" color="quiet">
        {exercise.pack.files
          .map((file) => (file.shape ? `${file.name} ${count(file.shape[0])} × ${file.shape[1]}` : file.name))
          .join(' · ')}{' '}
        · {sizeText(exercise.pack.bytes)}
      </Text>
    </Flex>
  );
}
