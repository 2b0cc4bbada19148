import type { Schemas } from '../api/client.js';
import { Subtitle } from '../kit/layout/title.js';
import { figureText, percent } from '../kit/table/format.js';
import { Cell, Ruled } from '../kit/table/table.js';

/** Subgroups of rows that are missed more than other rows. */
export function MissedSubgroups({
  title,
  kind,
  subgroups,
}: {
  title: string;
  kind: 'labels' | 'numbers';
  subgroups: NonNullable<Schemas['AnswerEvidence']>['subgroups'];
}) {
  const isLabels = kind === 'labels';
  const figure = (missed: number) => (isLabels ? percent(missed) : figureText(missed));
  if (subgroups.length === 0) return null;
  return (
    <>
      <Subtitle>{title}</Subtitle>
      <Ruled
        label={title}
        headings={[
          { text: 'column' },
          { text: 'value' },
          { text: 'rows', numeric: true },
          { text: isLabels ? 'missed by' : 'mean absolute error', numeric: true },
          { text: 'elsewhere', numeric: true },
        ]}
      >
        {subgroups.map(({ column, value, rows, missed, elsewhere }) => (
          <tr key={`${column} ${value}`}>
            <Cell strong>{column}</Cell>
            <Cell>{value}</Cell>
            <Cell numeric>{rows}</Cell>
            <Cell numeric>{figure(missed)}</Cell>
            <Cell numeric>{figure(elsewhere)}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
