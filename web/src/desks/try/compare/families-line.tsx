import { Box, Text } from '@chakra-ui/react';
import { compareFamilies } from '@modest-sieve/core/evaluation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { modelFamilyOf } from '@modest-sieve/core/models';
import type { Schemas } from '../../../api/client.js';
import { TextAction } from '../../../kit/form/action.js';
import { figureText } from '../../../kit/table/format.js';
import { familiesAtDefaults } from './families.js';

/** Which families to tune first, once many were run at default settings. */
export function FamiliesLine({
  runs,
  metric: key,
  folds,
  onTune,
}: {
  runs: readonly Schemas['TrialInfo'][];
  metric: string;
  /** In one repeat. */
  folds: number;
  /** Takes a family up, to vary a setting of it. */
  onTune: (kind: string) => void;
}) {
  const look = familiesAtDefaults(runs);
  const metric = metricNamed(key);
  const done = look.flatMap(({ plan, result }) => {
    const own = result?.chosen.metrics[key];
    return own && own.mean !== null ? [{ kind: plan.model.kind, mean: own.mean, folds: own.folds }] : [];
  });
  const found = compareFamilies(done, metric, folds);
  if (!found) return null;
  const waiting = look.filter(({ state }) => state === 'waiting').length;
  const best = done.find(({ kind }) => kind === found.best);
  const titles = found.nothingToTune.map((kind) => modelFamilyOf({ kind }).title);
  return (
    <Box mt={3} fontSize="14px" data-families={done.length}>
      <Text>
        Of {done.length} families at default settings {modelFamilyOf({ kind: found.best }).title} has the best{' '}
        {metric.name}, {figureText(best?.mean)}.{' '}
        {found.tune.length > 0 ? (
          <>
            Tune first:{' '}
            {found.tune.map((kind, i) => (
              <Text as="span" key={kind}>
                {i > 0 ? ', ' : ''}
                <TextAction onClick={() => onTune(kind)}>{modelFamilyOf({ kind }).title}</TextAction>
              </Text>
            ))}
            .{' '}
          </>
        ) : null}
        {titles.length > 0 ? `As near, with nothing to tune: ${titles.join(', ')}. ` : ''}
        {waiting > 0 ? `${String(waiting)} are not done yet.` : ''}
      </Text>
      <Text fontSize="13px" color="quiet">
        Those that lie within one standard error of the best, fold by fold. What tuning brings only folds can
        show.
      </Text>
    </Box>
  );
}
