import { Box, Flex, Grid, Text } from '@chakra-ui/react';
import { count, counted } from '@modest-sieve/core/foundation';
import { PART_NAMES } from '@modest-sieve/core/splitting';
import type { SplitConsequences } from '@modest-sieve/core/audit';
import { NavLink } from 'react-router';
import { BACKGROUNDS, PARTS } from './parts.js';

export interface StripRows {
  /** Rows as they came, and what the steps of a preparation left of them. */
  readonly raw: number;
  readonly rows: number;
  readonly columns: number;
  readonly steps: number;
  /** Rows that fell out at a step, and why. */
  readonly fallen: readonly { readonly rows: number; readonly why: string }[];
  /** Null until a split is drawn. */
  readonly split: Pick<SplitConsequences, 'unlabelled' | 'repeated' | 'leftOut' | 'parts'> | null;
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

/** "31 fell out: 22 without a label, 9 repeated"; null where none did. */
function fallenText({ unlabelled, repeated, leftOut }: NonNullable<StripRows['split']>): string | null {
  const reasons = [
    unlabelled > 0 ? `${count(unlabelled)} without a label` : null,
    repeated > 0 ? `${count(repeated)} repeated` : null,
    leftOut > 0 ? `${count(leftOut)} in the gap` : null,
  ].filter((reason) => reason !== null);
  return reasons.length === 0
    ? null
    : `${count(unlabelled + repeated + leftOut)} fell out: ${reasons.join(', ')}`;
}

/** What the steps took out: "41 fell out: 27 with a missing cell, 14 repeated". */
function stepsText({ fallen }: StripRows): string {
  if (fallen.length === 0) return 'no row fell out';
  const all = fallen.reduce((sum, { rows }) => sum + rows, 0);
  return `${count(all)} fell out: ${fallen.map(({ rows, why }) => `${count(rows)} ${why}`).join(', ')}`;
}

/** Height of a bar of so many rows where `all` of them have the full one. */
const heightOf = (rows: number, all: number): number => Math.max(20, ((HEIGHT - 8) * rows) / all);

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
  const fallen = split && fallenText(split);
  return (
    <Box as="nav" aria-label="Stages of this data set" mt={3} borderBottom="1px solid" borderColor="rule">
      <Flex align="center" h={`${HEIGHT + 6}px`} aria-hidden>
        <Flex flex="1" h={`${HEIGHT - 8}px`} bg="bar" align="center" px={3} fontSize="12.5px" truncate>
          {count(strip.raw)} rows as they came
        </Flex>
        <Mesh />
        <Flex
          flex="1"
          h={`${heightOf(strip.rows, strip.raw)}px`}
          bg="bar"
          align="center"
          px={3}
          fontSize="12.5px"
          truncate
        >
          {strip.steps === 0 ? 'not prepared' : `${count(strip.rows)} after ${counted(strip.steps, 'step')}`}
        </Flex>
        <Mesh />
        {split ? <PartBars parts={split.parts} used={used} rows={strip.rows} /> : <WaitingBar />}
      </Flex>
      <Flex fontSize="12.5px" color="quiet" minH="20px" mt="2px">
        <Box flex="1">{counted(strip.columns, 'column')}</Box>
        <Box flex="1" pl="17px">
          {strip.steps === 0 ? null : stepsText(strip)}
        </Box>
        <Flex flex="2" gap={4} pl="17px" wrap="wrap">
          {fallen === null ? null : <span>{fallen}</span>}
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
      <Grid templateColumns={`repeat(${stages.length}, 1fr)`} mt={1}>
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
