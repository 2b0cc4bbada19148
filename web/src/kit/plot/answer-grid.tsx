import { Box, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';

const CELL = 78;
const GAP = 56;
const LEFT = 110;
const TOP = 24;

/**
 * A confusion matrix: truth down, prediction across; each cell a square whose area is its count, the figure and the
 * share of its row beside it, the diagonal framed.
 */
export function AnswerGrid({
  labels,
  counts,
}: {
  labels: readonly string[];
  counts: readonly (readonly number[])[];
}) {
  const largest = Math.max(1, ...counts.flat());
  const width = LEFT + labels.length * (CELL + GAP);
  const height = TOP + labels.length * (CELL + 12);
  const short = (label: string) => (label.length > 16 ? `${label.slice(0, 15)}…` : label);
  return (
    <Box as="figure" overflowX="auto">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        style={{ width: '100%', maxWidth: width, minWidth: Math.min(width, 300) }}
        role="img"
        aria-label={`Answer grid: ${labels.map((truth, t) => labels.map((p, i) => `${counts[t]?.[i] ?? 0} of ${truth} predicted ${p}`).join(', ')).join('; ')}`}
      >
        {labels.map((label, p) => (
          <text
            key={label}
            x={LEFT + p * (CELL + GAP)}
            y={13}
            style={{ fontSize: 12 }}
            fill="var(--chakra-colors-quiet)"
          >
            predicted {short(label)}
          </text>
        ))}
        {counts.map((row, t) => {
          const total = row.reduce((a, b) => a + b, 0);
          const y = TOP + t * (CELL + 12);
          return (
            <g key={labels[t]}>
              <text x={0} y={y + CELL / 2 - 3} style={{ fontSize: 12.5 }} fill="var(--chakra-colors-ink)">
                {short(labels[t] ?? '')}
              </text>
              <text x={0} y={y + CELL / 2 + 13} style={{ fontSize: 12 }} fill="var(--chakra-colors-quiet)">
                {count(total)} rows
              </text>
              {row.map((n, p) => {
                const side = Math.sqrt(n / largest) * (CELL - 10);
                const x = LEFT + p * (CELL + GAP);
                return (
                  <g key={labels[p]}>
                    {t === p ? (
                      <rect
                        x={x}
                        y={y}
                        width={CELL}
                        height={CELL}
                        fill="none"
                        stroke="var(--chakra-colors-ink)"
                      />
                    ) : null}
                    <rect
                      x={x + (CELL - side) / 2}
                      y={y + (CELL - side) / 2}
                      width={side}
                      height={side}
                      fill={t === p ? 'var(--chakra-colors-accent)' : 'var(--chakra-colors-bar)'}
                    />
                    <text
                      x={x + CELL + 6}
                      y={y + CELL / 2 - 2}
                      style={{ fontSize: 13, fontWeight: 700 }}
                      fill="var(--chakra-colors-ink)"
                    >
                      {count(n)}
                    </text>
                    <text
                      x={x + CELL + 6}
                      y={y + CELL / 2 + 14}
                      style={{ fontSize: 12 }}
                      fill="var(--chakra-colors-quiet)"
                    >
                      {total > 0 ? `${Math.round((100 * n) / total)} %` : '–'}
                    </text>
                  </g>
                );
              })}
            </g>
          );
        })}
      </svg>
      <Text srOnly>Truth in rows, prediction in columns.</Text>
    </Box>
  );
}
