import { Box } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Bar, BarChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { Subtitle } from '../kit/layout/title.js';
import { QUIET, tick, tooltip } from '../kit/plot/plot-style.js';
import { momentText } from '../kit/table/format.js';
import { arrivals } from './hand-in-times.js';

const HOUR = 3600 * 1000;

/** When answers came, once they came at more than one time. */
export function AnswersOverTime({ times, timeZone }: { times: readonly string[]; timeZone: string }) {
  const { step, bins } = arrivals(times.map((time) => Date.parse(time)));
  if (bins.length < 2) return null;
  const unit = step === HOUR ? 'hour' : step === 24 * HOUR ? 'day' : `${step / (24 * HOUR)} days`;
  const textOf = (from: number) => momentText(new Date(from).toISOString(), timeZone);
  const busiest = bins.reduce((most, bin) => (bin.answers > most.answers ? bin : most));
  return (
    <>
      <Subtitle>Answers by the {unit}</Subtitle>
      <Box
        role="img"
        aria-label={`${counted(times.length, 'answer')}, most of them from ${textOf(busiest.from)}: ${busiest.answers}`}
      >
        <ResponsiveContainer width="100%" height={110}>
          <BarChart data={[...bins]} margin={{ top: 4, right: 12, bottom: 4, left: 0 }}>
            <XAxis dataKey="from" tickFormatter={textOf} tick={tick} stroke={QUIET} minTickGap={40} />
            <YAxis allowDecimals={false} tick={tick} stroke={QUIET} width={34} />
            <Tooltip
              {...tooltip}
              labelFormatter={(from) => textOf(Number(from))}
              formatter={(answers) => [String(answers), 'answers']}
            />
            <Bar dataKey="answers" fill="var(--chakra-colors-figure)" isAnimationActive={false} />
          </BarChart>
        </ResponsiveContainer>
      </Box>
    </>
  );
}
