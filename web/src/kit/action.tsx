import { Button } from '@chakra-ui/react';
import type { ReactNode } from 'react';

interface ActionProps {
  readonly children: ReactNode;
  readonly onClick?: () => void;
  readonly type?: 'button' | 'submit';
  readonly plain?: boolean;
  readonly disabled?: boolean;
  readonly busy?: boolean;
}

/** A button: filled for the one thing to do next, outlined (`plain`) for the others. */
export function Action({
  children,
  onClick,
  type = 'button',
  plain = false,
  disabled = false,
  busy = false,
}: ActionProps) {
  return (
    <Button
      type={type}
      onClick={onClick}
      disabled={disabled || busy}
      aria-busy={busy}
      h="37px"
      px={4}
      fontSize="14px"
      fontWeight={700}
      borderRadius="4px"
      border="1px solid"
      borderColor="accent"
      bg={plain ? 'transparent' : 'accent'}
      color={plain ? 'accent' : 'onAccent'}
      _hover={{ opacity: 0.9 }}
      _disabled={{ opacity: 0.55, cursor: 'not-allowed' }}
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
  autoFocus = false,
}: {
  children: ReactNode;
  onClick: () => void;
  label?: string;
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
      onClick={onClick}
      autoFocus={autoFocus}
      aria-label={label}
    >
      {children}
    </Button>
  );
}
