import { Box } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { Bar, BarChart, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { axisTitle, QUIET, small, tick } from './plot-style.js';
import { binned } from './marks-bins.js';

/** How many students have how many marks. */
export function MarksHistogram({ marks, outOf }: { marks: readonly number[]; outOf: number }) {
  const bins = binned(marks, outOf);
  return (
    <Box
      role="img"
      aria-label={`Marks: ${bins.map(({ text, students }) => `${text}: ${counted(students, 'student')}`).join(', ')}`}
    >
      <ResponsiveContainer width="100%" height={190}>
        <BarChart data={[...bins]} margin={{ top: 18, right: 12, bottom: 18, left: 0 }} barCategoryGap={2}>
          <XAxis dataKey="text" tick={tick} stroke={QUIET} interval={0} label={axisTitle('marks')} />
          <YAxis hide domain={[0, 'dataMax']} />
          <Bar dataKey="students" fill="var(--chakra-colors-figure)" isAnimationActive={false}>
            <LabelList
              dataKey="students"
              position="top"
              style={small}
              formatter={(students) => (Number(students) > 0 ? String(students) : '')}
            />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </Box>
  );
}
