// What Jest makes of a module: SWC's output, before it the built-in objects that numeric loops use, as constants of the
// module. Jest runs modules in a context whose globals Node 20 looks up by a call each time, which makes such loops slow.
import swc from '@swc/jest';

const BUILT_IN = [
  'Array',
  'Float64Array',
  'Int32Array',
  'Infinity',
  'Map',
  'Math',
  'NaN',
  'Number',
  'Object',
  'Set',
  'Uint8Array',
];
const CONSTANTS = `const { ${BUILT_IN.join(', ')} } = globalThis;`;

export default {
  createTransformer(options) {
    const { process, processAsync, getCacheKey } = swc.createTransformer(options);
    const before = (made) => ({ ...made, code: CONSTANTS + made.code });
    return {
      process: (source, path, request) => before(process(source, path, request)),
      processAsync: async (source, path, request) => before(await processAsync(source, path, request)),
      getCacheKey: (source, path, request) => getCacheKey(source, path, request) + CONSTANTS,
    };
  },
};
