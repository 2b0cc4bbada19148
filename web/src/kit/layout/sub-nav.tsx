import { Flex } from '@chakra-ui/react';
import { NavLink } from 'react-router';

/** The pages of one desk, as a line of links. */
export function SubNav({
  label,
  ways,
}: {
  label: string;
  ways: readonly { readonly to: string; readonly text: string }[];
}) {
  return (
    <Flex as="nav" aria-label={label} gap={5} mt={3} fontSize="14px" wrap="wrap">
      {ways.map(({ to, text }) => (
        <NavLink key={to} to={to} end>
          {({ isActive }) => (
            <span style={isActive ? { fontWeight: 700, color: 'var(--chakra-colors-ink)' } : {}}>{text}</span>
          )}
        </NavLink>
      ))}
    </Flex>
  );
}
