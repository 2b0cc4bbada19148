import { Box, chakra } from '@chakra-ui/react';
import { writeSpreadsheetCsv } from '@modest-sieve/core/data';
import { figureText } from '../table/format.js';
import { type PlotPoint, type LinePlotProps } from './line-plot-series.js';

const MOST_LINES = 300;

/** The figures of a plot as a table, and as a file. */
export function FiguresBelow({
  label,
  series,
  x,
  xText,
}: Pick<LinePlotProps, 'label' | 'series' | 'x'> & { xText: (value: number) => string }) {
  const at = [...new Set(series.flatMap(({ points }) => points.map((point) => point.x)))].sort(
    (a, b) => a - b,
  );
  const value = (points: readonly PlotPoint[], place: number) => points.find((point) => point.x === place)?.y;
  const csv = writeSpreadsheetCsv(
    [x.title, ...series.map(({ name }) => name)],
    at.map((place) => [xText(place), ...series.map(({ points }) => value(points, place) ?? null)]),
  );
  return (
    <chakra.details fontSize="13px" color="quiet" mt={1}>
      <chakra.summary cursor="pointer" w="fit-content">
        The figures as a table
      </chakra.summary>
      <Box maxH="260px" overflowY="auto" tabIndex={0} role="region" aria-label={`Figures: ${label}`}>
        <chakra.table fontSize="13px" css={{ '& td, & th': { paddingRight: '18px', textAlign: 'right' } }}>
          <thead>
            <tr>
              <th scope="col">{x.title}</th>
              {series.map(({ name }) => (
                <th key={name} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {at.slice(0, MOST_LINES).map((place) => (
              <tr key={place}>
                <td>{xText(place)}</td>
                {series.map(({ name, points }) => (
                  <td key={name}>{figureText(value(points, place))}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </chakra.table>
      </Box>
      <a href={`data:text/csv;charset=utf-8,${encodeURIComponent(csv)}`} download="figures.csv">
        CSV
      </a>
    </chakra.details>
  );
}
