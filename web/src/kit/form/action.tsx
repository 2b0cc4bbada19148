import { Button } from '@chakra-ui/react';
import type { ReactNode } from 'react';

interface ActionProps {
  readonly children: ReactNode;
  readonly onClick?: () => void;
  readonly type?: 'button' | 'submit';
  readonly plain?: boolean;
  readonly disabled?: boolean;
  readonly busy?: boolean;
  /** For a button that comes back where the focus was. */
  readonly autoFocus?: boolean;
}

/**
 * A button: filled for the one thing to do next, outlined (`plain`) for the others. While it is busy or disabled it keeps
 * the focus, so that who works by keyboard goes on from there.
 */
export function Action({
  children,
  onClick,
  type = 'button',
  plain = false,
  disabled = false,
  busy = false,
  autoFocus = false,
}: ActionProps) {
  const isIdle = disabled || busy;
  return (
    <Button
      type={type}
      onClick={(event) => {
        if (isIdle) event.preventDefault();
        else onClick?.();
      }}
      aria-disabled={isIdle}
      aria-busy={busy}
      autoFocus={autoFocus}
      h="37px"
      px={4}
      fontSize="14px"
      fontWeight={700}
      borderRadius="4px"
      border="1px solid"
      borderColor="accent"
      bg={plain ? 'transparent' : 'accent'}
      color={plain ? 'accent' : 'onAccent'}
      _hover={{ opacity: isIdle ? 0.55 : 0.9 }}
      opacity={isIdle ? 0.55 : 1}
      cursor={isIdle ? 'not-allowed' : 'pointer'}
    >
      {children}
    </Button>
  );
}

/** A button that reads like a link within text. */
export function TextAction({
  children,
  onClick,
  label,
  busy = false,
  autoFocus = false,
}: {
  children: ReactNode;
  onClick: () => void;
  label?: string;
  /** While something is under way that a press would have to wait for. */
  busy?: boolean;
  /** For a button that comes back where the focus was. */
  autoFocus?: boolean;
}) {
  return (
    <Button
      variant="plain"
      h="auto"
      p={0}
      minW={0}
      fontSize="inherit"
      fontWeight={700}
      color="accent"
      onClick={() => {
        if (!busy) onClick();
      }}
      aria-disabled={busy}
      opacity={busy ? 0.55 : 1}
      autoFocus={autoFocus}
      aria-label={label}
    >
      {children}
    </Button>
  );
}
