import { Text } from '@chakra-ui/react';
import type { ReactNode } from 'react';

/** A problem beside what caused it. */
export function ErrorMessage({ children }: { children: ReactNode }) {
  if (children === null || children === undefined || children === '') return null;
  return (
    <Text role="alert" mt={3} color="fails" maxW="62ch">
      <Text as="span" fontWeight={700} aria-hidden>
        ✕{' '}
      </Text>
      {children}
    </Text>
  );
}
