import { Box, Flex, Text } from '@chakra-ui/react';
import { counted, shortNumber } from '@modest-sieve/core/foundation';
import { metricNamed, METRICS } from '@modest-sieve/core/metrics';
import { modelFamilyOf } from '@modest-sieve/core/models';
import { useState } from 'react';
import type { Schemas } from '../../../api/client.js';
import { TextAction } from '../../../kit/form/action.js';
import { Subtitle } from '../../../kit/layout/title.js';
import { PlanChoice } from '../../../kit/sentence/plan-sentence.js';
import { figureText } from '../../../kit/table/format.js';
import { Cell, Ruled } from '../../../kit/table/table.js';
import { settingLabels } from '../draft.js';
import { BestTwenty } from './best-twenty.js';
import { bestOfSearch, type Searched } from './searched.js';
import { SettingsMap } from './settings-map.js';

const SHOWN = 20;
const ROWS = 8;

/** The settings that a search measured: as a map, as threads of the best, and as a table. */
export function SearchView({ trial }: { trial: Schemas['TrialDetail'] }) {
  const [metric, setMetric] = useState(trial.plan.metric);
  const keys = trial.vary.map(({ key }) => key);
  const [across, setAcross] = useState(keys[0] ?? '');
  const [up, setUp] = useState('');
  const labels = settingLabels(modelFamilyOf(trial.plan.model));
  const { name, better } = metricNamed(metric);
  const settings = bestOfSearch(trial.settings, metric);
  const whole = settings.filter(({ share }) => share === 100);
  const best = (whole.length > 1 ? whole : settings).slice(0, SHOWN);
  const metrics = METRICS.flatMap((one) =>
    one.key in trial.choices ? [{ value: one.key, text: one.name }] : [],
  );
  const choices = keys.map((key) => ({ value: key, text: labels[key] ?? key }));
  return (
    <Box>
      <Flex align="baseline" gap={4} wrap="wrap">
        <Subtitle>{`A search of ${counted(settings.length, 'setting')}`}</Subtitle>
        <PlanChoice label="metric of the search" value={metric} choices={metrics} onChange={setMetric} />
      </Flex>
      <Flex align="baseline" gap={2} wrap="wrap" fontSize="14px">
        <Text as="span">Each by</Text>
        <PlanChoice label="setting across" value={across} choices={choices} onChange={setAcross} />
        <Text as="span">and</Text>
        <PlanChoice
          label="setting up"
          value={up}
          choices={[{ value: '', text: `its ${name}` }, ...choices.filter(({ value }) => value !== across)]}
          onChange={setUp}
        />
      </Flex>
      <SettingsMap
        settings={settings}
        across={across}
        up={up === across ? '' : up}
        isBetterHigher={better === 'higher'}
        name={name}
        labels={labels}
      />
      {keys.length > 1 ? (
        <BestTwenty best={best} all={settings} keys={keys} labels={labels} name={name} />
      ) : null}
      <SettingsTable settings={settings} keys={keys} labels={labels} begun={0} />
    </Box>
  );
}

function SettingsTable({
  settings,
  keys,
  labels,
  begun,
}: {
  settings: readonly Searched[];
  keys: readonly string[];
  labels: Readonly<Record<string, string>>;
  /** Place of the setting that the search began with. */
  begun: number;
}) {
  const [all, setAll] = useState(false);
  const hasShares = settings.some(({ share }) => share < 100);
  const shown = all ? settings : settings.filter(({ place }, i) => i < ROWS || place === begun);
  return (
    <Box mt={3}>
      <Ruled
        label="Settings of the search"
        headings={[
          { text: '', numeric: true },
          ...keys.map((key) => ({ text: labels[key] ?? key, numeric: true })),
          { text: 'mean', numeric: true },
          { text: 's.e.', numeric: true },
          { text: 'on training rows', numeric: true },
          ...(hasShares ? [{ text: 'rows', numeric: true }] : []),
        ]}
      >
        {shown.map((one) => (
          <tr key={one.place} data-setting={one.place}>
            <Cell numeric>
              {settings.indexOf(one) + 1}
              {one.place === begun ? ' begun with' : ''}
            </Cell>
            {keys.map((key) => (
              <Cell key={key} numeric>
                {shortNumber(one.values[key] ?? 0)}
              </Cell>
            ))}
            <Cell numeric>{figureText(one.mean)}</Cell>
            <Cell numeric>{figureText(one.se)}</Cell>
            <Cell numeric>{figureText(one.train)}</Cell>
            {hasShares ? <Cell numeric>{`${shortNumber(one.share)} %`}</Cell> : null}
          </tr>
        ))}
      </Ruled>
      {settings.length > ROWS ? (
        <Text fontSize="13.5px" mt={1}>
          <TextAction onClick={() => setAll(!all)}>
            {all ? `The best ${ROWS}` : `All ${settings.length}`}
          </TextAction>
        </Text>
      ) : null}
    </Box>
  );
}
