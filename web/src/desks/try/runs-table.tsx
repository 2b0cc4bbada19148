import { Box, chakra, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core/foundation';
import { metricNamed } from '@modest-sieve/core/metrics';
import { BASELINES, modelFamilyOf } from '@modest-sieve/core/models';
import type { Schemas } from '../../api/client.js';
import { axisOf } from '../../kit/plot/axis.js';
import { differenceText, figureText } from '../../kit/table/format.js';
import { Cell, Ruled } from '../../kit/table/table.js';
import { screeningText } from './columns/screens.js';
import { runDetail } from './draft.js';
import { outdoneBy } from './compare/outdone.js';

type Run = Schemas['TrialInfo'];

const WIDTH = 160;
const HEIGHT = 20;

/** Runs over the same folds: mean and standard error, the figure on training rows, how far they lie apart. */
export function RunsTable({
  runs,
  metric,
  also,
  chosen,
  beside,
  now,
  onChoose,
}: {
  runs: readonly Run[];
  metric: string;
  /** Metrics that have a column of their own beside it. */
  also: readonly string[];
  chosen: string | null;
  beside: string | null;
  /** Number of the newest version. */
  now: number;
  onChoose: (id: string) => void;
}) {
  const { name, range } = metricNamed(metric);
  const figures = runs.map(({ result }) => result?.chosen.metrics[metric] ?? null);
  const values = figures.flatMap((own) =>
    own ? [own.mean, own.train].filter((value) => value !== null) : [],
  );
  const { domain } = axisOf(values.length > 0 ? values : [0, 1], range);
  const features = [...new Set(runs.flatMap(({ plan }) => plan.features))];
  const shown = also.filter((key) => key !== metric);
  const heldOut = runs.some(({ result }) => result?.heldOut);
  return (
    <Ruled
      label="Runs"
      headings={[
        { text: 'run' },
        { text: `${name}: ● over the folds ± s.e., ○ on training rows`, wraps: true },
        { text: 'mean', numeric: true },
        { text: 's.e.', numeric: true },
        { text: 'gap', numeric: true },
        ...(heldOut ? [{ text: 'held-out', numeric: true }] : []),
        { text: 'time', numeric: true },
        ...shown.map((key) => ({ text: metricNamed(key).name, numeric: true, wraps: true })),
      ]}
    >
      {runs.map((run, i) => {
        const own = figures[i] ?? null;
        const outdone = outdoneBy(run, runs, metric);
        return (
          <chakra.tr
            key={run.id}
            data-run={run.plan.model.kind}
            bg={run.id === chosen ? 'sheet' : undefined}
            boxShadow={run.id === chosen ? 'inset 3px 0 var(--chakra-colors-accent)' : undefined}
          >
            <Cell>
              <chakra.button
                type="button"
                textAlign="left"
                minW={shown.length > 0 ? '180px' : '280px'}
                pl={2}
                cursor="pointer"
                aria-current={run.id === chosen}
                onClick={() => onChoose(run.id)}
              >
                <Text as="b">{run.name || modelFamilyOf(run.plan.model).title}</Text>{' '}
                <Text as="span" color="quiet">
                  {[
                    run.name === '' ? '' : modelFamilyOf(run.plan.model).title,
                    runDetail(run),
                    withoutText(run, features),
                    screeningText(run.plan.screening),
                    sizeText(run),
                    run.version === now ? '' : `version ${run.version}`,
                  ]
                    .filter((part) => part !== '')
                    .join(' · ')}
                  {run.isReference ? ' · reference' : ''}
                  {run.id === beside ? ' · beside' : ''}
                </Text>
              </chakra.button>
            </Cell>
            <Cell>{own ? <Dots own={own} domain={domain} /> : <State run={run} />}</Cell>
            <Cell numeric>{figureText(own?.mean)}</Cell>
            <Cell numeric>{figureText(own?.se)}</Cell>
            <Cell numeric>
              {outdone ? (
                <Text
                  as="b"
                  color="fails"
                  title={`${runDetail(outdone) || 'a simpler setting'} does as well`}
                >
                  {differenceText(own?.gap, own?.mean ?? 0)}
                  <Box as="span" srOnly>
                    , although a simpler setting does as well
                  </Box>
                </Text>
              ) : (
                differenceText(own?.gap, own?.mean ?? 0)
              )}
            </Cell>
            {heldOut ? <Cell numeric>{figureText(run.result?.heldOut?.figures[metric]?.value)}</Cell> : null}
            <Cell numeric>{run.result ? `${run.result.seconds.toFixed(1)} s` : '–'}</Cell>
            {shown.map((key) => (
              <Cell key={key} numeric nowrap>
                <Also run={run} metric={key} />
              </Cell>
            ))}
          </chakra.tr>
        );
      })}
    </Ruled>
  );
}

/** Which features a run went without, of those that others have. */
function withoutText({ plan }: Run, features: readonly string[]): string {
  if (BASELINES.includes(plan.model.kind)) return '';
  const without = features.filter((name) => !plan.features.includes(name));
  if (without.length === 0) return '';
  return without.length > 3 ? `${plan.features.length} features` : `without ${without.join(', ')}`;
}

/** Mean of a run by a metric, with its standard error and the figure on held-out rows where it was looked at below. */
function Also({ run: { result }, metric }: { run: Run; metric: string }) {
  const { mean = null, se = null } = result?.chosen.metrics[metric] ?? {};
  const heldOut = result?.heldOut?.figures[metric]?.value ?? null;
  return (
    <>
      {figureText(mean)}
      <Text fontSize="12px" color="quiet">
        {se === null ? '' : `± ${figureText(se)}`}
      </Text>
      {heldOut === null ? null : (
        <Text fontSize="12px" color="quiet">
          held-out {figureText(heldOut)}
        </Text>
      )}
    </>
  );
}

const sizeText = ({ result }: Run): string =>
  result?.size ? `${count(result.size.count)} ${result.size.of}` : '';

function State({ run }: { run: Run }) {
  if (run.state === 'failed')
    return (
      <Text as="span" color="fails">
        ✕ not done: {run.problem?.message}
      </Text>
    );
  if (run.state === 'done') return <>undefined</>;
  return (
    <Text as="span" color="quiet" role="status">
      {run.job ? `${run.job.what}: ${run.job.done} of ${run.job.total}` : 'waiting'}
    </Text>
  );
}

type Summary = NonNullable<Run['result']>['chosen']['metrics'][string];

function Dots({ own, domain: [low, high] }: { own: Summary; domain: [number, number] }) {
  const x = (value: number) => 8 + ((value - low) / (high - low || 1)) * (WIDTH - 16);
  const { mean, se, train } = own;
  if (mean === null) return <>undefined: {own.reason}</>;
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden style={{ display: 'block' }}>
      {train === null ? null : (
        <>
          <line
            x1={x(mean)}
            x2={x(train)}
            y1={10}
            y2={10}
            stroke="var(--chakra-colors-bar)"
            strokeWidth="5"
          />
          <circle
            cx={x(train)}
            cy={10}
            r={4.5}
            fill="var(--chakra-colors-paper)"
            stroke="var(--chakra-colors-training)"
            strokeWidth="2"
          />
        </>
      )}
      {se === null ? null : (
        <line
          x1={x(mean - se)}
          x2={x(mean + se)}
          y1={10}
          y2={10}
          stroke="var(--chakra-colors-ink)"
          strokeWidth="2"
        />
      )}
      <circle cx={x(mean)} cy={10} r={4.5} fill="var(--chakra-colors-ink)" />
    </svg>
  );
}
