import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { useState } from 'react';
import { send, type Schemas } from '../api/client.js';
import { useCourseApi } from '../api/course.js';
import { Action, TextAction } from '../kit/form/action.js';
import { useAction } from '../kit/form/use-action.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Subtitle } from '../kit/layout/title.js';
import { PlanChoice, PlanNumber, PlanSentence, word } from '../kit/sentence/plan-sentence.js';

type Plan = Schemas['Gradebook']['plan'];
type Category = Plan['categories'][number];

/** How exercises make a total, as sentences that the instructor changes. */
export function GradePlanSentences({ book }: { book: Schemas['Gradebook'] }) {
  const address = useCourseApi();
  const doing = useAction();
  const [plan, setPlan] = useState(book.plan);
  const isChanged = JSON.stringify(plan) !== JSON.stringify(book.plan);
  const setCategory = (place: number, next: Category | null) => {
    const before = plan.categories[place]?.name;
    const categories = plan.categories.flatMap((one, i) => (i === place ? (next ?? []) : one));
    // Exercises go along with a new name, and out of a category that there is no more.
    const exercises = plan.exercises.map((one) =>
      one.category === before ? { ...one, category: next?.name ?? '' } : one,
    );
    setPlan({ categories, exercises });
  };
  const add = () => {
    const name = plan.categories.length === 0 ? 'Exercises' : `Category ${plan.categories.length + 1}`;
    const isFirst = plan.categories.length === 0;
    setPlan({
      categories: [...plan.categories, { name, weight: 100, drop: 0 }],
      exercises: isFirst
        ? book.exercises.map(({ id, marks }) => ({ exercise: id, category: name, weight: marks }))
        : plan.exercises,
    });
  };
  const save = () => doing.run(() => send('put', address('/gradebook/plan'), plan));
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
        <TextAction onClick={add}>Add a category</TextAction>
        {isChanged ? (
          <>
            <Action busy={doing.busy} onClick={save}>
              Use these weights
            </Action>
            <TextAction onClick={() => setPlan(book.plan)}>Leave them</TextAction>
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

/** In which category each exercise is, and with which weight. */
function Exercises({
  book,
  plan,
  onPlan,
}: {
  book: Schemas['Gradebook'];
  plan: Plan;
  onPlan: (plan: Plan) => void;
}) {
  const choices = [
    { value: '', text: 'no category' },
    ...plan.categories.map(({ name }) => ({ value: name, text: name })),
  ];
  return (
    <Box mt={3}>
      {book.exercises.map(({ id, title, marks }) => {
        const now = plan.exercises.find(({ exercise }) => exercise === id) ?? {
          exercise: id,
          category: '',
          weight: marks,
        };
        const set = (next: Partial<typeof now>) =>
          onPlan({
            ...plan,
            exercises: [
              ...plan.exercises.filter(({ exercise }) => exercise !== id),
              { ...now, ...next, exercise: id },
            ],
          });
        return (
          <Box key={id} fontSize="14px" mt={1}>
            {title} –{' '}
            <PlanChoice
              label={`category of ${title}`}
              value={now.category}
              choices={choices}
              onChange={(category) => set({ category })}
            />
            {now.category === '' ? null : (
              <>
                , weight{' '}
                <PlanNumber
                  label={`weight of ${title}`}
                  value={now.weight}
                  min={0}
                  onChange={(weight) => set({ weight })}
                />
              </>
            )}
          </Box>
        );
      })}
    </Box>
  );
}
