import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { useAction } from '../kit/form/use-action.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Subtitle } from '../kit/layout/title.js';
import { PlanChoice, PlanNumber, PlanSentence, word } from '../kit/sentence/plan-sentence.js';
import {
  draftOf,
  planOf,
  withCategory,
  withExercise,
  withNewCategory,
  type Category,
  type DraftPlan,
} from './draft-plan.js';

/** How exercises make a total, as sentences that the instructor changes. */
export function GradePlanSentences({ book }: { book: Schemas['Gradebook'] }) {
  const address = useCourseApi();
  const doing = useAction();
  const begun = draftOf(book);
  const [plan, setPlan] = useState(begun);
  const isChanged = JSON.stringify(planOf(plan)) !== JSON.stringify(planOf(begun));
  const setCategory = (place: number, next: Category | null) => setPlan(withCategory(plan, place, next));
  const save = () => doing.run(() => send('put', address('/gradebook/plan'), planOf(plan)));
  return (
    <Box mt={4}>
      <Subtitle>How marks make a total</Subtitle>
      {plan.categories.length === 0 ? (
        <Text maxW="72ch">All exercises that are returned count, mark by mark.</Text>
      ) : (
        <>
          {plan.categories.map((category, i) => (
            <PlanSentence key={i} label={`Category ${i + 1}`}>
              <CategoryName
                label={`name of category ${i + 1}`}
                value={category.name}
                onChange={(name) => setCategory(i, { ...category, name })}
              />{' '}
              counts{' '}
              <PlanNumber
                label={`weight of ${category.name}`}
                value={category.weight}
                min={0}
                onChange={(weight) => setCategory(i, { ...category, weight })}
              />{' '}
              and drops its{' '}
              <PlanNumber
                label={`lowest that ${category.name} drops`}
                value={category.drop}
                min={0}
                step={1}
                onChange={(drop) => setCategory(i, { ...category, drop })}
              />{' '}
              lowest.{' '}
              <Text as="span" fontSize="14px" fontFamily="body">
                <TextAction onClick={() => setCategory(i, null)}>remove</TextAction>
              </Text>
            </PlanSentence>
          ))}
          <Exercises book={book} plan={plan} onPlan={setPlan} />
        </>
      )}
      <Flex mt={3} gap={3} align="center" wrap="wrap">
        <TextAction onClick={() => setPlan(withNewCategory(plan))}>Add a category</TextAction>
        {isChanged ? (
          <>
            <Action busy={doing.busy} onClick={save}>
              Use these weights
            </Action>
            <TextAction onClick={() => setPlan(begun)}>Leave them</TextAction>
          </>
        ) : null}
      </Flex>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Box>
  );
}

function CategoryName({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (name: string) => void;
}) {
  return (
    <chakra.input
      {...word}
      aria-label={label}
      value={value}
      maxLength={60}
      w={`${Math.max(6, value.length + 1)}ch`}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** The choice of no category. */
const NONE = '';

/** In which category each exercise is, and with which weight. */
function Exercises({
  book,
  plan,
  onPlan,
}: {
  book: Schemas['Gradebook'];
  plan: DraftPlan;
  onPlan: (plan: DraftPlan) => void;
}) {
  const choices = [
    { value: NONE, text: 'no category' },
    ...plan.categories.map(({ name }, place) => ({ value: String(place), text: name })),
  ];
  return (
    <Box mt={3}>
      {plan.exercises.map(({ exercise, place, weight }) => {
        const title = book.exercises.find(({ id }) => id === exercise)?.title ?? '';
        return (
          <Box key={exercise} fontSize="14px" mt={1}>
            {title} –{' '}
            <PlanChoice
              label={`category of ${title}`}
              value={place === null ? NONE : String(place)}
              choices={choices}
              onChange={(chosen) =>
                onPlan(withExercise(plan, exercise, { place: chosen === NONE ? null : Number(chosen) }))
              }
            />
            {place === null ? null : (
              <>
                , weight{' '}
                <PlanNumber
                  label={`weight of ${title}`}
                  value={weight}
                  min={0}
                  onChange={(next) => onPlan(withExercise(plan, exercise, { weight: next }))}
                />
              </>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
