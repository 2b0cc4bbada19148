import { Flex } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Link, NavLink, Outlet } from 'react-router';
import { Empty } from '../../kit/states.js';
import { useDataSet } from '../data-set-page.js';

/** How rows are parted, or dealt into folds; each has a page of its own. */
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
      <Flex as="nav" aria-label="Parts or folds" gap={5} mt={3} fontSize="14px">
        <Way to=".">Parts: set rows aside</Way>
        <Way to="folds">Folds: test every row in turn</Way>
      </Flex>
      <Outlet />
    </>
  );
}

function Way({ to, children }: { to: string; children: ReactNode }) {
  return (
    <NavLink to={to} end>
      {({ isActive }) => (
        <span style={isActive ? { fontWeight: 700, color: 'var(--chakra-colors-ink)' } : {}}>{children}</span>
      )}
    </NavLink>
  );
}
