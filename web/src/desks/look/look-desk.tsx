import { Outlet } from 'react-router';
import { SubNav } from '../../kit/layout/sub-nav.js';

/** What is in the table: column by column, two columns together, all numbers with one another. */
export function LookDesk() {
  return (
    <>
      <SubNav
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
