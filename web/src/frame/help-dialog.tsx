import { Box, chakra, CloseButton, Dialog, Portal, Text } from '@chakra-ui/react';
import { Link, useLocation } from 'react-router';
import { helpOf, type PageHelp } from './page-help.js';

const EVERYWHERE: NonNullable<PageHelp['keys']> = [
  ['Tab', 'go on to the next control'],
  ['Enter', 'press it, or follow a link'],
  ['?', 'this help'],
];

/** What the page is for and which keys it has. */
export function HelpDialog({
  role,
  isOpen,
  onChange,
}: {
  role: Parameters<typeof helpOf>[1];
  isOpen: boolean;
  onChange: (isOpen: boolean) => void;
}) {
  const { pathname } = useLocation();
  const { title, lines, keys = [], guide } = helpOf(pathname, role);
  return (
    <Dialog.Root open={isOpen} onOpenChange={({ open }) => onChange(open)} placement="top">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="sheet" color="ink" borderRadius="4px" border="1px solid" borderColor="rule">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading" fontSize="20px">
                {title}
              </Dialog.Title>
            </Dialog.Header>
            <Dialog.Body fontSize="14.5px">
              <chakra.ul pl={4} listStyle="revert">
                {lines.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </chakra.ul>
              <Text mt={4} fontWeight={700}>
                Keys
              </Text>
              <Box as="dl" display="grid" gridTemplateColumns="auto 1fr" columnGap={4}>
                {[...keys, ...EVERYWHERE].map(([key, what]) => (
                  <Box key={key} display="contents">
                    <chakra.dt fontFamily="mono" whiteSpace="nowrap">
                      {key}
                    </chakra.dt>
                    <dd>{what}</dd>
                  </Box>
                ))}
              </Box>
            </Dialog.Body>
            <Dialog.Footer justifyContent="flex-start">
              <Link to={`/help/${guide}`} onClick={() => onChange(false)}>
                Read more in the guide
              </Link>
            </Dialog.Footer>
            <Dialog.CloseTrigger asChild>
              <CloseButton size="sm" aria-label="Close the help" />
            </Dialog.CloseTrigger>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
