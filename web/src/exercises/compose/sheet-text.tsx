import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { marksOf, questionKindOf, type Question } from '@modest-sieve/core/assessment';
import { TextAction } from '../../kit/form/action.js';
import { Brief } from '../../kit/layout/markdown.js';
import { TextArea } from '../../kit/form/text-area.js';
import { Subtitle } from '../../kit/layout/title.js';
import type { Settings } from '../common/settings.js';

/** Characters of a text that needs more than two lines. */
const LONG_TEXT = 160;

const line = {
  w: '100%',
  maxW: '72ch',
  bg: 'sheet',
  border: '1px solid',
  borderColor: 'rule',
  borderRadius: '4px',
  px: 3,
  py: '7px',
} as const;

/** Title and brief of an exercise, edited in place. */
export function SheetText({
  settings,
  onChange,
}: {
  settings: Settings;
  onChange: (settings: Settings) => void;
}) {
  return (
    <>
      <chakra.input
        {...line}
        mt={1}
        fontFamily="heading"
        fontSize="27px"
        fontWeight={650}
        lineHeight={1.2}
        aria-label="Title"
        value={settings.title}
        maxLength={200}
        onChange={(event) => onChange({ ...settings, title: event.target.value })}
      />
      <TextArea
        rows={5}
        label="Brief, in Markdown"
        value={settings.brief}
        onChange={(brief) => onChange({ ...settings, brief })}
      />
      <Subtitle>As students read it</Subtitle>
      <Brief text={settings.brief} />
    </>
  );
}

/** A question of the sheet: to read, and to write in while it is chosen. */
export function QuestionText({
  question,
  place,
  isChosen,
  arrives,
  onChoose,
  onChange,
  onMove,
  onRemove,
}: {
  question: Question;
  place: number;
  isChosen: boolean;
  /** Whether its title takes the focus, because it was just chosen or added. */
  arrives: boolean;
  onChoose: () => void;
  onChange: (question: Question) => void;
  /** Null where the order stays. */
  onMove: ((way: -1 | 1) => void) | null;
  /** Null for the only question, and where all of them stay. */
  onRemove: (() => void) | null;
}) {
  const marks = (
    <Text as="span" fontFamily="body" fontSize="13.5px" fontWeight={400} color="quiet">
      {questionKindOf(question.kind).title} · {counted(marksOf(question), 'mark')}
    </Text>
  );
  if (!isChosen)
    return (
      <Box pl="23px" py={3} data-question={question.id}>
        <Text fontFamily="heading" fontSize="17px" fontWeight={650}>
          <TextAction label={`${place} · ${question.title}: write in it`} onClick={onChoose}>
            {place} · {question.title}
          </TextAction>{' '}
          {marks}
        </Text>
        <Brief text={question.text} />
      </Box>
    );
  return (
    <Box bg="sheet" borderLeft="3px solid" borderColor="accent" px={5} py={3} data-question={question.id}>
      <Flex gap={3} align="baseline" wrap="wrap">
        <Text fontFamily="heading" fontSize="17px" fontWeight={650}>
          {place} ·
        </Text>
        <chakra.input
          {...line}
          w="auto"
          flex="1"
          minW="14ch"
          py={1}
          fontFamily="heading"
          fontSize="17px"
          fontWeight={650}
          aria-label={`title of question ${place}`}
          autoFocus={arrives}
          maxLength={200}
          value={question.title}
          onChange={(event) => onChange({ ...question, title: event.target.value })}
        />
        {marks}
      </Flex>
      <TextArea
        rows={question.text.length > LONG_TEXT ? 4 : 2}
        label={`text of question ${place}, in Markdown`}
        value={question.text}
        onChange={(text) => onChange({ ...question, text })}
      />
      <Flex gap={4} mt={1} fontSize="13.5px">
        {onMove ? (
          <>
            <TextAction label={`move up question ${place}`} onClick={() => onMove(-1)}>
              move up
            </TextAction>
            <TextAction label={`move down question ${place}`} onClick={() => onMove(1)}>
              move down
            </TextAction>
          </>
        ) : null}
        {onRemove ? (
          <TextAction label={`remove question ${place}`} onClick={onRemove}>
            remove
          </TextAction>
        ) : null}
      </Flex>
    </Box>
  );
}
