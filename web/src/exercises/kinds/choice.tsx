import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { LIBRARY_STATEMENTS, type Statement } from '@modest-sieve/core/assessment';
import { Action, TextAction } from '../../kit/form/action.js';
import { PlanChoice } from '../../kit/sentence/plan-sentence.js';
import { Subtitle } from '../../kit/layout/title.js';
import { QuestionSentence, type MarginProps } from './question-sentence.js';

/** The statements of a choice, with their truth, and how they are answered. */
export function ChoiceMargin({ question, given, onChange }: MarginProps<'choice'>) {
  const { statements } = question;
  const set = (next: readonly Statement[]) => onChange({ ...question, statements: next });
  const change = (place: number, next: Statement) =>
    set(statements.map((one, i) => (i === place ? next : one)));
  const used = new Set(statements.flatMap((one) => ('reading' in one ? [one.reading] : [])));
  return (
    <>
      <QuestionSentence question={question} given={given} onChange={onChange} />
      <Subtitle>Statements</Subtitle>
      <Box as="ol" listStylePosition="inside">
        {statements.map((statement, place) => (
          <Box as="li" key={place} py={2} borderBottom="1px solid" borderColor="rule" fontSize="14.5px">
            {'reading' in statement ? (
              <Text as="span">
                {LIBRARY_STATEMENTS.find(({ key }) => key === statement.reading)?.title ?? statement.reading}{' '}
                <Text as="span" color="quiet" fontSize="13px">
                  worded right or wrong at random
                </Text>
              </Text>
            ) : (
              <Flex display="inline-flex" gap={2} w="calc(100% - 2em)" align="baseline">
                <chakra.input
                  flex="1"
                  bg="sheet"
                  border="1px solid"
                  borderColor="quiet"
                  borderRadius="4px"
                  px={2}
                  py={1}
                  aria-label={`statement ${place + 1}`}
                  value={statement.text}
                  onChange={(event) => change(place, { ...statement, text: event.target.value })}
                />
                <PlanChoice
                  label={`truth of statement ${place + 1}`}
                  value={String(statement.truth)}
                  choices={[
                    { value: 'true', text: 'true' },
                    { value: 'false', text: 'false' },
                  ]}
                  onChange={(value) => change(place, { ...statement, truth: value === 'true' })}
                />
              </Flex>
            )}{' '}
            <TextAction
              label={`remove statement ${place + 1}`}
              onClick={() => set(statements.filter((_, i) => i !== place))}
            >
              remove
            </TextAction>
          </Box>
        ))}
      </Box>
      <Flex mt={3} gap={3} align="baseline" wrap="wrap">
        <Action plain onClick={() => set([...statements, { text: '', truth: false }])}>
          Add a statement
        </Action>
        <PlanChoice
          label="statement of the library"
          value=""
          choices={[
            { value: '', text: 'or one of the library …' },
            ...LIBRARY_STATEMENTS.filter(({ key }) => !used.has(key)).map(({ key, title }) => ({
              value: key,
              text: title,
            })),
          ]}
          onChange={(reading) => reading !== '' && set([...statements, { reading }])}
        />
      </Flex>
    </>
  );
}
