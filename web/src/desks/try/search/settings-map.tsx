import { Box, Text } from '@chakra-ui/react';
import { figureText } from '../../../kit/table/format.js';
import { small } from '../../../kit/plot/plot-style.js';
import { rulerOf, type Ruler } from './ruler.js';
import type { Searched } from './searched.js';

const LEFT = 90;
const WIDTH = 860;
const HEIGHT = 300;
const FOOT = 44;
const TOP = 16;

/** Every setting as a dot, by one setting and by its figure or another setting; of two settings the larger dot is better. */
export function SettingsMap({
  settings,
  across,
  up,
  isBetterHigher,
  name,
  labels,
}: {
  /** The best first. */
  settings: readonly Searched[];
  across: string;
  /** A setting; empty for the figure. */
  up: string;
  isBetterHigher: boolean;
  /** Of the metric. */
  name: string;
  labels: Readonly<Record<string, string>>;
}) {
  const value = (one: Searched, key: string) => (key === '' ? one.mean : (one.values[key] ?? 0));
  const x = rulerOf(settings.map((one) => value(one, across)));
  const y = rulerOf(settings.map((one) => value(one, up)));
  const goodness = rulerOf(settings.map(({ mean }) => mean));
  const radius = ({ mean }: Searched) =>
    up === '' ? 4.5 : 3 + 11 * (isBetterHigher ? goodness.at(mean) : 1 - goodness.at(mean));
  const px = (one: Searched) => LEFT + 14 + x.at(value(one, across)) * (WIDTH - LEFT - 44);
  const py = (one: Searched) => HEIGHT - FOOT - 12 - y.at(value(one, up)) * (HEIGHT - FOOT - TOP - 20);
  const upName = up === '' ? name : (labels[up] ?? up);
  return (
    <Box as="figure" mt={2} overflowX="auto">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        style={{ width: '100%', maxWidth: WIDTH }}
        role="img"
        aria-label={`${settings.length} settings by ${labels[across] ?? across} and ${upName}`}
      >
        <Axes x={x} y={y} xName={labels[across] ?? across} yName={upName} />
        {[...settings].reverse().map((one) => (
          <circle
            key={one.place}
            cx={px(one)}
            cy={py(one)}
            r={radius(one)}
            fill={
              one.share < 100
                ? 'var(--chakra-colors-paper)'
                : `var(--chakra-colors-${one === settings[0] ? 'accent' : 'bar'})`
            }
            stroke={`var(--chakra-colors-${one === settings[0] ? 'accent' : 'quiet'})`}
          >
            <title>{`${labels[across] ?? across} ${value(one, across)}, ${name} ${figureText(one.mean)}`}</title>
          </circle>
        ))}
      </svg>
      <Text fontSize="13.5px" color="quiet">
        In colour: the best.
        {up === '' ? '' : ` The larger the dot, the better the ${name}.`}
        {settings.some(({ share }) => share < 100)
          ? ' Hollow: measured on a part of the training rows only.'
          : ''}
      </Text>
    </Box>
  );
}

function Axes({ x, y, xName, yName }: { x: Ruler; y: Ruler; xName: string; yName: string }) {
  const base = HEIGHT - FOOT;
  return (
    <>
      <line x1={LEFT} x2={WIDTH - 10} y1={base} y2={base} stroke="var(--chakra-colors-rule)" />
      <line x1={LEFT} x2={LEFT} y1={TOP - 8} y2={base} stroke="var(--chakra-colors-rule)" />
      {x.marks.map(({ at, text }) => (
        <text
          key={text}
          x={LEFT + 14 + at * (WIDTH - LEFT - 44)}
          y={base + 16}
          textAnchor="middle"
          style={small}
        >
          {text}
        </text>
      ))}
      {y.marks.map(({ at, text }) => (
        <text key={text} x={LEFT - 8} y={base - 8 - at * (base - TOP - 20)} textAnchor="end" style={small}>
          {text}
        </text>
      ))}
      <text x={(LEFT + WIDTH) / 2} y={HEIGHT - 8} textAnchor="middle" style={small}>
        {xName}
      </text>
      <text x={16} y={base / 2} textAnchor="middle" style={small} transform={`rotate(-90 16 ${base / 2})`}>
        {yName}
      </text>
    </>
  );
}
