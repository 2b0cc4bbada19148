import { useState } from 'react';
import { LongTable } from '../../kit/table/long-table.js';
import { PlanChoice, PlanSentence } from '../../kit/sentence/plan-sentence.js';
import { PlanText } from '../../kit/sentence/plan-text.js';
import { Loading } from '../../kit/answer/states.js';
import { ErrorMessage } from '../../kit/layout/error-message.js';
import { useAddressed } from '../../kit/layout/use-address.js';
import { useDataSet } from '../use-data-set.js';
import { useRowPages } from './use-row-pages.js';

/** The table's rows, those for which a condition holds and in the order of a column where asked for. */
export function RowsTable() {
  const { dataSet } = useDataSet();
  const { search, change } = useAddressed();
  const [where, sort, way] = [
    search.get('where') ?? '',
    search.get('sort') ?? '',
    search.get('way') ?? 'ascending',
  ];
  const chosen = {
    way,
    ...(where === '' ? {} : { where }),
    ...(sort === '' ? {} : { sort }),
  };
  const rows = useRowPages(dataSet.address, chosen);
  const columns = dataSet.profile.map(({ name, kind }) => ({ name, numeric: kind === 'number' }));
  const identifier = dataSet.roles?.identifier ?? null;
  const isNumber = columns.some(({ name, numeric }) => name === identifier && numeric);
  const literal = (text: string) => (isNumber ? text : JSON.stringify(text));
  return (
    <>
      <PlanSentence label="Which rows">
        Show rows where{' '}
        <Entered
          label="condition"
          none="anything holds"
          code
          value={where}
          onChange={(next) => change({ where: next })}
        />
        , by{' '}
        <PlanChoice
          label="sort by"
          value={sort}
          choices={[
            { value: '', text: 'their place in the file' },
            ...dataSet.profile.map(({ name }) => ({ value: name, text: name })),
          ]}
          onChange={(next) => change({ sort: next })}
        />
        {sort === '' ? null : (
          <>
            ,{' '}
            <PlanChoice
              label="which way"
              value={way}
              choices={[
                { value: 'ascending', text: 'smallest first' },
                { value: 'descending', text: 'largest first' },
              ]}
              onChange={(next) => change({ way: next })}
            />
          </>
        )}
        .
        {identifier === null ? null : (
          <>
            {' '}
            Find {identifier}{' '}
            <Entered
              label={`find ${identifier}`}
              none="which one?"
              value=""
              onChange={(next) =>
                change({ where: next === '' ? '' : `col(${JSON.stringify(identifier)}) == ${literal(next)}` })
              }
            />
            .
          </>
        )}
      </PlanSentence>
      {rows.problem ? (
        <ErrorMessage>{rows.problem.message}</ErrorMessage>
      ) : rows.total === null ? (
        <Loading what="the rows" />
      ) : (
        <LongTable
          key={JSON.stringify(chosen)}
          label="Rows"
          columns={columns}
          rows={{ ...rows, total: rows.total }}
        />
      )}
    </>
  );
}

/** A text that counts once it is entered, or left. */
function Entered({
  label,
  none,
  code = false,
  value,
  onChange,
}: {
  label: string;
  none: string;
  code?: boolean;
  value: string;
  onChange: (value: string) => void;
}) {
  const [text, setText] = useState(value);
  const [seen, setSeen] = useState(value);
  if (seen !== value) {
    setSeen(value);
    setText(value);
  }
  return (
    <PlanText
      label={label}
      value={text}
      none={none}
      code={code}
      onChange={setText}
      onKey={(event) => event.key === 'Enter' && onChange(text.trim())}
      onLeave={() => text.trim() !== value && onChange(text.trim())}
    />
  );
}
