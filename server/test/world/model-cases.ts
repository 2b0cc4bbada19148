import type { Question } from '@modest-sieve/core/assessment';
import { predictionsBy } from './class.js';

/** Cases whose class depends on the sum of two columns, with every tenth the other way round. */
export const CASES = `id,x,z,y\n${Array.from({ length: 240 }, (_, i) => {
  const [x, z] = [((i * 37) % 61) / 30 - 1, ((i * 53) % 71) / 35 - 1];
  const isYes = x + z > 0 !== (i % 10 === 0);
  return `c${i},${x.toFixed(3)},${z.toFixed(3)},${isYes ? 'yes' : 'no'}`;
}).join('\n')}\n`;

export const QUESTION: Extract<Question, { kind: 'model' }> = {
  ...predictionsBy('accuracy'),
  kind: 'model',
  title: 'Hand in your model',
  values: {
    takes: 'any',
    link: 'logit',
    without: [],
    features: 'kept',
    coefficients: 'ignored',
    overfitted: 100,
  },
};

export const GOOD = 'term,estimate\n(intercept),0\nx,1\nz,1\n';

export const TREE = `<PMML version="4.4" xmlns="http://www.dmg.org/PMML-4_4"><Header/><DataDictionary>
<DataField name="x" optype="continuous" dataType="double"/><DataField name="y" optype="categorical" dataType="string"/>
</DataDictionary><TreeModel functionName="classification"><MiningSchema><MiningField name="x"/><MiningField name="y" usageType="target"/></MiningSchema>
<Node score="no"><True/><Node score="yes"><SimplePredicate field="x" operator="greaterThan" value="0"/></Node><Node score="no"><True/></Node></Node></TreeModel></PMML>`;
