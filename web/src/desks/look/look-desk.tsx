import { Outlet } from 'react-router';
import { Ways } from '../../kit/ways.js';

/** What is in the table: column by column, two columns together, all numbers with one another. */
export function LookDesk() {
  return (
    <>
      <Ways
        label="Ways of looking"
        ways={[
          { to: '.', text: 'Columns and rows' },
          { to: 'together', text: 'Two columns together' },
          { to: 'correlations', text: 'Correlations' },
        ]}
      />
      <Outlet />
    </>
  );
}
