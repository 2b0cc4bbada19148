/** Colours and texts of every plot. */
export const INK = 'var(--chakra-colors-ink)';
export const QUIET = 'var(--chakra-colors-quiet)';
export const RULE = 'var(--chakra-colors-rule)';
export const ACCENT = 'var(--chakra-colors-accent)';

/** The reset outweighs attributes of a text, but not its style. */
export const small = { fontSize: 12, fill: QUIET };
export const named = { fontSize: 12, fill: ACCENT };
export const tick = { style: small };
export const tooltip = {
  contentStyle: {
    background: 'var(--chakra-colors-sheet)',
    border: `1px solid ${RULE}`,
    color: INK,
    fontSize: 13,
  },
  itemStyle: { color: INK },
};
export const axisTitle = (value: string) => ({
  value,
  position: 'insideBottom' as const,
  offset: -12,
  style: small,
});
