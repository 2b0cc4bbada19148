import { Box } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { type Schemas } from '../../api/client.js';
import { Cell, Ruled } from '../../kit/table/table.js';

/** The line by which a score is marked, point by point. */
const lineText = (line: Schemas['CorrectedQuestion']['line']['before']): string =>
  line === null
    ? 'none'
    : `0 at ${line.nothing}, ${line.mostMarks} at ${line.most}, ${line.marks} at ${line.all}${line.doubt === true ? ', with the benefit of the doubt' : ''}`;

/** What one list says and the other does not. */
const others = (own: readonly string[], other: readonly string[]): string =>
  own.filter((text) => !other.includes(text)).join('; ');

export function KeyChanges({
  exercise,
  correction,
}: {
  exercise: Schemas['ExerciseDetail'];
  correction: Schemas['CorrectionInfo'];
}) {
  const lines = correction.questions.flatMap(({ question, marks, key, line }, i) => {
    // What both keys say is left out.
    const [before, after] = [others(key.before, key.after), others(key.after, key.before)];
    const title = `${i + 1} · ${exercise.sheets[i]?.title ?? question}`;
    return [
      ...(before === after ? [] : [{ title, what: 'key', before, after }]),
      ...(lineText(line.before) === lineText(line.after)
        ? []
        : [{ title, what: 'line', before: lineText(line.before), after: lineText(line.after) }]),
      ...(marks.before === marks.after
        ? []
        : [
            {
              title,
              what: 'worth',
              before: counted(marks.before, 'mark'),
              after: counted(marks.after, 'mark'),
            },
          ]),
    ];
  });
  if (lines.length === 0) return null;
  return (
    <Box mb={3}>
      <Ruled
        label="Keys, lines and worth"
        headings={[{ text: 'question' }, { text: '' }, { text: 'now' }, { text: 'corrected' }]}
      >
        {lines.map(({ title, what, before, after }) => (
          <tr key={`${title} ${what}`}>
            <Cell strong>{title}</Cell>
            <Cell quiet>{what}</Cell>
            <Cell>{before}</Cell>
            <Cell>{after}</Cell>
          </tr>
        ))}
      </Ruled>
    </Box>
  );
}
