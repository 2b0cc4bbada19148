import { Box, Flex, Text } from '@chakra-ui/react';
import { isVerdictOn, slipOf, SLIPS_BY_KIND, type Result } from '@modest-sieve/core/assessment';
import { useState } from 'react';
import type { Schemas } from '../api/client.js';
import { Action, TextAction } from '../kit/form/action.js';
import { useAction } from '../kit/form/use-action.js';
import { arrive } from '../kit/layout/arrive.js';
import { usePageKeys } from '../kit/layout/use-page-keys.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { PlanChoice, PlanSentence } from '../kit/sentence/plan-sentence.js';

type Given = Schemas['SlipVerdictGiven'];

/** No figure: the mistake is in the whole answer. */
const WHOLE = '';

/** The known mistakes in an answer: those that were found with what shows them, and what staff said of these and of others. */
export function SlipsInAnswer({
  submission: { sheet, fields, verdicts },
  result: { kind, slips: found = [] },
  onJudge,
}: {
  submission: Pick<Schemas['OpenedSubmission'], 'fields' | 'verdicts'> & {
    readonly sheet: Pick<Schemas['QuestionSheet'], 'fields'> | null;
  };
  result: Pick<Result, 'kind' | 'slips'>;
  onJudge: (verdict: Given) => Promise<unknown>;
}) {
  const doing = useAction();
  const [given, give] = useState<Given | null>(null);
  const judge = (verdict: Given) =>
    doing.run(async () => {
      await onJudge(verdict);
      give(null);
    });
  const labelOf = (field: string | null) =>
    field === null ? '' : ` in ${sheet?.fields.find(({ key }) => key === field)?.label ?? field}`;
  const named = verdicts.filter(
    (said) => said.verdict === 'named' && !found.some((slip) => isVerdictOn(slip)(said)),
  );
  const known = SLIPS_BY_KIND[kind] ?? [];
  const [first] = known;
  const figures = Object.keys(fields);
  const begin = first && (() => give({ slip: first.id, field: null, verdict: 'named' }));
  usePageKeys({ n: given || !begin ? null : begin });
  return (
    <Box mt={3} fontSize="14px" overflowWrap="anywhere">
      <Box as="ul" listStyleType="none" aria-label="Slips">
        {found.map(({ id: slip, field, evidence }) => {
          const title = slipOf(slip).title;
          const dismissed = verdicts.find(
            (said) => said.verdict === 'dismissed' && isVerdictOn({ id: slip, field })(said),
          );
          return (
            <Text as="li" key={`${slip} ${field ?? ''}`} data-slip={slip} mb={1}>
              <Text as={dismissed ? 's' : 'b'}>
                {title}
                {labelOf(field)}
              </Text>
              {dismissed ? ` dismissed by ${dismissed.by} ` : `: ${evidence} `}
              <TextAction
                busy={doing.busy}
                label={`${dismissed ? 'take back the dismissal' : 'dismiss'}: ${title}${labelOf(field)}`}
                onClick={() => judge({ slip, field, verdict: dismissed ? 'undone' : 'dismissed' })}
              >
                {dismissed ? 'take back' : 'dismiss'}
              </TextAction>
            </Text>
          );
        })}
        {named.map(({ slip, field, by }) => (
          <Text as="li" key={`${slip} ${field ?? ''}`} data-slip={slip} mb={1}>
            <b>
              {slipOf(slip).title}
              {labelOf(field)}
            </b>
            {`: named by ${by} `}
            <TextAction
              busy={doing.busy}
              label={`take back: ${slipOf(slip).title}${labelOf(field)}`}
              onClick={() => judge({ slip, field, verdict: 'undone' })}
            >
              take back
            </TextAction>
          </Text>
        ))}
      </Box>
      {given ? (
        <Box ref={arrive} tabIndex={-1} outline="none" role="group" aria-label="Name a mistake">
          <PlanSentence label="Mistake to name">
            The mistake is{' '}
            <PlanChoice
              label="mistake"
              value={given.slip}
              choices={known.map(({ id: value, title }) => ({ value, text: title }))}
              onChange={(slip) => give({ ...given, slip })}
            />
            {figures.length > 0 ? (
              <>
                , in{' '}
                <PlanChoice
                  label="figure"
                  value={given.field ?? WHOLE}
                  choices={[
                    { value: WHOLE, text: 'the whole answer' },
                    ...figures.map((value) => ({
                      value,
                      text: sheet?.fields.find(({ key }) => key === value)?.label ?? value,
                    })),
                  ]}
                  onChange={(field) => give({ ...given, field: field === WHOLE ? null : field })}
                />
              </>
            ) : null}
          </PlanSentence>
          <Text color="quiet">{slipOf(given.slip).says}</Text>
          <Flex mt={2} gap={3} align="center">
            <Action busy={doing.busy} onClick={() => judge(given)}>
              Name this mistake
            </Action>
            <TextAction onClick={() => give(null)}>Leave it</TextAction>
          </Flex>
        </Box>
      ) : begin ? (
        <TextAction busy={doing.busy} onClick={begin}>
          Name a mistake
        </TextAction>
      ) : null}
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}
