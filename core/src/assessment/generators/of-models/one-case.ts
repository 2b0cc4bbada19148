import { SieveError } from '../../../foundation/errors.js';
import { at } from '../../../foundation/numbers.js';
import { caseFrom } from '../../../evaluation/trials/one-case.js';
import { chancesOf } from '../../../models/contract/chances.js';
import { predictRows } from '../../../models/fitted.js';
import { generator } from '../generator.js';
import { refuseManyClasses } from '../of-data/target-by-value.js';
import { checkFitted, FEATURES, fitTo, givenModel, modelParameter } from './fitted-model.js';

export const oneCase = generator({
  key: 'one-case',
  title: 'what a model says of a case',
  about:
    'The predicted number, or the probability of the positive class, of one case that is described by some of its values; all other features are missing, and so filled as in training.',
  text: 'Fit {model} of **{target}** on {features} to the training rows, and predict this case: {case}. {notes}',
  from: 'data',
  of: 'models',
  parameters: {
    model: modelParameter('linear'),
    features: FEATURES,
    cells: { type: 'pairs', label: 'values of the case' },
  },
  sentence: () => 'Fit {model} on {features} to the training rows, and ask what it says of the case {cells}.',
  check: (values, columns, roles) => {
    checkFitted(values, columns, roles);
    refuseManyClasses(roles);
  },
  compute({ model, features, cells }, { table, roles }) {
    refuseManyClasses(roles);
    const { fitted, request } = fitTo(table, roles, { model, features });
    const stray = cells.find(([name = '']) => !request.features.includes(name));
    if (stray)
      throw new SieveError('no-figure', `${stray[0] ?? ''} is none of the features.`, { field: 'cells' });
    const { one } = caseFrom(
      fitted,
      table,
      Object.fromEntries(cells.map(([name = '', text = '']) => [name, text])),
    );
    const predicted = predictRows(fitted, one, Int32Array.of(0));
    const { positive } = fitted;
    const value = at(
      roles.task === 'regression' ? at(predicted, 0) : at(chancesOf(predicted, positive), positive ?? 0),
      0,
    );
    const missing = request.features.filter((name) => !cells.some(([own]) => own === name));
    return {
      given: {
        ...givenModel(table, request, features),
        case: [
          ...cells.map(([name = '', text = '']) => `${name} = ${text}`),
          ...(missing.length > 0 ? [`${missing.join(', ')} missing`] : []),
        ].join('; '),
      },
      table: null,
      asked: [
        {
          key: 'case',
          name: roles.task === 'regression' ? 'prediction' : `probability of “${roles.positive ?? ''}”`,
          convention: null,
          figure: { value },
        },
      ],
    };
  },
});
