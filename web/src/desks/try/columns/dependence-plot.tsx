import { Box } from '@chakra-ui/react';
import type { Schemas } from '../../../api/client.js';
import { axisOf } from '../../../kit/plot/axis.js';
import { LinePlot } from '../../../kit/plot/line-plot.js';
import { figureText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';

type Dependence = Schemas['ColumnDependence'];

interface Shown {
  of: Dependence;
  /** What is predicted. */
  what: string;
  text: (column: string) => (value: number | string) => string;
}

/** The mean prediction along a column, with those of single rows behind it; of a category a line for each level. */
export function DependencePlot({ of, what, text }: Shown) {
  const [axis] = of.axes;
  if (!axis) return null;
  const say = text(axis.column);
  if (axis.kind === 'category') return <Levels of={of} what={what} />;
  const points = (values: readonly number[]) => values.map((y, i) => ({ x: Number(axis.values[i]), y }));
  const all = [...of.mean, ...of.rows.flat()];
  const { domain, ticks } = axisOf(all, of.label === null ? [null, null] : [0, 1]);
  return (
    <Box mt={2}>
      <LinePlot
        label={`${what} along ${axis.column}`}
        series={[{ name: 'mean', points: points(of.mean), colour: 'accent' }]}
        behind={{ name: 'single rows', lines: of.rows.map(points) }}
        x={{ title: axis.column, text: say, ...alongOf(axis.values.map(Number)) }}
        y={{ title: what, domain, ticks }}
      />
    </Box>
  );
}

/** An axis that ends where the column is followed no further; nothing where that is at one place. */
function alongOf(values: readonly number[]) {
  const [low = 0, high = 0] = [values[0], values.at(-1)];
  if (low === high) return {};
  const ticks = axisOf([low, high], [null, null]).ticks.filter((tick) => tick >= low && tick <= high);
  return { domain: [low, high] as const, ticks };
}

function Levels({ of, what }: Pick<Shown, 'of' | 'what'>) {
  const [axis] = of.axes;
  const largest = Math.max(...of.mean.map(Math.abs), 0);
  return (
    <Box mt={2}>
      <Ruled
        label={`${what} by ${axis?.column ?? ''}`}
        headings={[{ text: axis?.column ?? '' }, { text: what }, { text: 'mean', numeric: true }]}
      >
        {axis?.values.map((level, i) => (
          <tr key={level}>
            <Cell>{level}</Cell>
            <Cell>
              <Box
                h="10px"
                w={`${largest > 0 ? (220 * Math.abs(of.mean[i] ?? 0)) / largest : 0}px`}
                bg="figure"
                aria-hidden
              />
            </Cell>
            <Cell numeric>{figureText(of.mean[i])}</Cell>
          </tr>
        ))}
      </Ruled>
    </Box>
  );
}
