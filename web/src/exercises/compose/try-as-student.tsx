import { Box, Text } from '@chakra-ui/react';
import { disclose, type Result } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import { ask, useAnswer, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { CheckList } from '../../kit/layout/checks.js';
import { Brief } from '../../kit/layout/markdown.js';
import { Answer } from '../../kit/answer/states.js';
import { Subtitle, Title } from '../../kit/layout/title.js';
import { TwoPane } from '../../kit/layout/two-pane.js';
import { KeyLines } from '../common/key-lines.js';
import { HandIn } from '../answer/hand-in.js';
import { QuestionView } from '../answer/question-view.js';
import { Receipt } from '../answer/receipt.js';

/** A draft as its students would have it, to be answered without a trace, with its keys beside it. */
export function TryAsStudent({
  exercise,
  onBack,
}: {
  exercise: Schemas['ExerciseDetail'];
  onBack: () => void;
}) {
  const address = useCourseApi();
  const preview = useAnswer(address('/exercises/{exercise}/preview', { exercise: exercise.id }));
  const [tried, setTried] = useState<{
    readonly sheet: Schemas['QuestionSheet'];
    readonly result: Result;
  } | null>(null);
  const sending = (sheet: Schemas['QuestionSheet']) => async (form: FormData) => {
    const { result } = await ask(
      address('/exercises/{exercise}/tries/{question}', { exercise: exercise.id, question: sheet.id }),
      form,
    );
    setTried({ sheet, result: result });
  };
  return (
    <Answer of={preview} what="the sheet as students would get it">
      {({ sheets, rules, files, audit, keys }) => (
        <TwoPane
          left={
            <>
              <Title aside="as a student would have it; nothing is saved">{exercise.title}</Title>
              <TextAction onClick={onBack}>Back to composing</TextAction>
              <Box mt={3}>
                <Brief text={exercise.brief} />
              </Box>
              <Text mt={3} py={2} borderY="1px solid" borderColor="rule" fontSize="13.5px" color="quiet">
                The pack would hold {files.map(({ name }) => name).join(', ')}.
              </Text>
              {sheets.map((sheet, i) => (
                <QuestionView key={sheet.id} sheet={sheet} place={i + 1}>
                  <HandIn
                    sheet={sheet}
                    rulesOf={() => rulesIn(rules, sheet.id)}
                    savedUnder={`try ${exercise.id}`}
                    cost="Nothing of it is saved."
                    onSend={sending(sheet)}
                  />
                </QuestionView>
              ))}
            </>
          }
          right={
            <>
              {tried ? (
                <>
                  <Subtitle>{`What “${tried.sheet.title}” would come to`}</Subtitle>
                  <Receipt
                    outcome={tried.result.holds ? 'checked' : 'refused'}
                    disclosed={disclose(tried.result, {
                      policy: exercise.feedback,
                      slips: exercise.slips ?? 'after-return',
                      returned: true,
                      shown: null,
                      latePercent: 0,
                      adjustment: null,
                      comment: null,
                    })}
                    sheet={tried.sheet}
                    problem={null}
                  />
                </>
              ) : null}
              <Subtitle>How the keys are computed</Subtitle>
              {keys.map(({ question, about }) => (
                <Box key={question} py={2} borderBottom="1px solid" borderColor="rule" fontSize="14px">
                  <b>{sheets.find(({ id }) => id === question)?.title}</b>
                  <KeyLines about={about} />
                </Box>
              ))}
              {audit.length > 0 ? (
                <>
                  <Subtitle>Audit of the pack</Subtitle>
                  <CheckList label="Audit of the pack" checks={audit} />
                </>
              ) : null}
            </>
          }
        />
      )}
    </Answer>
  );
}

function rulesIn(all: readonly Schemas['FileRules'][], question: string): Promise<Schemas['Rules']> {
  const found = all.find((one) => one.question === question);
  return found
    ? Promise.resolve(found.rules)
    : Promise.reject(new Error('There is no file to this question.'));
}
