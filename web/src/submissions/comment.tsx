import { Box, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import type { Schemas } from '../api/client.js';
import { useCourse } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { TextArea } from '../kit/form/text-area.js';
import { useAction } from '../kit/form/use-action.js';
import { arrive } from '../kit/layout/arrive.js';
import { usePageKeys } from '../kit/layout/use-page-keys.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Brief } from '../kit/layout/markdown.js';
import { momentText } from '../kit/table/format.js';
import { keptPhrases, keepPhrase } from './phrases.js';

/** What staff write about an answer, or about all answers of a student, who reads it once the exercise is returned. */
export function Comment({
  on,
  opensBy,
  comment,
  onSave,
}: {
  /** What it is about, in words. */
  on: string;
  /** The key that opens it. */
  opensBy: string;
  comment: Schemas['CommentInfo'] | null;
  onSave: (comment: Schemas['CommentText']) => Promise<unknown>;
}) {
  const { timeZone } = useCourse();
  const doing = useAction();
  const [written, write] = useState<string | null>(null);
  usePageKeys({ [opensBy]: written === null ? () => write(comment?.text ?? '') : null });
  const save = (text: string) =>
    doing.run(async () => {
      await onSave({ text });
      keepPhrase(localStorage, text);
      write(null);
    });
  return (
    <Box mt={4}>
      {comment && written === null ? (
        <Box fontSize="14px" overflowWrap="anywhere">
          <Text color="quiet" fontSize="13px">
            {comment.by} wrote on {on}, {momentText(comment.at, timeZone)}:
          </Text>
          <Brief text={comment.text} />
        </Box>
      ) : null}
      {written === null ? (
        <TextAction onClick={() => write(comment?.text ?? '')}>
          {comment ? `Change the comment on ${on}` : `Comment on ${on}`}
        </TextAction>
      ) : (
        <Box ref={arrive} tabIndex={-1} outline="none" role="group" aria-label={`Comment on ${on}`}>
          <TextArea
            label="comment"
            placeholder="Markdown. The student reads this once the exercise is returned"
            value={written}
            onChange={write}
          />
          <Phrases onChoose={(phrase) => write(written === '' ? phrase : `${written}\n\n${phrase}`)} />
          <Flex mt={2} gap={3} align="center">
            <Action
              busy={doing.busy}
              disabled={written.trim() === '' && !comment}
              onClick={() => save(written)}
            >
              {written.trim() === '' && comment ? 'Take the comment back' : 'Save the comment'}
            </Action>
            <TextAction onClick={() => write(null)}>Leave it</TextAction>
          </Flex>
        </Box>
      )}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

/** Comments that were written in this browser, to be used again. */
function Phrases({ onChoose }: { onChoose: (phrase: string) => void }) {
  const phrases = keptPhrases(localStorage);
  if (phrases.length === 0) return null;
  return (
    <Box mt={1} fontSize="13px" role="group" aria-label="Comments written before">
      <Text color="quiet">Written before, in this browser:</Text>
      {phrases.map((phrase) => (
        <Text key={phrase} lineClamp={1}>
          <TextAction onClick={() => onChoose(phrase)}>{phrase}</TextAction>
        </Text>
      ))}
    </Box>
  );
}
