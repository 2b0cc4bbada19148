import { Box, Flex, Grid, Text } from '@chakra-ui/react';
import { count, PART_NAMES, type SplitConsequences } from '@modest-sieve/core';
import { NavLink } from 'react-router';
import { BACKGROUNDS, PARTS } from './parts.js';

export interface StripRows {
  readonly rows: number;
  readonly columns: number;
  /** Null until a split is drawn. */
  readonly split: Pick<SplitConsequences, 'unlabelled' | 'repeated' | 'parts'> | null;
}

const HEIGHT = 46;

/** The mesh between two stretches of the strip. */
function Mesh() {
  return (
    <svg width="9" height={HEIGHT + 6} aria-hidden style={{ flexShrink: 0, display: 'block' }}>
      <defs>
        <pattern id="mesh" width="4" height="4" patternUnits="userSpaceOnUse">
          <path d="M0 0l4 4M4 0l-4 4" stroke="var(--chakra-colors-ink)" strokeWidth="0.7" />
        </pattern>
      </defs>
      <rect
        x="0.5"
        y="0.5"
        width="8"
        height={HEIGHT + 5}
        fill="url(#mesh)"
        stroke="var(--chakra-colors-ink)"
      />
    </svg>
  );
}

function fallenText({ unlabelled, repeated }: { unlabelled: number; repeated: number }): string {
  const reasons = [
    unlabelled > 0 ? `${count(unlabelled)} without a label` : null,
    repeated > 0 ? `${count(repeated)} repeated` : null,
  ].filter((reason) => reason !== null);
  return reasons.length === 0
    ? 'no row fell out'
    : `${count(unlabelled + repeated)} fell out: ${reasons.join(', ')}`;
}

/** A data set's rows flowing from the raw file into parts, in proportion, with the stages that open the desks. */
export function Strip({
  strip,
  stages,
}: {
  strip: StripRows;
  stages: readonly { to: string; text: string }[];
}) {
  const { split } = strip;
  const used = split ? split.parts.reduce((n, part) => n + part.rows, 0) : strip.rows;
  return (
    <Box as="nav" aria-label="Stages of this data set" mt={3} borderBottom="1px solid" borderColor="rule">
      <Flex align="center" h={`${HEIGHT + 6}px`} aria-hidden>
        <Flex flex="1" h={`${HEIGHT - 8}px`} bg="bar" align="center" px={3} fontSize="12.5px">
          {count(strip.rows)} rows as they came
        </Flex>
        <Mesh />
        {split ? <PartBars parts={split.parts} used={used} rows={strip.rows} /> : <WaitingBar />}
      </Flex>
      <Flex fontSize="12.5px" color="quiet" minH="20px" mt="2px">
        <Box flex="1">{split ? fallenText(split) : `${strip.columns} columns`}</Box>
        <Flex flex="2" gap={4} pl="17px" wrap="wrap">
          {split?.parts.map(({ name, rows }) => (
            <Text as="span" key={name}>
              <Text as="b" color={PARTS[name].ink}>
                {PARTS[name].letter}
              </Text>{' '}
              {PARTS[name].word} {count(rows)}
            </Text>
          ))}
          {split ? <Text as="span">answers to H stay here</Text> : null}
        </Flex>
      </Flex>
      <Grid templateColumns="repeat(3, 1fr)" mt={1}>
        {stages.map(({ to, text }) => (
          <NavLink key={to} to={to} style={{ textDecoration: 'none' }}>
            {({ isActive }) => (
              <Text
                as="span"
                display="inline-block"
                pb="3px"
                mb="-1px"
                fontSize="15.5px"
                color={isActive ? 'accent' : 'ink'}
                fontWeight={isActive ? 700 : 500}
                borderBottom="3px solid"
                borderColor={isActive ? 'accent' : 'transparent'}
              >
                {text}
              </Text>
            )}
          </NavLink>
        ))}
      </Grid>
    </Box>
  );
}

function WaitingBar() {
  return (
    <Flex
      flex="2"
      h={`${HEIGHT - 8}px`}
      border="1px dashed"
      borderColor="bar"
      align="center"
      px={3}
      fontSize="12.5px"
      color="quiet"
    >
      not yet split
    </Flex>
  );
}

function PartBars({ parts, used, rows }: { parts: SplitConsequences['parts']; used: number; rows: number }) {
  const height = Math.max(24, (HEIGHT * used) / rows);
  return (
    <Flex direction="column" flex="2" gap="2px" h={`${height}px`}>
      {PART_NAMES.flatMap((name) => parts.filter((part) => part.name === name)).map((part) => (
        <Box key={part.name} flex={`${part.rows} 0 3px`} background={BACKGROUNDS[part.name]} />
      ))}
    </Flex>
  );
}

/** The strip in one line, for lists. */
export function SmallStrip({ parts }: { parts: SplitConsequences['parts'] }) {
  return (
    <Flex h="12px" gap="2px" minW="120px" aria-hidden>
      {parts.map((part) => (
        <Box key={part.name} flex={`${part.rows} 0 3px`} background={BACKGROUNDS[part.name]} />
      ))}
    </Flex>
  );
}
