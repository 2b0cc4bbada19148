import { Box, Text } from '@chakra-ui/react';
import { fetchFile, send, type Schemas } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { TextAction } from '../../kit/form/action.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { useAction } from '../../kit/form/use-action.js';
import { Renaming } from '../../kit/form/renaming.js';
import { saveFile } from '../../kit/form/save-file.js';
import { useDataSet } from '../use-data-set.js';

const STARTED = [
  { form: 'python', text: 'Python notebook' },
  { form: 'r', text: 'R notebook' },
  { form: 'script', text: 'script' },
] as const;

/** Offering a run to exercises, taking it elsewhere, and deleting it. */
export function Reference({ run }: { run: Schemas['TrialInfo'] }) {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const at = { dataSet: dataSet.address, trial: run.id };
  const own = address('/data-sets/{dataSet}/trials/{trial}', at);
  const doing = useAction();
  // A file that is being made keeps nobody from anything else.
  const saving = useAction();
  const ofSplit = dataSet.foldSets.some(({ id, splitId }) => id === run.foldSetId && splitId !== null);
  const set = (isReference: boolean) =>
    doing.run(() =>
      send('put', address('/data-sets/{dataSet}/trials/{trial}/reference', at), { isReference }),
    );
  return (
    <Box mt={4} fontSize="14px">
      {run.isReference ? (
        <Text role="status">
          This is a reference run: exercises of its split can anchor marks by its held-out figures.{' '}
          <TextAction onClick={() => set(false)}>Take it back</TextAction>
        </Text>
      ) : ofSplit ? (
        <Text>
          <TextAction onClick={() => set(true)}>Use as reference run</TextAction> to anchor the marks of an
          exercise. Its held-out figures are looked at for it, and that is recorded.
        </Text>
      ) : null}
      <Text mt={2}>
        The same with the files of a pack:{' '}
        {STARTED.map(({ form, text }, i) => (
          <span key={form}>
            {i > 0 ? ', ' : ''}
            <a href={address('/data-sets/{dataSet}/trials/{trial}/starter/{form}', { ...at, form })} download>
              {text}
            </a>
          </span>
        ))}
        .
      </Text>
      <Text mt={2}>
        The model itself:{' '}
        {(['pmml', 'onnx', 'json'] as const).map((format, i) => (
          <span key={format}>
            {i > 0 ? ', ' : ''}
            <TextAction
              label={`the model as ${format.toUpperCase()}`}
              onClick={() =>
                saving.run(async () =>
                  saveFile(
                    `model.${format}`,
                    await fetchFile(
                      address('/data-sets/{dataSet}/trials/{trial}/model/{format}', { ...at, format }),
                    ),
                    'application/octet-stream',
                  ),
                )
              }
            >
              {format.toUpperCase()}
            </TextAction>
          </span>
        ))}
        .
      </Text>
      {run.isReference ? null : (
        <Text mt={2}>
          <TextAction onClick={() => doing.run(() => send('delete', own))}>Delete this run</TextAction>
        </Text>
      )}
      <Box mt={2}>
        <Renaming name={run.name} what="this run" url={own} />
      </Box>
      <ErrorMessage>{doing.problem?.message ?? saving.problem?.message}</ErrorMessage>
    </Box>
  );
}
