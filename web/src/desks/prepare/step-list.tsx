import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { stepKindOf, type GivenColumn, type Step, type StepEffect } from '@modest-sieve/core/data';
import { TextAction } from '../../kit/form/action.js';
import { SentenceControls, SentenceText } from '../../kit/sentence/sentence.js';
import type { useSteps } from './use-steps.js';
import { effectWords } from './words.js';

/** The steps in their order; the chosen one with its controls, the others to read. */
export function StepList({
  editing,
  effects,
  given,
}: {
  editing: ReturnType<typeof useSteps>;
  effects: readonly StepEffect[];
  given: readonly GivenColumn[];
}) {
  const { steps, chosen } = editing;
  return (
    <chakra.ol m={0} p={0} css={{ listStyle: 'none' }} aria-label="Steps">
      {steps.map((step, number) => (
        <chakra.li
          key={number}
          borderBottom="1px solid"
          borderColor="rule"
          py={2}
          pl={3}
          boxShadow={number === chosen ? 'inset 3px 0 0 var(--chakra-colors-accent)' : undefined}
          opacity={step.off ? 0.65 : 1}
        >
          {number === chosen ? (
            <ChosenStep step={step} number={number} given={given} editing={editing} />
          ) : (
            <chakra.button
              type="button"
              textAlign="left"
              cursor="pointer"
              fontFamily="heading"
              fontSize="16px"
              data-step={number + 1}
              onClick={() => editing.choose(number)}
            >
              {number + 1}. <SentenceText kind={stepKindOf(step)} plan={step} />
            </chakra.button>
          )}
          <EffectText step={step} effect={effects[number]} />
        </chakra.li>
      ))}
    </chakra.ol>
  );
}

function EffectText({ step, effect }: { step: Step; effect: StepEffect | undefined }) {
  if (step.off)
    return (
      <Text fontSize="13.5px" color="quiet">
        Switched off.
      </Text>
    );
  if (!effect) return null;
  if (effect.problem)
    return (
      <Text fontSize="13.5px" color="fails" role="alert">
        <span aria-hidden>✕ </span>
        {effect.problem.message}
      </Text>
    );
  return (
    <Box fontSize="13.5px" color="quiet">
      <Text>{effectWords(effect)}</Text>
      {effect.remarks.map((remark) => (
        <Text key={remark} color="unsure">
          <span aria-hidden>≈ </span>
          {remark}
        </Text>
      ))}
      {effect.learns ? <Text>Fitted to all rows.</Text> : null}
    </Box>
  );
}

function ChosenStep({
  step,
  number,
  given,
  editing,
}: {
  step: Step;
  number: number;
  given: readonly GivenColumn[];
  editing: ReturnType<typeof useSteps>;
}) {
  const { steps, change, choose } = editing;
  const put = (next: Step, what?: string) => change(steps.with(number, next), number, what);
  const move = (by: number) => {
    const others = steps.toSpliced(number, 1);
    change(others.toSpliced(number + by, 0, step), number + by);
  };
  return (
    <>
      <SentenceControls
        kind={stepKindOf(step)}
        plan={step}
        given={given}
        onChange={(next, key) => put(next, `${number} ${key}`)}
      />
      <Flex gap={4} fontSize="14px" wrap="wrap" my={1}>
        {number > 0 ? <TextAction onClick={() => move(-1)}>Earlier</TextAction> : null}
        {number + 1 < steps.length ? <TextAction onClick={() => move(1)}>Later</TextAction> : null}
        <TextAction
          onClick={() => put(step.off ? { kind: step.kind, values: step.values } : { ...step, off: true })}
        >
          {step.off ? 'Switch on' : 'Switch off'}
        </TextAction>
        <TextAction onClick={() => change(steps.toSpliced(number, 1), null)}>Remove</TextAction>
        <TextAction onClick={() => choose(null)}>Done</TextAction>
      </Flex>
    </>
  );
}
