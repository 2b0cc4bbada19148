import { Text } from '@chakra-ui/react';
import { metricNamed } from '@modest-sieve/core/metrics';
import type { Schemas } from '../../../api/client.js';
import { figureText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { whatDiffers, type ComparedRun } from './what-differs.js';

/** A run beside one that was judged on other rows: what they differ in, and their figures without a test. */
export function ElsewhereView({
  trial,
  other,
  foldSets,
}: {
  trial: ComparedRun;
  other: ComparedRun;
  foldSets: readonly Schemas['FoldSetInfo'][];
}) {
  const [first, second] = [trial.result?.chosen.metrics ?? {}, other.result?.chosen.metrics ?? {}];
  const shared = Object.keys(first).filter((key) => key in second);
  const text = (metrics: typeof first, key: string) => {
    const { mean = null, se = null } = metrics[key] ?? {};
    return `${figureText(mean)}${se === null ? '' : ` ± ${figureText(se)}`}`;
  };
  return (
    <>
      <Subtitle>What differs beside the models</Subtitle>
      <ul aria-label="What differs">
        {whatDiffers(trial, other, foldSets).map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <Text mt={2} fontSize="13px" color="quiet">
        They were judged on other rows, so that a difference between their figures is not one between models
        alone, and nothing is tested.
      </Text>
      <Subtitle>Figure by figure</Subtitle>
      <Ruled
        label="Figure by figure"
        headings={[
          { text: 'metric' },
          { text: 'this run ± s.e.', numeric: true },
          { text: 'the other ± s.e.', numeric: true },
        ]}
      >
        {shared.map((key) => (
          <tr key={key}>
            <Cell>{metricNamed(key).name}</Cell>
            <Cell numeric>{text(first, key)}</Cell>
            <Cell numeric>{text(second, key)}</Cell>
          </tr>
        ))}
      </Ruled>
    </>
  );
}
