import { SieveError } from '../../../foundation/errors.js';
import { at, counted } from '../../../foundation/numbers.js';
import { modelFamilyOf } from '../../../models/registry.js';
import { generator, type AskedNames } from '../generator.js';
import { checkFitted, FEATURES, givenModel, modelParameter, requestFor } from './fitted-model.js';
import { bestPlace, foldWords, METRIC, metricFor, scoresOverFolds, spreadOf } from './judged-rows.js';

/** Means that differ by less, relative to the larger, are not told apart by other programs. */
const ALIKE = 1e-6;

/** The numbers of a list of settings. @throws SieveError `plan-value` with the field `settings` */
function settingsIn(texts: readonly string[]): number[] {
  const fail = (message: string) => new SieveError('plan-value', message, { field: 'settings' });
  const values = texts.map((text) => {
    const value = Number(text);
    if (text.trim() === '' || !Number.isFinite(value)) throw fail(`A setting is a number, not “${text}”.`);
    return value;
  });
  if (values.length < 2 || new Set(values).size < values.length)
    throw fail('Give two settings or more, each once.');
  return values;
}

export const bestSetting = generator({
  key: 'best-setting',
  title: 'the best setting of a model',
  about:
    'Which setting of a model has the best mean over folds that any program can make, and which is the simplest whose mean lies within one standard error of it (Breiman and others, 1984, 3.4.3). Settings are listed from the simplest model to the most complex. Where two means are equal to six digits the best is refused.',
  text: 'Judge {model} of **{target}** on {features} by {metric} with {setting} = {settings}, each over {folds}. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('tree'),
    features: FEATURES,
    setting: { type: 'text', label: 'setting', start: 'depth' },
    settings: { type: 'texts', label: 'values, from simple to complex', start: ['1', '2', '3', '5', '8'] },
    metric: METRIC,
    k: { type: 'number', label: 'folds', min: 2, max: 20, step: 1, start: 5 },
  },
  sentence: () =>
    'Judge {model} on {features} with {setting} = {settings} by {metric} over {k} folds by place; ask for the best, and the simplest within one standard error.',
  check: (values, columns, roles) => {
    checkFitted(values, columns, roles);
    metricFor(values.metric, roles.task);
    settingsIn(values.settings);
  },
  compute({ model, features, setting, settings, metric: key, k }, { table, roles }) {
    const request = requestFor(table, roles, { model, features });
    const metric = metricFor(key, roles.task);
    const kind = modelFamilyOf(request.model);
    const parameter = kind.parameters[setting.trim()];
    if (parameter?.type !== 'number')
      throw new SieveError('plan-value', `${kind.title} has no setting “${setting}” that is a number.`, {
        field: 'setting',
      });
    const numbers = settingsIn(settings);
    const spreads = numbers.map((value) => {
      const values = { ...request.model.values, [setting.trim()]: value };
      return spreadOf(scoresOverFolds({ ...request, model: { ...request.model, values } }, k, metric));
    });
    const means = spreads.map(({ mean }) => mean);
    const best = bestPlace(means, metric);
    const top = at(means, best);
    const near = means.filter((mean) => Math.abs(mean - top) <= ALIKE * Math.abs(top)).length;
    if (near > 1)
      throw new SieveError('no-figure', `${counted(near, 'setting')} are equally good.`, {
        field: 'settings',
      });
    const { se } = at(spreads, best);
    const simplest = means.findIndex((mean) =>
      metric.better === 'higher' ? mean >= top - se : mean <= top + se,
    );
    const asked = (key_: string, name: string, place: number): AskedNames => ({
      key: key_,
      name,
      convention: null,
      choices: numbers.map(String),
      right: [String(at(numbers, place))],
      several: false,
    });
    return {
      given: {
        ...givenModel(table, request, features),
        metric: metric.name,
        setting: setting.trim(),
        settings: numbers.join(', '),
        folds: foldWords(k),
      },
      table: null,
      asked: [
        asked('best', 'best setting', best),
        asked('simplest', 'simplest within one standard error', simplest),
      ],
    };
  },
});
