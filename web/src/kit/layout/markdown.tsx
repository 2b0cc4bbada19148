import { Box } from '@chakra-ui/react';
import type { ComponentProps } from 'react';
import ReactMarkdown from 'react-markdown';
import rehypeKatex from 'rehype-katex';
import remarkMath from 'remark-math';

/** Formulas as MathML, which browsers draw by themselves: it needs no style sheet and is read aloud. */
const FORMULAS: NonNullable<ComponentProps<typeof ReactMarkdown>['rehypePlugins']> = [
  [rehypeKatex, { output: 'mathml', throwOnError: false }],
];

/** A brief as it reads. Raw markup within it is shown as text, never run; links leave no trace. */
export function Brief({ text }: { text: string }) {
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
      <ReactMarkdown remarkPlugins={[remarkMath]} rehypePlugins={FORMULAS}>
        {text.replace(/(\d) %/g, '$1\u00a0%')}
      </ReactMarkdown>
    </Box>
  );
}
