import { chakra, Text } from '@chakra-ui/react';
import { slugOf } from '@modest-sieve/core/data';
import { FEEDBACK_POLICIES, SLIP_POLICIES } from '@modest-sieve/core/assessment';
import { useId, useState } from 'react';
import type { Schemas } from '../../api/client.js';
import { saveFile } from '../../kit/form/save-file.js';
import { isLike, isQuestion } from '../common/saved-drafts.js';
import type { Data, Settings } from '../common/settings.js';

/** An exercise as a file: what can be asked again of another split. Its schema is docs/api/exercise.schema.json. */
type ExerciseFile = Omit<Schemas['ExerciseFile'], 'questions'> & Pick<Settings, 'questions'>;

/** What an exercise and its file have in common. */
const partOf = (exercise: Omit<ExerciseFile, 'version'>): Omit<ExerciseFile, 'version'> => ({
  title: exercise.title,
  brief: exercise.brief,
  questions: exercise.questions,
  attempts: exercise.attempts,
  perDay: exercise.perDay,
  counts: exercise.counts,
  graceMinutes: exercise.graceMinutes,
  latePercent: exercise.latePercent,
  lateDays: exercise.lateDays,
  feedback: exercise.feedback,
  slips: exercise.slips ?? 'after-return',
});

export const fileOf = (settings: Settings): ExerciseFile => ({ version: 1, ...partOf(settings) });

/** Hands an exercise out as JSON. */
export function exportExercise(settings: Settings): void {
  const file = fileOf(settings);
  saveFile(`${slugOf(settings.title)}.json`, `${JSON.stringify(file, null, 2)}\n`, 'application/json');
}

/** What a file holds that is an exercise; else what is wrong with it. */
export function readExercise(
  text: string,
  data: Data,
): Omit<ExerciseFile, 'version'> | { readonly wrong: string } {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return { wrong: 'The file is not JSON.' };
  }
  if (typeof read !== 'object' || read === null || !('version' in read) || !('questions' in read))
    return { wrong: 'The file is no exercise: it has no version or no questions.' };
  if (read.version !== 1)
    return { wrong: `The file is of version ${String(read.version)}, which is not known here.` };
  const { questions } = read;
  if (!Array.isArray(questions) || questions.length === 0) return { wrong: 'The file has no questions.' };
  const place = questions.findIndex((one) => !isQuestion(one, data));
  if (place >= 0) return { wrong: `Question ${place + 1} of the file is of a kind that is not known here.` };
  const given = new Map<string, unknown>(Object.entries(read));
  const lacking = Object.entries(LIKE).find(([key, like]) => !isLike(given.get(key), like))?.[0];
  if (lacking !== undefined) return { wrong: `The file lacks “${lacking}”, or its value is not valid.` };
  const file = read as ExerciseFile;
  if (!FEEDBACK_POLICIES.includes(file.feedback) || !['best', 'last'].includes(file.counts))
    return { wrong: 'The rules of the file for feedback, or for which answer counts, are not known here.' };
  if (file.slips !== undefined && !SLIP_POLICIES.includes(file.slips))
    return { wrong: 'The rule of the file for slips is not known here.' };
  return { ...partOf(file), perDay: typeof file.perDay === 'number' ? file.perDay : null };
}

/** Values of the kinds that an exercise's settings are of. */
const LIKE = {
  title: '',
  brief: '',
  attempts: 0,
  graceMinutes: 0,
  latePercent: 0,
  lateDays: 0,
} as const;

/** Takes an exercise from a file into the sheet. */
export function ImportExercise({
  data,
  onImport,
}: {
  data: Data;
  onImport: (exercise: Omit<ExerciseFile, 'version'>) => void;
}) {
  const id = useId();
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <>
      <chakra.label htmlFor={id} color="accent" fontWeight={700} cursor="pointer">
        Import from JSON
      </chakra.label>
      <chakra.input
        id={id}
        type="file"
        accept="application/json,.json"
        srOnly
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          void file?.text().then((text) => {
            const read = readExercise(text, data);
            setProblem('wrong' in read ? read.wrong : null);
            if (!('wrong' in read)) onImport(read);
          });
        }}
      />
      {problem === null ? null : (
        <Text role="alert" color="fails">
          {problem}
        </Text>
      )}
    </>
  );
}
