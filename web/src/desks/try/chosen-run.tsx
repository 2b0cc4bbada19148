import { Box, Flex, Text } from '@chakra-ui/react';
import { BASELINES } from '@modest-sieve/core/models';
import { Suspense } from 'react';
import { send, useAnswer, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { Answer, Loading } from '../../kit/answer/states.js';
import { lazily } from '../../kit/lazily.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { useAddressed } from '../../kit/layout/use-address.js';
import { useAction } from '../../kit/form/use-action.js';
import { useDataSet } from '../use-data-set.js';

/** Each is fetched when it is first opened. */
const ColumnsView = lazily(() => import('./columns/columns-view.js'), 'ColumnsView');
const SelectionView = lazily(() => import('./columns/selection-view.js'), 'SelectionView');
const ScreeningView = lazily(() => import('./columns/screening-view.js'), 'ScreeningView');
const ArmsView = lazily(() => import('./compare/arms-view.js'), 'ArmsView');
const BesideView = lazily(() => import('./compare/beside-view.js'), 'BesideView');
const CaseView = lazily(() => import('./model/case-view.js'), 'CaseView');
const CurveView = lazily(() => import('./curve/curve-view.js'), 'CurveView');
const EvidenceView = lazily(() => import('./evidence/evidence-view.js'), 'EvidenceView');
const ModelView = lazily(() => import('./model/model-view.js'), 'ModelView');
const SearchView = lazily(() => import('./search/search-view.js'), 'SearchView');

const VIEWS = [
  { key: 'curve', text: 'Curve' },
  { key: 'model', text: 'Model' },
  { key: 'columns', text: 'Columns' },
  { key: 'screening', text: 'Selection' },
  { key: 'errors', text: 'Errors' },
  { key: 'beside', text: 'Compare' },
  { key: 'weight', text: 'Weight on a subgroup' },
  { key: 'case', text: 'One case' },
] as const;

/** The views of one run, of which the address names one. */
export function ChosenRun({
  id,
  runs,
  onFeatures,
}: {
  id: string;
  runs: readonly Schemas['TrialInfo'][];
  /** Takes features up into the sentence. */
  onFeatures: (features: readonly string[]) => void;
}) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { search, change } = useAddressed();
  const trial = useAnswer(
    address('/data-sets/{dataSet}/trials/{trial}', { dataSet: dataSet.address, trial: id }),
  );
  return (
    <Answer of={trial} what="the run">
      {(data) => {
        if (data.state !== 'done') return <Unfinished trial={data} />;
        const views = VIEWS.filter(
          ({ key }) =>
            (key !== 'curve' || data.vary.length > 0) &&
            (key !== 'screening' || !BASELINES.includes(data.plan.model.kind)),
        );
        const view = views.find(({ key }) => key === search.get('view'))?.key ?? views[0]?.key;
        return (
          <Box mt={4}>
            <Flex as="nav" aria-label="Views of the run" gap={5} fontSize="14px" wrap="wrap">
              {views.map(({ key, text }) => (
                <TextAction key={key} onClick={() => change({ view: key })}>
                  <Text
                    as="span"
                    color={key === view ? 'ink' : 'accent'}
                    aria-current={key === view ? 'page' : undefined}
                  >
                    {key === 'curve' && data.plan.search ? 'Search' : text}
                  </Text>
                </TextAction>
              ))}
            </Flex>
            {data.result?.warnings.map((warning) => (
              <Text key={warning} color="unsure" fontSize="13.5px" mt={2}>
                ≈ {warning}
              </Text>
            ))}
            <Suspense fallback={<Loading what="the view" />}>
              {view === 'curve' ? (
                data.plan.search ? (
                  <SearchView trial={data} />
                ) : (
                  <CurveView trial={data} />
                )
              ) : null}
              {view === 'model' ? <ModelView trial={data} /> : null}
              {view === 'columns' ? <ColumnsView trial={data} /> : null}
              {view === 'screening' ? (
                <>
                  <ScreeningView trial={data} />
                  <SelectionView trial={data} onTake={onFeatures} />
                </>
              ) : null}
              {view === 'errors' ? <EvidenceView trial={data} /> : null}
              {view === 'beside' ? (
                <BesideView
                  trial={data}
                  runs={runs}
                  beside={search.get('beside')}
                  onBeside={(beside) => change({ beside })}
                />
              ) : null}
              {view === 'weight' ? <ArmsView trial={data} /> : null}
              {view === 'case' ? <CaseView trial={data} /> : null}
            </Suspense>
          </Box>
        );
      }}
    </Answer>
  );
}

function Unfinished({ trial }: { trial: Schemas['TrialDetail'] }) {
  const address = useCourseApi();
  const doing = useAction();
  const { job } = trial;
  if (trial.state === 'failed') return <ErrorMessage>{trial.problem?.message}</ErrorMessage>;
  return (
    <Flex gap={4} mt={4} align="center" role="status">
      <Text color="quiet">{job ? `${job.what}: ${job.done} of ${job.total}` : 'waiting for its turn'}</Text>
      {job ? (
        <TextAction onClick={() => doing.run(() => send('delete', address('/jobs/{job}', { job: job.id })))}>
          Cancel
        </TextAction>
      ) : null}
    </Flex>
  );
}
