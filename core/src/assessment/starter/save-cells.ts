import { quoted as text } from '../../models/contract/starter-code.js';
import { modelFamilyOf } from '../../models/registry.js';
import type { Cell, StarterRequest } from './request.js';

const code = (...lines: readonly string[]): Cell => ({ kind: 'code', text: lines.join('\n') });
const words = (of: string): Cell => ({ kind: 'words', text: of });

const takes = ({ saves }: StarterRequest, format: 'onnx' | 'pmml' | 'coefficients'): boolean =>
  saves === 'any' || saves === format;

/** Whether the model is one equation, whose terms a table can hold. */
const isEquation = ({ task, model }: StarterRequest): boolean =>
  task !== 'multiclass' && modelFamilyOf(model).starter.isEquation;

const TABLE = 'The model as a table of coefficients. It gives no prediction for rows with a missing value.';

/** In Python the model is saved as a table of coefficients, and as ONNX where a converter is installed. */
export function pythonSaves(request: StarterRequest): Cell[] {
  const { features, task, positive, labels } = request;
  const isClass = task === 'binary';
  const hasCategories = features.some(({ kind }) => kind === 'category' || kind === 'boolean');
  const table = [
    words(TABLE),
    code(
      'fitted = model.steps[-1][1]',
      'terms = list(numbers)',
      ...(hasCategories
        ? [
            'encoder = model.steps[0][1].named_transformers_["categories"].steps[-1][1]',
            'for name, levels in zip(categories, encoder.categories_):',
            '    terms += [f"{name}={level}" for level in levels[1:]]',
          ]
        : []),
      'estimates = [pd.Series(fitted.intercept_).iloc[0], *fitted.coef_.ravel()]',
      ...(isClass
        ? [
            '# The log-odds of the second class, which may not be the positive one.',
            `if fitted.classes_[1] != ${text(positive ?? labels.at(-1) ?? '')}:`,
            '    estimates = [-estimate for estimate in estimates]',
          ]
        : []),
      'coefficients = pd.DataFrame({"term": ["(intercept)", *terms], "estimate": estimates})',
      'coefficients.to_csv("model.csv", index=False)',
      'coefficients',
    ),
  ];
  const onnx = [
    words('The model as ONNX, with its preparation in it. It needs the package skl2onnx.'),
    code(
      'try:',
      '    from skl2onnx import to_onnx',
      'except ImportError:',
      '    print("Install skl2onnx to save the model as ONNX.")',
      'else:',
      '    with open("model.onnx", "wb") as file:',
      '        file.write(to_onnx(model, training[numbers + categories][:1]).SerializeToString())',
    ),
  ];
  return [
    ...(takes(request, 'coefficients') && isEquation(request) ? table : []),
    ...(takes(request, 'onnx') ? onnx : []),
  ];
}

/** In R the model is saved as a table of coefficients, and as PMML where the package is installed. */
export function rSaves(request: StarterRequest): Cell[] {
  const { task, positive, labels } = request;
  const sign = task === 'binary' && labels.indexOf(positive ?? '') === 0 ? '-' : '';
  const table = [
    words(TABLE),
    code(
      'terms <- c("(intercept)", numbers, unlist(lapply(categories, function(name) {',
      '  paste0(name, "=", sort(learned$levels[[name]])[-1])',
      '})))',
      `coefficients <- data.frame(term = terms, estimate = ${sign}as.numeric(coef(model)))`,
      'write.csv(coefficients, "model.csv", row.names = FALSE)',
      'coefficients',
    ),
  ];
  const pmml = [
    words('The model as PMML. It needs the package pmml.'),
    code(
      'if (requireNamespace("pmml", quietly = TRUE)) {',
      '  pmml::save_pmml(pmml::pmml(model), "model.pmml")',
      '} else cat("Install the package pmml to save the model as PMML.\\n")',
    ),
  ];
  return [
    ...(takes(request, 'coefficients') && isEquation(request) ? table : []),
    ...(takes(request, 'pmml') ? pmml : []),
  ];
}
