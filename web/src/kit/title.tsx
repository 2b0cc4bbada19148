import { Flex, Heading, Text } from '@chakra-ui/react';
import { Children, type ReactNode } from 'react';

/** The words of what a title is made of. */
const textIn = (node: ReactNode): string =>
  Children.toArray(node)
    .map((child) => (typeof child === 'string' || typeof child === 'number' ? String(child) : ''))
    .join('');

/** The title of a page with what is to be known of it beside. */
export function Title({
  children,
  aside,
  actions,
}: {
  children: ReactNode;
  aside?: ReactNode;
  actions?: ReactNode;
}) {
  return (
    <Flex align="baseline" gap={4} wrap="wrap" pt={4}>
      <title>{`${textIn(children)} · Modest Sieve`}</title>
      <Heading
        as="h1"
        fontFamily="heading"
        fontSize="29px"
        fontWeight={650}
        lineHeight={1.2}
        overflowWrap="anywhere"
      >
        {children}
      </Heading>
      {aside ? (
        <Text fontSize="13.5px" color="quiet">
          {aside}
        </Text>
      ) : null}
      {actions ? (
        <Flex gap={3} wrap="wrap" fontSize="13.5px" color="quiet">
          {actions}
        </Flex>
      ) : null}
    </Flex>
  );
}

export function Subtitle({ children }: { children: ReactNode }) {
  return (
    <Heading as="h2" fontFamily="heading" fontSize="18px" fontWeight={650} mt={5} mb={1}>
      {children}
    </Heading>
  );
}
