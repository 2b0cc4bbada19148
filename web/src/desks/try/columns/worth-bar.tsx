import type { Schemas } from '../../../api/client.js';

const WIDTH = 190;
const HEIGHT = 16;

/** A bar from nought to the mean, with its standard error as a line. */
export function WorthBar({
  line: { mean, se, isShown },
  widest,
}: {
  line: Schemas['ColumnImportance'];
  widest: number;
}) {
  if (mean === null || widest === 0) return null;
  // A tenth of the width is left for columns without which the metric is better.
  const zero = WIDTH * 0.15;
  const scale = (WIDTH - zero) / widest;
  const at = (value: number) => Math.max(0, zero + scale * value);
  const middle = HEIGHT / 2;
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden>
      <rect
        x={Math.min(zero, at(mean))}
        y={4}
        width={Math.abs(at(mean) - zero)}
        height={HEIGHT - 8}
        fill={`var(--chakra-colors-${isShown ? 'figure' : 'bar'})`}
      />
      <line x1={zero} x2={zero} y1={0} y2={HEIGHT} stroke="var(--chakra-colors-quiet)" />
      {se === null ? null : (
        <line
          x1={at(mean - se)}
          x2={at(mean + se)}
          y1={middle}
          y2={middle}
          stroke="var(--chakra-colors-ink)"
          strokeWidth={1.5}
        />
      )}
    </svg>
  );
}
