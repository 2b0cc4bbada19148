import { Box } from '@chakra-ui/react';
import { useEffect, useSyncExternalStore } from 'react';
import { refresh } from '../../api/client.js';
import { trouble } from '../../api/trouble.js';

const TRY_AGAIN = 3000;

/** Says what the pages wait for when the server or its database is away, and tries again until it is back. */
export function TroubleLine() {
  const sentence = useSyncExternalStore(trouble.listen, trouble.get);
  useEffect(() => {
    if (sentence === null) return;
    const timer = setInterval(() => void refresh(), TRY_AGAIN);
    return () => clearInterval(timer);
  }, [sentence]);
  return (
    <Box role="status" aria-live="polite">
      {sentence === null ? null : (
        <Box px={6} py={2} borderBottom="1px solid" borderColor="unsure" color="unsure" fontWeight={700}>
          ≈ {sentence} What was handed in is safe; this page continues by itself.
        </Box>
      )}
    </Box>
  );
}
