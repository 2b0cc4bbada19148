import type { ColumnProfile } from '@modest-sieve/core/data';

const WIDTH = 160;
const INTERVAL = 110;
const HEIGHT = 22;

/**
 * A column's distribution in a line: bins of a number, most frequent values of a category. Where the target is known
 * along it, its share of each bar is dark; a mean, which is no share, stands as a dot in the bar's place.
 */
export function Distribution({
  column,
  along = null,
  areShares = true,
}: {
  column: ColumnProfile;
  along?: readonly (number | null)[] | null;
  areShares?: boolean;
}) {
  const bars = column.histogram ? column.histogram.counts : column.top.map((level) => level.count);
  if (column.kind === 'text' || bars.length === 0)
    return <>{column.missing === 0 && column.distinct > 0 ? 'nearly all different' : 'text'}</>;
  const highest = Math.max(...bars);
  const step = WIDTH / bars.length;
  const known = (along ?? []).filter((figure) => figure !== null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden style={{ display: 'block' }}>
      {bars.map((n, i) => {
        const height = n === 0 ? 0 : Math.max(1, (n / highest) * HEIGHT);
        const figure = along?.[i] ?? null;
        const place = { x: i * step, width: Math.max(1, step - 1) };
        return (
          <g key={i}>
            <rect
              {...place}
              y={HEIGHT - height}
              height={height}
              fill={`var(--chakra-colors-${along ? 'bar' : 'figure'})`}
            />
            {figure === null ? null : areShares ? (
              <rect
                {...place}
                y={HEIGHT - height * figure}
                height={height * figure}
                fill="var(--chakra-colors-figure)"
              />
            ) : (
              <circle
                cx={place.x + place.width / 2}
                cy={HEIGHT - 2 - ((figure - low) / (high - low || 1)) * (HEIGHT - 4)}
                r="1.6"
                fill="var(--chakra-colors-accent)"
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}

/** A share with its interval on an axis from `low` to `high`. */
export function ShareInterval({
  share,
  low,
  high,
  from,
  to,
  colour,
}: {
  share: number;
  /** Null where the interval could not be judged. */
  low: number | null;
  high: number | null;
  from: number;
  to: number;
  colour: string;
}) {
  const x = (value: number) => 4 + ((value - from) / (to - from || 1)) * (INTERVAL - 8);
  return (
    <svg width={INTERVAL} height="14" aria-hidden style={{ flexShrink: 0 }}>
      {low === null || high === null ? null : (
        <line x1={x(low)} x2={x(high)} y1="7" y2="7" stroke="var(--chakra-colors-ink)" />
      )}
      <circle cx={x(share)} cy="7" r="4" fill={`var(--chakra-colors-${colour})`} />
    </svg>
  );
}
