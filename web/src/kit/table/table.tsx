import { Box, chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';

interface Heading {
  readonly text: string;
  readonly numeric?: boolean;
  /** Whether a long heading may take several lines. */
  readonly wraps?: boolean;
}

/** A table with ruled lines: headings above a dark rule, figures to the right in tabular numerals. */
export function Ruled({
  label,
  headings,
  keepsFirst = false,
  children,
}: {
  label: string;
  headings: readonly Heading[];
  /** Whether the first column stays in sight while the others scroll. */
  keepsFirst?: boolean;
  children: ReactNode;
}) {
  return (
    // What only is heard is placed within it too, and not beyond the page.
    <Box overflowX="auto" position="relative" tabIndex={0} role="region" aria-label={label}>
      <chakra.table
        w="100%"
        fontSize="13.5px"
        aria-label={label}
        css={{
          // Cells that stay in place leave borders of one table behind.
          borderCollapse: keepsFirst ? 'separate' : 'collapse',
          borderSpacing: 0,
          '& tr > :first-of-type': keepsFirst ? { position: 'sticky', left: 0, bg: 'paper', zIndex: 1 } : {},
        }}
      >
        <thead>
          <tr>
            {headings.map(({ text, numeric, wraps }) => (
              <chakra.th
                key={text}
                scope="col"
                textAlign={numeric ? 'right' : 'left'}
                py="6px"
                pr={4}
                fontSize="12.5px"
                fontWeight={600}
                color="quiet"
                borderBottom="1px solid"
                borderColor="ink"
                whiteSpace={wraps ? 'normal' : 'nowrap'}
                verticalAlign="bottom"
              >
                {text}
              </chakra.th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </chakra.table>
    </Box>
  );
}

export function Cell({
  children,
  numeric = false,
  strong = false,
  quiet = false,
  mono = false,
  nowrap = false,
}: {
  children?: ReactNode;
  numeric?: boolean;
  strong?: boolean;
  quiet?: boolean;
  mono?: boolean;
  nowrap?: boolean;
}) {
  return (
    <chakra.td
      py="6px"
      pr={4}
      textAlign={numeric ? 'right' : 'left'}
      fontWeight={strong ? 700 : 400}
      color={quiet ? 'quiet' : undefined}
      fontFamily={mono ? 'mono' : undefined}
      borderBottom="1px solid"
      borderColor="rule"
      whiteSpace={mono || numeric || nowrap ? 'nowrap' : undefined}
    >
      {children}
    </chakra.td>
  );
}
