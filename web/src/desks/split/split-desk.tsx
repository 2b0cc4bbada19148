import { Link, Outlet } from 'react-router';
import { Empty } from '../../kit/answer/states.js';
import { SubNav } from '../../kit/layout/sub-nav.js';
import { useDataSet } from '../use-data-set.js';

/** How rows are split, or assigned to folds; each has a page of its own. */
export function SplitDesk() {
  const { dataSet } = useDataSet();
  if (!dataSet.roles) {
    return (
      <Empty title="First, what is to be predicted?">
        A split needs to know the target. <Link to="../look">Mark it at Look</Link>, then come back.
      </Empty>
    );
  }
  return (
    <>
      <SubNav
        label="Parts or folds"
        ways={[
          { to: '.', text: 'Parts: set rows aside' },
          { to: 'folds', text: 'Folds: test every row in turn' },
        ]}
      />
      <Outlet />
    </>
  );
}
