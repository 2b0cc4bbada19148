import { chakra, Flex, Text } from '@chakra-ui/react';
import { count } from '@modest-sieve/core';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { useAnswer } from '../../api/client.js';
import { useCourseApi } from '../../api/course.js';
import { Action } from '../../kit/action.js';
import { PlanChoice, PlanSentence } from '../../kit/plan-sentence.js';
import { PlanText } from '../../kit/plan-text.js';
import { Answer, Complaint } from '../../kit/states.js';
import { Cell, Ruled } from '../../kit/table.js';
import { useDataSet } from '../data-set-page.js';

const PAGE = 20;

/** What is shown of the rows, as the page's address holds it. */
function useSelection() {
  const [search, setSearch] = useSearchParams();
  const set = (changes: Record<string, string>) =>
    setSearch(
      (old) => {
        const next = new URLSearchParams(old);
        next.delete('offset');
        for (const [key, value] of Object.entries(changes)) {
          if (value === '') next.delete(key);
          else next.set(key, value);
        }
        return next;
      },
      { replace: true },
    );
  return {
    where: search.get('where') ?? '',
    sort: search.get('sort') ?? '',
    way: search.get('way') ?? 'ascending',
    offset: Math.max(0, Math.floor(Number(search.get('offset') ?? 0)) || 0),
    set,
  };
}

/** The table's rows, those for which a condition holds and in the order of a column where asked for. */
export function RowsTable() {
  const { dataSet } = useDataSet();
  const address = useCourseApi();
  const { where, sort, way, offset, set } = useSelection();
  const query = new URLSearchParams({ offset: String(offset), limit: String(PAGE) });
  if (where !== '') query.set('where', where);
  if (sort !== '') {
    query.set('sort', sort);
    query.set('way', way);
  }
  const page = useAnswer<'RowPage'>(`${address('data-sets', dataSet.id, 'rows')}?${query.toString()}`);
  const numeric = new Set(dataSet.profile.filter((c) => c.kind === 'number').map((c) => c.name));
  const turn = (to: number) => set({ offset: to === 0 ? '' : String(to) });
  return (
    <>
      <PlanSentence label="Which rows">
        Show rows where <Where where={where} onChange={(next) => set({ where: next })} />, by{' '}
        <PlanChoice
          label="sort by"
          value={sort}
          choices={[
            { value: '', text: 'their place in the file' },
            ...dataSet.profile.map(({ name }) => ({ value: name, text: name })),
          ]}
          onChange={(next) => set({ sort: next })}
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
              onChange={(next) => set({ way: next })}
            />
          </>
        )}
        .
      </PlanSentence>
      {page.error && where !== '' ? (
        <Complaint>{page.error.message}</Complaint>
      ) : (
        <Answer of={page} what="the rows">
          {({ columns, rows, numbers, total }) => (
            <>
              <Ruled
                label="Rows"
                headings={[
                  { text: 'row', numeric: true },
                  ...columns.map((text) => ({ text, numeric: numeric.has(text) })),
                ]}
              >
                {rows.map((row, i) => (
                  <tr key={numbers[i]}>
                    <Cell numeric quiet>
                      {count(numbers[i] ?? 0)}
                    </Cell>
                    {row.map((cell, c) => (
                      <Cell key={columns[c]} numeric={numeric.has(columns[c] ?? '')} quiet={cell === null}>
                        {cell ?? 'missing'}
                      </Cell>
                    ))}
                  </tr>
                ))}
              </Ruled>
              <Flex mt={3} gap={3} align="center">
                <Action plain disabled={offset === 0} onClick={() => turn(Math.max(0, offset - PAGE))}>
                  Earlier rows
                </Action>
                <Action plain disabled={offset + PAGE >= total} onClick={() => turn(offset + PAGE)}>
                  Later rows
                </Action>
                <Text fontSize="13.5px" color="quiet" role="status">
                  {total === 0
                    ? 'No row is like that.'
                    : `${count(offset + 1)} to ${count(Math.min(total, offset + PAGE))} of ${count(total)}`}
                </Text>
              </Flex>
            </>
          )}
        </Answer>
      )}
    </>
  );
}

/** A condition that counts once it is entered, or left. */
function Where({ where, onChange }: { where: string; onChange: (where: string) => void }) {
  const [text, setText] = useState(where);
  const [seen, setSeen] = useState(where);
  if (seen !== where) {
    setSeen(where);
    setText(where);
  }
  return (
    <chakra.span
      onKeyDown={(event) => event.key === 'Enter' && onChange(text.trim())}
      onBlur={() => text.trim() !== where && onChange(text.trim())}
    >
      <PlanText label="condition" value={text} none="anything holds" code onChange={setText} />
    </chakra.span>
  );
}
