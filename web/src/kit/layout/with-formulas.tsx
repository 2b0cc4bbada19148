import type { ComponentProps } from 'react';
import ReactMarkdown from 'react-markdown';
import rehypeKatex from 'rehype-katex';
import remarkMath from 'remark-math';

/** Formulas as MathML, which browsers draw by themselves: it needs no style sheet and is read aloud. */
const FORMULAS: NonNullable<ComponentProps<typeof ReactMarkdown>['rehypePlugins']> = [
  [rehypeKatex, { output: 'mathml', throwOnError: false }],
];

/** Markdown with formulas between dollar signs. */
export function WithFormulas({ text }: { text: string }) {
  return (
    <ReactMarkdown remarkPlugins={[remarkMath]} rehypePlugins={FORMULAS}>
      {text}
    </ReactMarkdown>
  );
}
