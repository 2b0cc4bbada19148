import type { PartName } from '@modest-sieve/core/splitting';

/** How a part is marked: colour, pattern and letter together. */
export const PARTS: Record<
  PartName,
  { letter: string; word: string; colour: string; ink: string; inkVariable: string; fill: string }
> = {
  training: {
    letter: 'T',
    word: 'training',
    colour: 'training',
    ink: 'trainingInk',
    inkVariable: 'var(--chakra-colors-training-ink)',
    fill: 'var(--chakra-colors-training)',
  },
  validation: {
    letter: 'V',
    word: 'validation',
    colour: 'validation',
    ink: 'validationInk',
    inkVariable: 'var(--chakra-colors-validation-ink)',
    fill: 'url(#part-validation)',
  },
  heldout: {
    letter: 'H',
    word: 'held-out',
    colour: 'heldout',
    ink: 'heldoutInk',
    inkVariable: 'var(--chakra-colors-heldout-ink)',
    fill: 'url(#part-heldout)',
  },
};

/** The same patterns for parts that are drawn as boxes. */
export const BACKGROUNDS: Record<PartName, string> = {
  training: 'var(--chakra-colors-training)',
  validation:
    'repeating-linear-gradient(135deg, var(--chakra-colors-paper) 0 1.5px, var(--chakra-colors-validation) 1.5px 6px)',
  heldout:
    'radial-gradient(circle, var(--chakra-colors-paper) 1px, transparent 1.3px) 0 0 / 6px 6px, var(--chakra-colors-heldout)',
};

/** The patterns that `PARTS` fills with; once on every page. */
export function PartPatterns() {
  return (
    <svg width="0" height="0" aria-hidden style={{ position: 'absolute' }}>
      <defs>
        <pattern
          id="part-validation"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="5" height="5" fill="var(--chakra-colors-validation)" />
          <rect width="1.5" height="5" fill="var(--chakra-colors-paper)" />
        </pattern>
        <pattern id="part-heldout" width="4" height="4" patternUnits="userSpaceOnUse">
          <rect width="4" height="4" fill="var(--chakra-colors-heldout)" />
          <circle cx="2" cy="2" r="0.9" fill="var(--chakra-colors-paper)" />
        </pattern>
      </defs>
    </svg>
  );
}
