import { Box } from '@chakra-ui/react';
import { Suspense } from 'react';
import ReactMarkdown from 'react-markdown';
import { lazily } from '../lazily.js';

/** What draws formulas is large: it is fetched where a text may have one. */
const WithFormulas = lazily(() => import('./with-formulas.js'), 'WithFormulas');

/** A brief as it reads. Raw markup within it is shown as text, never run; links leave no trace. */
export function Brief({ text }: { text: string }) {
  const written = text.replace(/(\d) %/g, '$1\u00a0%');
  return (
    <Box
      fontFamily="heading"
      fontSize="16.5px"
      lineHeight={1.6}
      maxW="68ch"
      css={{
        '& p + p': { marginTop: '0.7em' },
        '& ul, & ol': { paddingLeft: '1.4em', listStyle: 'revert' },
        '& h1, & h2, & h3': { fontWeight: 650 },
      }}
    >
      {written.includes('$') ? (
        <Suspense fallback={<ReactMarkdown>{written}</ReactMarkdown>}>
          <WithFormulas text={written} />
        </Suspense>
      ) : (
        <ReactMarkdown>{written}</ReactMarkdown>
      )}
    </Box>
  );
}
