import { Flex, Heading, Text } from '@chakra-ui/react';
import { Children, type ReactNode } from 'react';
import { arrive, arriveAtPage, useIsGoneTo } from './arrive.js';

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
  // A page that is loaded, or come back to, leaves the focus where the browser puts it.
  const isGoneTo = useIsGoneTo();
  return (
    <Flex align="baseline" gap={4} wrap="wrap" pt={4}>
      <title>{`${textIn(children)} · Modest Sieve`}</title>
      <Heading
        as="h1"
        fontFamily="heading"
        fontSize="29px"
        fontWeight={650}
        lineHeight={1.2}
        ref={isGoneTo ? arriveAtPage : null}
        tabIndex={-1}
        outline="none"
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

/** The title of a page that shows it in a field or nowhere, for the window and for those who hear the page. */
export function HiddenTitle({ children }: { children: string }) {
  const isGoneTo = useIsGoneTo();
  return (
    <>
      <title>{`${children} · Modest Sieve`}</title>
      <Heading as="h1" srOnly ref={isGoneTo ? arriveAtPage : null} tabIndex={-1}>
        {children}
      </Heading>
    </>
  );
}

export function Subtitle({
  children,
  arrives = false,
}: {
  children: ReactNode;
  /** Whether it takes the focus when it appears: for the result of an action. */
  arrives?: boolean;
}) {
  return (
    <Heading
      ref={arrives ? arrive : null}
      tabIndex={arrives ? -1 : undefined}
      outline="none"
      as="h2"
      fontFamily="heading"
      fontSize="18px"
      fontWeight={650}
      mt={5}
      mb={1}
    >
      {children}
    </Heading>
  );
}
